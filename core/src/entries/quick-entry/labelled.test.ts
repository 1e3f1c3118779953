import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readClock } from '../../time/index';
import { readLine, type LineContext, type LineJob, type UnderstoodLine } from '.';
import { lineProject as project } from '../../testing/line';

// labelled-lines.txt holds lines of several trades with what each means, written by hand. Two figures count: how many are read
// wholly right, and how many would be booked on another client without a question. docs/time.md publishes them.

const task = (id: string, own: string, of: LineJob): LineJob => ({
  ...of,
  id,
  taskId: id,
  own,
  around: [of.own, ...of.around],
  name: `${of.name} / ${own}`,
});

const rig = project('rig', 'Winter season rig', 'Quayside Playhouse', 'QP-26');
const context: LineContext = {
  jobs: [
    rig,
    project('foyer', 'Foyer refresh', 'Quayside Playhouse'),
    project('old', 'Summer rig', 'Quayside Playhouse', 'QP-25', 'finished'),
    project('bill', 'Spring double bill', 'Bramble Street Dance'),
    project('gallery', 'Museum gallery 3', 'Fernhill Folk Museum', 'FF-3'),
    project('bridge', 'Footbridge lighting', 'Otterbourne Town Council'),
    project('salon', 'Salon d’hiver', 'Maison Clairval'),
    project('pine', 'Amphitheater stage', 'Pinecrest Amphitheater'),
    project('mill12', '12 Mill Lane', 'Mill Lane residents'),
    project('church', '3/4 Church Row', 'Saltmere Homes'),
    project('doors', 'Doors', 'Hadley Hall', 'HH-2'),
    project('mill', 'Sash windows', 'The Mill Trust'),
    project('booking', 'Booking site', 'Tidewheel Ferries', 'TF-104'),
    project('timetable', 'Timetable app', 'Tidewheel Ferries', 'TF-110'),
    project('yearend', 'Year-end accounts', 'Quince & Daughters'),
    project('vat', 'VAT return', 'Quince & Daughters'),
    project('guide', 'Field guide', 'Morgenrot Books'),
    project('portraits', 'Portrait day', 'Wren Family'),
    task('focus', 'Focus notes', rig),
  ],
  services: [
    { id: 'design', name: 'Lighting design' },
    { id: 'plans', name: 'Plans and sections' },
    { id: 'desk', name: 'Programming at the desk' },
    { id: 'site', name: 'Site and focus' },
    { id: 'meetings', name: 'Meetings' },
  ],
  // A Thursday.
  today: '2026-11-12',
};

interface Labelled {
  text: string;
  /** What the line should come to, part by part. */
  means: Record<string, string>;
}

const labelled: Labelled[] = readFileSync(new URL('./labelled-lines.txt', import.meta.url), 'utf8')
  .split('\n')
  .filter((row) => row.trim() !== '' && !row.startsWith('#'))
  .map((row) => {
    const [text, parts = ''] = row.split(' =>') as [string, string];
    const means: Record<string, string> = {};
    for (const part of parts.split(' | ').map((each) => each.trim())) {
      const [key, value] = part.split(/=(.*)/) as [string, string | undefined];
      if (/^\d+(?:-\d+)?$/.test(key)) means.length = key;
      else if (key) means[key] = value ?? 'yes';
    }
    return { text, means };
  });

/** What a line was understood as, in the words of the labels. */
function meaningOf(line: UnderstoodLine): Record<string, string> {
  if (line.questions.length > 0) return { ask: 'yes' };
  const { length, start, offer } = line;
  const parts: Record<string, string | null | undefined> = {
    length:
      length && (length.kind === 'span' ? `${length.fromMinute}-${length.toMinute}` : String(length.seconds / 60)),
    day: line.day,
    job: line.taskId ?? line.projectId,
    service: line.serviceId,
    note: line.note,
    bill: line.billableSeconds === null ? null : String(line.billableSeconds / 60),
    start: start && ('minutesAgo' in start ? String(start.minutesAgo) : String(start.atMinute)),
    unlisted: line.unlisted,
    offer: offer?.jobs.slice().sort().join(','),
    closed: line.closed && context.jobs.find((job) => job.name === line.closed!.name)!.id,
  };
  return Object.fromEntries(Object.entries(parts).filter(([, value]) => value)) as Record<string, string>;
}

function wanted({ ask, ...means }: Record<string, string>): Record<string, string> {
  if (ask) return { ask };
  const { offer, start } = means;
  return {
    ...means,
    ...(offer ? { offer: offer.split(',').sort().join(',') } : {}),
    ...(start?.includes(':') ? { start: String(readClock(start)) } : {}),
  };
}

const clientOf = (id: string | undefined) => context.jobs.find((job) => job.id === id)?.around.at(-1);
const read = labelled.map(({ text, means }) => ({
  text,
  got: meaningOf(readLine(text, context)),
  want: wanted(means),
}));
const right = ({ got, want }: (typeof read)[number]) =>
  JSON.stringify(Object.entries(got).sort()) === JSON.stringify(Object.entries(want).sort());

describe('lines as people write them', () => {
  it('are at least 200', () => {
    expect(labelled.length).toBeGreaterThanOrEqual(200);
  });

  it('are read wholly right, 98 of 100', () => {
    const wrong = read.filter((each) => !right(each));
    expect(wrong.slice(0, wrong.length / labelled.length <= 0.02 ? 0 : undefined)).toEqual([]);
  });

  it('never choose a job of another client without a question', () => {
    const astray = read.filter(({ got, want }) => got.job && clientOf(got.job) !== clientOf(want.job));
    expect(astray).toEqual([]);
  });
});
