import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readLine, writeLine, type LineContext } from '.';
import { lineProject as project } from '../../testing/line';

const context: LineContext = {
  jobs: [
    project('rig', 'Winter season rig', 'Quayside Playhouse', 'QP-26'),
    project('gallery', 'Museum gallery 3', 'Fernhill Folk Museum', 'FF-3'),
    project('bill', 'Spring double bill', 'Bramble Street Dance'),
    project('foyer', 'Foyer refresh', 'Quayside Playhouse'),
    {
      ...project('rig', 'Focus notes', 'Quayside Playhouse'),
      id: 'plot',
      taskId: 'plot',
      around: ['Winter season rig', 'Quayside Playhouse'],
      name: 'Quayside Playhouse / Winter season rig / Focus notes',
    },
  ],
  services: [
    { id: 'design', name: 'Lighting design' },
    { id: 'plans', name: 'Plans and sections' },
    { id: 'site', name: 'Site and focus' },
  ],
  // A Thursday.
  today: '2026-11-12',
};
const read = (text: string) => readLine(text, context);
const HOUR = 3600;

describe('a line as one would write it to a colleague', () => {
  it.each([
    ['1:30 QP-26, plot sheet 4', { seconds: 5400, projectId: 'rig', note: 'plot sheet 4' }],
    [
      '2h yesterday for museum gallery 3, plans, lux study',
      { seconds: 2 * HOUR, day: '2026-11-11', projectId: 'gallery', serviceId: 'plans', note: 'lux study' },
    ],
    ['1h focus notes, ladders', { seconds: HOUR, projectId: 'rig', taskId: 'plot', note: 'ladders' }],
    ['9-10:30 spring double bill cue list', { seconds: 5400, projectId: 'bill', note: 'cue list' }],
    [
      'rig plan for foyer 45m not billable',
      { seconds: 2700, projectId: 'foyer', note: 'rig plan', billableSeconds: 0 },
    ],
    [
      '2 of 3 h billable mon QP-26',
      { seconds: 3 * HOUR, billableSeconds: 2 * HOUR, day: '2026-11-09', projectId: 'rig' },
    ],
    [
      '3h 12 nov, 1 h billable, fernhill',
      { seconds: 3 * HOUR, day: '2026-11-12', billableSeconds: HOUR, projectId: 'gallery' },
    ],
    ['from 9 to 11:15 on tue site visit', { seconds: 8100, day: '2026-11-10', note: 'site visit' }],
    ['1 h 30 last thu quayside foyer', { seconds: 5400, day: '2026-11-05', projectId: 'foyer' }],
    ['2 plot sheets', { seconds: 2 * HOUR, note: 'plot sheets' }],
    ['gallery 3', { seconds: null, projectId: 'gallery', note: '' }],
    ['1.5 job HH-7 Hadley Hall', { seconds: 5400, projectId: null, unlisted: 'HH-7 Hadley Hall' }],
    ['20m "lunch for quayside"', { seconds: 1200, projectId: null, note: 'lunch for quayside' }],
    ['3/12 1,5 h plans', { seconds: 5400, day: '2026-12-03', serviceId: 'plans' }],
    ['phone call', { seconds: null, note: 'phone call', projectId: null }],
    ['tea on 31 feb', { day: null, note: 'tea on 31 feb' }],
  ])('reads “%s”', (text, expected) => {
    const { length, ...line } = read(text);
    expect({ ...line, seconds: length?.seconds ?? null }).toMatchObject(expected);
  });

  it('reads where a timer is to start', () => {
    expect(read('cue list for bramble 12 minutes ago').start).toEqual({ minutesAgo: 12 });
    expect(read('quayside since 9:15').start).toEqual({ atMinute: 555 });
    expect(read('quayside started 5 m ago, tea').note).toContain('tea');
  });

  it('shows what it understood in the order it was typed, and leaves nothing out', () => {
    const text = 'plot sheet 4 for fernhill, 1:30 yesterday, plans';
    const { tokens } = read(text);
    expect(tokens.map((token) => token.kind)).toEqual(['note', 'job', 'length', 'day', 'service']);
    expect(tokens.map((token) => text.slice(token.from, token.to).trim())).toEqual([
      'plot sheet 4',
      'for fernhill',
      '1:30',
      'yesterday',
      'plans',
    ]);
  });

  it('offers other jobs that the same words fit', () => {
    expect(read('1h for quayside')).toMatchObject({ projectId: null, offer: { jobs: ['rig', 'foyer'], note: '' } });
  });

  it('asks which of two lengths it took, and every answer is read without a question', () => {
    const [question] = read('1h tea 2h').questions;
    expect(question?.answers.map((each) => each.says)).toEqual(['1 h', '2 h', '3 h together']);
    const answered = question!.answers.map(({ text }) => read(text));
    expect(answered.map(({ length, note }) => [length?.seconds, note])).toEqual([
      [HOUR, 'tea 2h'],
      [2 * HOUR, '1h tea'],
      [3 * HOUR, 'tea'],
    ]);
  });

  it.each([
    ['1:75 foyer refresh', ['2 h 15 min', '1 h 45 min', 'part of the note']],
    ['45 museum', ['45 min', 'part of the note']],
    ['1.5x foyer refresh', ['1 h 30 min', '1 min 30 s', 'part of the note']],
    ['31 feb tea', ['31 min', 'part of the note']],
  ])('asks what “%s” means', (text, answers) => {
    const { questions } = read(text);
    expect(questions.map((each) => each.answers.map(({ says }) => says))).toEqual([answers]);
    for (const { text: answer } of questions[0]!.answers) expect(read(answer).questions).toEqual([]);
  });

  it('loses no word, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (text) => {
        const { tokens } = read(text);
        const covered = new Set<number>();
        for (const token of tokens) {
          for (let at = token.from; at < token.to; at++) {
            expect(covered.has(at)).toBe(false);
            covered.add(at);
          }
        }
        for (let at = 0; at < text.length; at++) {
          if (/[\p{L}\p{N}]/u.test(text[at]!)) expect(covered.has(at)).toBe(true);
        }
      }),
    );
  });

  it('gives the same when what was understood is written out and read again', () => {
    const line = fc.record({
      length: fc.oneof(
        fc
          .integer({ min: 60, max: 23 * HOUR })
          .map(
            (seconds) => `${Math.floor(seconds / HOUR)}:${String(Math.floor((seconds % HOUR) / 60)).padStart(2, '0')}`,
          ),
        fc
          .tuple(fc.integer({ min: 0, max: 11 }), fc.integer({ min: 12, max: 23 }))
          .map(([from, to]) => `${from}:15-${to}:00`),
      ),
      day: fc.constantFrom('', 'yesterday', 'mon', '12 nov', '2026-02-03'),
      job: fc.constantFrom('', 'for foyer refresh', 'for bramble', 'job HH-7'),
      service: fc.constantFrom('', 'plans', 'site and focus'),
      note: fc.constantFrom('', 'plot sheet 4', 'lamp order'),
      billable: fc.constantFrom('', 'not billable', '5 min billable'),
    });
    fc.assert(
      fc.property(line, (parts) => {
        const once = read(Object.values(parts).filter(Boolean).join(', '));
        const { tokens: _once, offer: _a, ...said } = once;
        const { tokens: _again, offer: _b, ...again } = read(writeLine(once, context));
        expect(again).toEqual(said);
      }),
    );
  });
});
