import {
  captureDefaults,
  emptyBook,
  formStretches,
  Leads,
  lessonsOf,
  Likeness,
  offerDay,
  placeOn,
  RuleBook,
  TrailArrays,
  type Outcome,
  type Placing,
  type SiftBook,
  type SiftRow,
} from '@half-penny/core/capture';
import type { Instant } from '@half-penny/core/time';
import { makeDemo, titlesAlone, watchedDay, wordsDay, workingDaysBefore, type Watched } from '@half-penny/demo';
import { compare, count as countOf, note } from './measure';

const ZONE = 'Europe/London';
const SEEDS = countOf(5, 1);
const LEARNED_DAYS = 10;
const MEASURED_DAYS = 5;
const BINS = 10;
const MINUTE = 60_000;
/** What a true spell of work takes at least, and what may come in between without ending it. */
const SPELL = 10 * MINUTE;
const BREAK = 20 * MINUTE;
/** A row with more than this of a second job holds two. */
const MIXED = 5 * MINUTE;
/** Presses that a right offer takes, and that another job takes: to open the list, two letters, and Enter. */
const TAKEN = 1;
const CHOSEN = 4;

/** A desk that is watched: its day, by date, by how far its story is, and by seed. */
export type Desk = (day: string, turn: number, seed: number) => Watched[];

export const desks: Readonly<Record<string, Desk>> = {
  'lighting design': watchedDay,
  'lighting design, titles alone': (...given) => titlesAlone(watchedDay(...given)),
  writing: wordsDay,
  'writing, titles alone': (...given) => titlesAlone(wordsDay(...given)),
};

export interface Quality {
  /** Share of the time whose first offer was right. */
  time: number;
  /** Share of the rows whose first offer was what most of their time truly was. */
  rows: number;
  /** By how much confidence differs from what comes true, weighted by time (expected calibration error over ten bins). */
  calibration: number;
  /** Rows for each true spell of ten minutes and more. */
  perSpell: number;
  /** Share of the rows that hold two jobs. */
  mixed: number;
  /** Presses a day until every row has its true job. */
  presses: number;
}

/** How offers are tried: on which weeks, after how many days that were placed, and with what is known of the work. */
interface Trial {
  seeds?: number;
  first?: number;
  learned?: number;
  book?: SiftBook;
}

/**
 * Offers on labelled weeks, each learned from the two weeks before it: what was offered there was placed row by row as it truly was, as
 * a person would; then a week is guessed at day by day, and each day learned after it was guessed.
 */
export function proposalQuality(
  desk: Desk,
  { seeds = SEEDS, first = 408, learned = LEARNED_DAYS, book = noBook }: Trial = {},
): Quality {
  const leads = new Leads(book, ZONE);
  const measured = learned === 0 ? 1 : MEASURED_DAYS;
  const bins = Array.from({ length: BINS }, () => ({ time: 0, sure: 0, right: 0 }));
  const all = { time: 0, right: 0, rows: 0, rightRows: 0, spells: 0, mixed: 0, presses: 0 };
  for (let seed = 0; seed < seeds; seed++) {
    const days = workingDaysBefore(`2026-${String(3 + seed).padStart(2, '0')}-20`, learned + measured);
    const placings: Placing[] = [];
    days.forEach((day, turn) => {
      const watched = desk(day, turn, first + seed);
      const offered = offers(watched, placings, leads);
      if (turn >= learned) {
        all.spells += spells(watched);
        for (const row of offered) {
          const times = truthsOf(row, watched);
          const [truth, second] = times;
          const said = row.offer ? nameOf(row.offer.outcome, book) : null;
          const time = times.reduce((sum, each) => sum + each.time, 0);
          const right = times.find((each) => each.truth === said)?.time ?? 0;
          const confidence = row.offer?.confidence ?? 0;
          const bin = bins[Math.min(BINS - 1, Math.floor(confidence * BINS))]!;
          bin.time += time;
          bin.sure += confidence * time;
          if (row.offer?.confidence) bin.right += right;
          all.time += time;
          all.right += right;
          all.rows++;
          if (said === truth!.truth) all.rightRows++;
          if (second && second.time > MIXED) all.mixed++;
          all.presses += said === truth!.truth ? TAKEN : CHOSEN;
        }
      }
      for (const row of offered) placings.push(placed(row, truthsOf(row, watched)[0]!.truth, day, placings.length));
    });
  }
  return {
    time: all.right / all.time,
    rows: all.rightRows / all.rows,
    calibration: bins.reduce((sum, bin) => sum + Math.abs(bin.sure - bin.right), 0) / all.time,
    perSpell: all.rows / all.spells,
    mixed: all.mixed / all.rows,
    presses: all.presses / (seeds * measured),
  };
}

// Jobs by their labels alone: what a name or an address would tell on the first day is left out, so that only likeness is measured.
const noBook: SiftBook = { ...emptyBook, workspaceId: 'w' };

const outcomeFor = (truth: string): Outcome =>
  truth === 'private'
    ? { act: 'private' }
    : placeOn({ workspaceId: 'w', projectId: null, taskId: null, unlisted: truth });

function nameOf(outcome: Outcome, { projects }: SiftBook): string {
  if (outcome.act !== 'place') return outcome.act;
  return projects.find((each) => each.id === outcome.projectId)?.name ?? outcome.unlisted;
}

/** A day's rows with what is offered, as the person meets them. */
function offers(watched: readonly Watched[], placings: readonly Placing[], leads: Leads): SiftRow[] {
  const columns = new TrailArrays();
  for (const { activity } of watched) columns.add(activity);
  const likeness = new Likeness(lessonsOf(placings), leads);
  const days = formStretches(columns, {
    settings: captureDefaults,
    zone: ZONE,
    rules: new RuleBook([]),
    placings: [],
    likeness,
  });
  return days
    .flatMap((day) => offerDay(day.stretches, likeness, ZONE))
    .filter((row) => truthsOf(row, watched).length > 0);
}

const placed = (row: SiftRow, truth: string, day: string, at: number): Placing => ({
  id: `${at}`,
  day,
  spans: row.stretch.spans,
  outcome: outcomeFor(truth),
  note: '',
  billableSeconds: null,
  features: row.features,
  at,
});

/** What the time of a row truly was, the most first. */
function truthsOf({ stretch }: SiftRow, watched: readonly Watched[]): { truth: string; time: number }[] {
  const sums = new Map<string, number>();
  for (const { activity, truth } of watched) {
    if (truth === 'away') continue;
    for (const span of stretch.spans) {
      const time = Math.min(span.end, activity.to) - Math.max(span.start, activity.from);
      if (time > 0) sums.set(truth, (sums.get(truth) ?? 0) + time);
    }
  }
  return [...sums].map(([truth, time]) => ({ truth, time })).sort((a, b) => b.time - a.time);
}

/** How many spells of ten minutes a day truly has: work at one job, however often something short comes in between. */
function spells(watched: readonly Watched[]): number {
  const open = new Map<string, { spent: number; end: Instant }>();
  let found = 0;
  const close = ({ spent }: { spent: number }) => {
    if (spent >= SPELL) found++;
  };
  for (const { activity, truth } of watched) {
    if (truth === 'away') continue;
    const { from, to }: { from: Instant; to: Instant } = activity;
    const known = open.get(truth);
    if (known && from - known.end <= BREAK) {
      known.spent += to - from;
      known.end = Math.max(known.end, to);
    } else {
      if (known) close(known);
      open.set(truth, { spent: to - from, end: to });
    }
  }
  for (const each of open.values()) close(each);
  return found;
}

/** The demo's clients, projects and contacts: at the desk of lighting design its jobs are called as there. */
async function demoBook(): Promise<SiftBook> {
  const store = await makeDemo({ now: Date.UTC(2026, 5, 30, 12) });
  return {
    ...noBook,
    clients: store.rows('clients'),
    projects: store.rows('projects'),
    contacts: store.rows('contacts'),
  };
}

/** Prints how good offers are, desk by desk. */
export async function benchProposals(): Promise<void> {
  note(`${SEEDS} weeks of each desk, labelled; each learned from the ten days before it`);
  for (const [name, desk] of Object.entries(desks)) {
    const quality = proposalQuality(desk);
    const line = (what: string, own: string, other: string, ratio: number, aim: number, atLeast = false) =>
      compare({ what: `${name}: ${what}`, own, peer: 'aim', other, ratio, aim, atLeast });
    const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;
    const plain = (value: number) => `${Math.round(value * 100) / 100}`;
    line('time whose first offer is right', percent(quality.time), '95 %', quality.time, 0.95, true);
    line('rows whose first offer is right', percent(quality.rows), '90 %', quality.rows, 0.9, true);
    line('calibration error', percent(quality.calibration), '4 %', quality.calibration, 0.04);
    line('rows for each spell of ten minutes', plain(quality.perSpell), '1.4', quality.perSpell, 1.4);
    line('rows that hold two jobs', percent(quality.mixed), '6 %', quality.mixed, 0.06);
    line('presses a day', plain(quality.presses), '25', quality.presses, 25);
  }
  const book = await demoBook();
  for (const name of ['lighting design', 'lighting design, titles alone']) {
    const [known, unknown] = [book, noBook].map((each) => proposalQuality(desks[name]!, { learned: 0, book: each }));
    const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;
    const what = `${name}, on the first day with nothing placed: time whose first offer is right, with clients and contacts known`;
    compare({
      what,
      own: percent(known!.time),
      peer: 'without',
      other: percent(unknown!.time),
      ratio: known!.time,
      aim: null,
    });
  }
}
