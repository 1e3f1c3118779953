import {
  attentionOf,
  behindRow,
  documentFamilies,
  documentTimes,
  featuresOf,
  formStretches,
  habitsOf,
  heatMap,
  inOrder,
  Leads,
  jobKeyOf,
  lessonsOf,
  Likeness,
  lookingAt,
  offerDay,
  pageInSmall,
  RuleBook,
  timeBy,
  timeTakers,
  TrailArrays,
  usualDay,
  weightedShare,
  type DayOfStretches,
  type DocumentTime,
  type Habits,
  type LookingAt,
  type PageInSmall,
  type Placing,
  type PlacingRule,
  type Share,
  type SiftBook,
  type SiftRow,
  type Stretch,
  type Taker,
  type WeightGroup,
} from '@half-penny/core/capture';
import { shareOut } from '@half-penny/core/money';
import type { Noticed } from '@half-penny/core/reports';
import {
  addDays,
  boundsOfDay,
  daysBetween,
  type Day,
  type Instant,
  type Interval,
  type Zone,
} from '@half-penny/core/time';
import { readActivityLines, type LinesRead } from '@half-penny/formats/activity';
import { expose } from 'comlink';
import { deviceOfFile, keepActivities, readSettings, trail } from '../data/trail';
import {
  columnsOf,
  placeOf,
  placesOfFiles,
  type PlacedDocument,
  type Unclear,
  type UnclearTitle,
} from './trail-documents';

// Activity becomes stretches here, off the page: reading the trail, weighing rules, learning from what was placed.

export interface SiftQuery {
  from: Day;
  to: Day;
  zone: Zone;
  book: SiftBook;
  /** Times that are recorded and were not posted from stretches. */
  taken: readonly Interval[];
  /** Shows what was seen in recorded time, too. */
  covered: boolean;
}

export interface SiftDay {
  day: Day;
  rows: SiftRow[];
  away: Interval[];
  /** Seconds seen in time that is recorded already, and so not offered. */
  hidden: number;
}

/** Days, as they are formed for a workspace. */
export type Range = Pick<SiftQuery, 'from' | 'to' | 'zone' | 'book'>;

/** What one looks back on. */
export interface LookBackQuery extends Range {
  /** Only what is on this project, "not work" or "not placed"; everything where null. */
  only: string | null;
}

export interface Looked {
  by: Record<LookingAt, Share[]>;
  heat: number[][];
  seen: number;
  spent: { percent: number | null; groups: { id: string; seen: number }[] };
  /** The last days of it, up to seven, each in small. */
  pages: PageInSmall[];
  habits: Habits;
  takers: Taker[];
  /** What it can be narrowed to: projects, "not work" and "not placed", of everything that was seen; the most first. */
  narrow: { key: string; seen: number }[];
  /** The same number of days before; of one day a usual day of the four weeks before it. */
  against: { from: Day; to: Day; days: number; seen: number; jobs: ReadonlyMap<string, number> };
}

/** What is behind a row of a list: a stretch, with the row's own time in it. */
export interface BehindRow {
  id: string;
  day: Day;
  start: Instant;
  end: Instant;
  seen: number;
  job: string;
  name: string;
}

/** A piece of attention as it was. */
export interface Minute {
  start: Instant;
  end: Instant;
  name: string;
  /** The program, or who took part. */
  with: string;
}

export interface RuleEffect {
  /** Milliseconds it would have matched, and of how many stretches. */
  seen: number;
  stretches: number;
  /** What of that other rules place now, by their ids. */
  takes: { ruleId: string; seen: number }[];
  /** What was caught, the most first. */
  examples: { name: string; seen: number }[];
}

const MOST_SHOWN = 200;

async function formed(
  bounds: Interval,
  zone: Zone,
  book?: SiftBook,
  taken: readonly Interval[] = [],
  rules?: readonly PlacingRule[],
): Promise<{ days: DayOfStretches[]; likeness: Likeness }> {
  const [columns, settings, placings, stored] = await Promise.all([
    columnsOf(bounds),
    readSettings(),
    trail.placings.toArray(),
    trail.rules.toArray(),
  ]);
  const likeness = new Likeness(lessonsOf(placings), new Leads(book, zone, settings.ownAddresses));
  const days = formStretches(columns, {
    settings,
    zone,
    rules: new RuleBook(rules ?? stored),
    placings,
    taken,
    likeness,
  });
  return { days: days.filter((day) => boundsOfDay(day.day, zone).start >= bounds.start), likeness };
}

const boundsOf = ({ from, to, zone }: Pick<SiftQuery, 'from' | 'to' | 'zone'>): Interval => ({
  start: boundsOfDay(from, zone).start,
  end: boundsOfDay(to, zone).end,
});

const seenIn = (days: readonly DayOfStretches[]): number =>
  days.reduce((sum, day) => sum + day.stretches.reduce((all, each) => all + each.seen, 0), 0);

const inFolder = (file: string) => ({ document: file, folder: file.slice(0, Math.max(0, file.lastIndexOf('/'))) });

/** A stretch as what was in front in it, shared over the hours it lies in. */
function noticedOf(
  stretch: Stretch,
  zone: Zone,
  memberId: string,
  openedForOf: ReadonlyMap<string, string>,
): Noticed[] {
  const { day, outcome } = stretch;
  const hours = heatMap([stretch], zone).reduce((sum, line) => sum.map((each, hour) => each + line[hour]!));
  const seen = hours.flatMap((ms, hour) => (ms > 0 ? [hour] : []));
  const weights = seen.map((hour) => hours[hour]!);
  const projectId = outcome?.act === 'place' ? outcome.projectId : null;
  return stretch.evidence.flatMap(({ subject, seen: ms }) => {
    const { program, site, file, folder } = subject;
    const place = { day, memberId, projectId, program, site, document: file, folder };
    const openedFor = openedForOf.get(file) ?? (outcome?.act === 'place' ? (outcome.openedForId ?? '') : '');
    const shares = weights.length === 0 ? [] : shareOut(Math.round(ms / 1000), weights);
    return shares.flatMap((front, index) => (front > 0 ? [{ ...place, openedFor, hour: seen[index]!, front }] : []));
  });
}

/** A usual day is one of so many days before. */
const USUAL_DAYS = 28;
/** So many days are drawn in small. */
const PAGES = 7;
const MOST_TAKERS = 8;

const jobOf = (stretch: Stretch): string => (stretch.outcome ? jobKeyOf(stretch.outcome) : 'not placed');
const projectOf = (stretch: Stretch): string | null =>
  stretch.outcome?.act === 'place' ? stretch.outcome.projectId : null;
const narrowKeyOf = (stretch: Stretch): string => projectOf(stretch) ?? jobOf(stretch);

function narrowOf(stretches: readonly Stretch[]): Looked['narrow'] {
  const sums = new Map<string, number>();
  for (const stretch of stretches) {
    const key = narrowKeyOf(stretch);
    sums.set(key, (sums.get(key) ?? 0) + stretch.seen);
  }
  return [...sums].map(([key, seen]) => ({ key, seen })).sort((a, b) => b.seen - a.seen);
}

/** What most of a stretch was, by name. */
function nameOfSubject({ evidence }: Stretch): string {
  const subject = evidence[0]?.subject;
  return subject ? subject.file.slice(subject.file.lastIndexOf('/') + 1) || subject.title || subject.program : '';
}

const work = {
  /** Stretches of days, each with what is likely of it. */
  async sift(query: SiftQuery): Promise<SiftDay[]> {
    const { zone, book, taken, covered } = query;
    const bounds = boundsOf(query);
    const { days, likeness } = await formed(bounds, zone, book, covered ? [] : taken);
    const { sentencesFromTitles: titles, ownAddresses: own } = await readSettings();
    const whole = covered ? days : (await formed(bounds, zone, book)).days;
    return whole.map(({ day }) => {
      const ownDay = days.find((each) => each.day === day);
      const hidden = covered ? 0 : seenIn(whole.filter((each) => each.day === day)) - seenIn(ownDay ? [ownDay] : []);
      return {
        day,
        rows: ownDay ? offerDay(ownDay.stretches, likeness, zone, taken, { titles, own }) : [],
        away: ownDay?.away ?? [],
        hidden: Math.max(0, hidden / 1000),
      };
    });
  },

  /** Time by what it was spent on, over all that was seen, whatever was recorded. */
  async lookBack({ from, to, zone, book, only }: LookBackQuery, groups: readonly WeightGroup[]): Promise<Looked> {
    const length = daysBetween(from, to) + 1;
    const before =
      length === 1
        ? { from: addDays(from, -USUAL_DAYS), to: addDays(from, -1) }
        : { from: addDays(from, -length), to: addDays(from, -1) };
    const { days } = await formed(boundsOf({ from: before.from, to, zone }), zone, book);
    const shown = days.flatMap((day) => day.stretches).filter((each) => each.outcome?.act !== 'private');
    const isWanted = (stretch: Stretch) => only === null || narrowKeyOf(stretch) === only;
    const everything = shown.filter((each) => each.day >= from);
    const stretches = everything.filter(isWanted);
    const spent = weightedShare(stretches, groups, projectOf);
    const pageOf = (day: Day, of: readonly Stretch[]) =>
      pageInSmall(
        day,
        of.filter((each) => each.day === day),
        jobOf,
      );
    const pageDays = Math.min(length, PAGES);
    const earlier = shown.filter((each) => each.day < from && isWanted(each));
    const earlierDays = [...new Set(earlier.map(({ day }) => day))].map((day) => pageOf(day, earlier));
    const whole = earlierDays.reduce((sum, { seen }) => sum + seen, 0);
    return {
      by: Object.fromEntries(
        lookingAt.map((by) => [by, timeBy(stretches, by, jobOf).slice(0, MOST_SHOWN)]),
      ) as Looked['by'],
      heat: heatMap(stretches, zone),
      seen: stretches.reduce((sum, each) => sum + each.seen, 0),
      spent: { percent: spent.percent, groups: spent.groups.map(({ group, seen }) => ({ id: group.id, seen })) },
      pages: Array.from({ length: pageDays }, (_, at) => pageOf(addDays(to, at + 1 - pageDays), stretches)),
      habits: habitsOf(stretches, groups, zone),
      takers: timeTakers(stretches, groups).slice(0, MOST_TAKERS),
      narrow: narrowOf(everything),
      against: {
        ...before,
        ...(length === 1
          ? usualDay(earlierDays)
          : {
              days: earlierDays.length,
              seen: whole,
              jobs: new Map(timeBy(earlier, 'job', jobOf).map(({ key, seen }) => [key, seen])),
            }),
      },
    };
  },

  /** The stretches that a row of a list is made of, latest first. */
  async behindRow({ from, to, zone, book, only }: LookBackQuery, by: LookingAt, key: string): Promise<BehindRow[]> {
    const { days } = await formed(boundsOf({ from, to, zone }), zone, book);
    const stretches = days
      .flatMap((day) => day.stretches)
      .filter((each) => each.outcome?.act !== 'private' && (only === null || narrowKeyOf(each) === only));
    return behindRow(stretches, by, key, jobOf)
      .slice(0, MOST_SHOWN)
      .map(({ stretch, seen }) => ({
        id: stretch.id,
        day: stretch.day,
        start: stretch.spans[0]!.start,
        end: stretch.spans.at(-1)!.end,
        seen,
        job: jobOf(stretch),
        name: nameOfSubject(stretch),
      }));
  },

  /** What was in front, hour by hour, and how documents fared, day by day; of nothing that is private. */
  async noticed(range: Pick<SiftQuery, 'from' | 'to' | 'zone'>, memberId: string): Promise<Noticed[]> {
    const { days } = await formed(boundsOf(range), range.zone);
    const [openedFor, rows] = [await trail.openedFor.toArray(), [] as Noticed[]];
    const openedForOf = new Map(openedFor.map((each) => [each.file, each.openedForId]));
    for (const { day, stretches } of days) {
      for (const stretch of stretches) {
        if (stretch.outcome?.act === 'private') continue;
        rows.push(...noticedOf(stretch, range.zone, memberId, openedForOf));
      }
      for (const { file, inView, hands, kept } of await work.documents({ from: day, to: day, zone: range.zone })) {
        rows.push({
          day,
          hour: null,
          memberId,
          projectId: null,
          program: '',
          site: '',
          ...inFolder(file),
          openedFor: openedForOf.get(file) ?? '',
          inView: Math.round(inView / 1000),
          hands: Math.max(0, Math.round(hands / 1000)),
          kept: kept.length,
        });
      }
    }
    return rows;
  },

  /** What was in front, piece by piece; of nothing that is private. */
  async minutes(range: Pick<SiftQuery, 'from' | 'to' | 'zone'>): Promise<Minute[]> {
    const bounds = boundsOf(range);
    const [columns, settings, { days }] = await Promise.all([
      columnsOf(bounds),
      readSettings(),
      formed(bounds, range.zone),
    ]);
    const kept = days.flatMap((day) => day.stretches).filter((each) => each.outcome?.act === 'private');
    const hidden = kept.flatMap((each) => each.spans);
    return attentionOf(columns, settings, inOrder(columns), bounds).pieces.flatMap(({ start, end, subject }) => {
      const middle = (start + end) / 2;
      if (hidden.some((span) => middle >= span.start && middle < span.end)) return [];
      const about = columns.subjects[subject]!;
      const name = about.file.slice(about.file.lastIndexOf('/') + 1) || about.title || about.people[0] || about.program;
      return [{ start, end, name, with: about.people[0] ?? about.program }];
    });
  },

  /** Documents under all their names, each with where most of its time was placed, and titles that may mean several files. */
  async documentsOf(range: Range): Promise<{ documents: PlacedDocument[]; unclear: UnclearTitle[] }> {
    const unclear: Unclear = new Map();
    await columnsOf(boundsOf(range), unclear);
    const [times, { days }] = [await work.documents(range), await formed(boundsOf(range), range.zone, range.book)];
    const placed = placesOfFiles(days.flatMap((day) => day.stretches));
    return {
      documents: documentFamilies(times).map((each) => ({ ...each, placed: placeOf(each, placed) })),
      unclear: [...unclear.values()].filter(({ seen }) => seen > 0).sort((a, b) => b.seen - a.seen),
    };
  },

  /** In view, hands on, kept and the clock of every file of some days. */
  async documents(range: Pick<SiftQuery, 'from' | 'to' | 'zone'>): Promise<DocumentTime[]> {
    const bounds = boundsOf(range);
    const [columns, settings, switches] = await Promise.all([
      columnsOf(bounds),
      readSettings(),
      trail.switches.toArray(),
    ]);
    const positions = Array.from({ length: columns.length }, (_, at) => at)
      .filter((at) => columns.to[at]! >= bounds.start)
      .sort((a, b) => columns.from[a]! - columns.from[b]! || a - b);
    const own = switches.filter((each) => each.at >= bounds.start && each.at < bounds.end);
    return documentTimes(columns, attentionOf(columns, settings, positions, bounds), settings, own);
  },

  /** What a rule would have matched in a time, and what it would take from others. */
  async effect(rule: PlacingRule, rules: readonly PlacingRule[], bounds: Interval, zone: Zone): Promise<RuleEffect> {
    const always = { ...rule, since: 0 };
    const others = rules.filter((each) => each.id !== rule.id);
    const { days } = await formed(bounds, zone, undefined, [], [...others, always]);
    const effect: RuleEffect = { seen: 0, stretches: 0, takes: [], examples: [] };
    const takes = new Map<string, number>();
    const examples = new Map<string, number>();
    for (const stretch of days.flatMap((day) => day.stretches)) {
      if (stretch.placing?.outcome || stretch.rule?.id !== rule.id) continue;
      effect.seen += stretch.seen;
      effect.stretches++;
      if (stretch.second) takes.set(stretch.second.id, (takes.get(stretch.second.id) ?? 0) + stretch.seen);
      for (const { subject, seen } of stretch.evidence) {
        const name = subject.file || subject.title || subject.people.join(', ') || subject.program;
        examples.set(name, (examples.get(name) ?? 0) + seen);
      }
    }
    effect.takes = [...takes].map(([ruleId, seen]) => ({ ruleId, seen })).sort((a, b) => b.seen - a.seen);
    effect.examples = [...examples]
      .map(([name, seen]) => ({ name, seen }))
      .sort((a, b) => b.seen - a.seen)
      .slice(0, 6);
    return effect;
  },

  /** Takes activity in from a file of JSON Lines; the same file again changes nothing. */
  async takeLines(file: File): Promise<LinesRead> {
    const columns = new TrailArrays();
    const read = await readActivityLines(chunksOf(file), columns);
    const activities = Array.from({ length: columns.length }, (_, at) => {
      const { kind, program, title, address, file: path, people } = columns.subjects[columns.subject[at]!]!;
      return {
        kind,
        from: columns.from[at]!,
        to: columns.to[at]!,
        ...(columns.hands[at]! >= 0 ? { hands: columns.hands[at]! } : {}),
        ...(program ? { program } : {}),
        ...(title ? { title } : {}),
        ...(address ? { address } : {}),
        ...(path ? { file: path } : {}),
        ...(people.length > 0 ? { people: [...people] } : {}),
      };
    });
    if (activities.length > 0) await keepActivities(deviceOfFile(file.name, activities), 1, activities);
    return read;
  },

  /** A stretch that is not placed by hand, to be given to a job. */
  async stretchOf(range: Range, id: string): Promise<Pick<Placing, 'day' | 'spans' | 'features'>[]> {
    const { days, likeness } = await formed(boundsOf(range), range.zone, range.book);
    return days
      .flatMap((day) => day.stretches)
      .filter((stretch) => stretch.id === id && !stretch.placing?.outcome)
      .map((stretch) => ({
        day: stretch.day,
        spans: stretch.spans,
        features: featuresOf(stretch, range.zone, likeness.leads),
      }));
  },

  /** Stretches of some days, not decided yet, of which most is of one of these: to be given to a job once. */
  async mostlyOf(
    range: Range,
    by: LookingAt,
    keys: readonly string[],
  ): Promise<Pick<Placing, 'day' | 'spans' | 'features'>[]> {
    const { days, likeness } = await formed(boundsOf(range), range.zone, range.book);
    const wanted = new Set(keys);
    return days
      .flatMap((day) => day.stretches)
      .filter((stretch) => !stretch.outcome && !stretch.placing)
      .filter((stretch) => {
        const shares = timeBy([stretch], by, () => '');
        return shares.reduce((sum, each) => (wanted.has(each.key) ? sum + each.seen : sum), 0) * 2 > stretch.seen;
      })
      .map((stretch) => ({
        day: stretch.day,
        spans: stretch.spans,
        features: featuresOf(stretch, range.zone, likeness.leads),
      }));
  },
};
export type CaptureWork = typeof work;

async function* chunksOf(file: Blob): AsyncGenerator<Uint8Array> {
  const reader = file.stream().getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    yield value;
  }
}

expose(work);
