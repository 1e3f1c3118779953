import { addDays, boundsOfDay, dayOf, minuteOf, weekdayOf, type Day, type Zone } from '../time/day';
import { clip, gaps, union, type Instant, type Interval } from '../time/interval';
import { attentionOf, inOrder, within, without, type Attention, type Piece } from './attention';
import type { TrailArrays } from './byte-tables/trail-arrays';
import { mostFirst, settled, spansOf, withoutShort, type Segment, type Strands } from './segments';
import { DisjointSet } from './disjoint-set';
import type { Placing } from './placing';
import type { Caught, RuleDecision, RuleBook, RuleTime } from './rules/match';
import type { Outcome, PlacingRule } from './rules/rule';
import { MINUTE, type CaptureSettings } from './settings';
import type { DayOfStretches, Evidence, Stretch } from './stretch';
import { featuresOf } from './features';
import type { Guess, Likeness } from './likeness';

export interface FormOptions {
  settings: CaptureSettings;
  zone: Zone;
  rules: RuleBook;
  /** What the person said, of any days. */
  placings: readonly Placing[];
  /** Times that are recorded already; what was seen in them is not offered again. */
  taken?: readonly Interval[];
  /**
   * What was placed before. Keys that things of different jobs share, such as a search engine, hold nothing together; what is likely of
   * one job belongs together.
   */
  likeness?: Likeness;
}

/** Stretches of every day that activities lie in. */
export function formStretches(columns: TrailArrays, options: FormOptions): DayOfStretches[] {
  return new StretchBuilder(columns, options).all();
}

class StretchBuilder {
  readonly #columns: TrailArrays;
  readonly #options: FormOptions;
  readonly #caught: (Caught | undefined)[] = [];
  readonly #decided: (RuleDecision | undefined)[] = [];
  readonly #sure = new Map<number, string | null>();
  /** By subject, the stretch that it was met in last, as their number, and its place among that one's evidence. */
  readonly #ofStretch: Int32Array;
  readonly #placeOf: Int32Array;
  #form = 0;
  /** By subject, the day that it was met on last without a rule, as their number, and its strand on that day. */
  readonly #onDay: Int32Array;
  readonly #strandOn: Int32Array;
  #dayNumber = 0;
  /** Of each rule, the strand of what it places. */
  readonly #strandOf = new Map<PlacingRule, string>();

  constructor(columns: TrailArrays, options: FormOptions) {
    this.#columns = columns;
    this.#options = options;
    const count = columns.subjects.length;
    this.#ofStretch = new Int32Array(count);
    this.#placeOf = new Int32Array(count);
    this.#onDay = new Int32Array(count);
    this.#strandOn = new Int32Array(count);
  }

  /** Day by day, so that no more than a day's pieces are held at a time. */
  all(): DayOfStretches[] {
    const { zone, settings } = this.#options;
    const { from, to } = this.#columns;
    const placings = byDay(this.#options.placings);
    const order = inOrder(this.#columns);
    const days: DayOfStretches[] = [];
    // What goes on over midnight is of both days.
    let over: number[] = [];
    let end = -Infinity;
    for (let next = 0; next < order.length || over.length > 0;) {
      const start = over.length > 0 ? end : from[order[next]!]!;
      const day = dayOf(start, zone);
      const bounds = boundsOfDay(day, zone);
      end = bounds.end;
      const positions = over;
      while (next < order.length && from[order[next]!]! < end) positions.push(order[next++]!);
      over = positions.filter((at) => to[at]! > end);
      const attention = attentionOf(this.#columns, settings, positions, bounds);
      if (attention.pieces.length > 0) days.push(this.#day(day, bounds, attention, placings.get(day) ?? []));
    }
    return days;
  }

  #day(day: Day, bounds: Interval, { pieces, away, moments }: Attention, placings: readonly Placing[]): DayOfStretches {
    const timeOf = timesWithin(day, bounds, this.#options.zone);
    const forms: Segment[] = [];
    let rest: readonly Piece[] = pieces;
    for (const placing of placings) {
      const spans = union(placing.spans);
      const own = within(rest, spans);
      rest = without(rest, spans);
      // Time away that was said to be something has no piece; it counts as the person said.
      if (own.length > 0 || placing.outcome)
        forms.push({ placing, pieces: own, strand: null, ruled: false, spans, first: 0 });
    }
    const taken = union(this.#options.taken ?? []);
    rest = without(rest, taken);
    const decided = (piece: Piece): RuleDecision => (piece.decided ??= this.#decide(piece, timeOf));
    const kept = rest.filter((piece) => decided(piece)[0]?.then.act !== 'never record');
    forms.push(...this.#cluster(kept, decided));
    const finish = (form: Segment) => this.#finish(day, form, moments, decided);
    const stretches = this.#joined(forms, forms.map(finish), finish);
    stretches.sort((a, b) => a.spans[0]!.start - b.spans[0]!.start);
    const there = { start: pieces[0]!.start, end: pieces[pieces.length - 1]!.end };
    const said = union([...taken, ...placings.flatMap((each) => each.spans)]);
    const gone = away.map((each) => clip(each, there)).filter((each) => each !== null);
    // What is left of it beside entries and placings is asked about from a minute on.
    const asked = gone.flatMap((each) => gaps(said, each)).filter((each) => each.end - each.start >= MINUTE);
    return { day, stretches, away: asked };
  }

  /** What rules make of a piece; where none of them asks for a time, it is the same for all pieces of a thing. */
  #decide(piece: Piece, timeOf: (at: Instant) => RuleTime): RuleDecision {
    return this.#decided[piece.subject] ?? this.#decideAt(piece, timeOf);
  }

  #decideAt({ subject, start }: Piece, timeOf: (at: Instant) => RuleTime): RuleDecision {
    const about = this.#columns.subjects[subject]!;
    const { rules } = this.#options;
    const caught = (this.#caught[subject] ??= rules.caught(about));
    const two = rules.decide(about, caught, () => timeOf(start));
    if (caught.holds === null) this.#decided[subject] = two;
    return two;
  }

  #surely(subject: number): string | null {
    const { likeness } = this.#options;
    if (!likeness) return null;
    let job = this.#sure.get(subject);
    if (job === undefined) this.#sure.set(subject, (job = likeness.surelyOf(this.#columns.subjects[subject]!)));
    return job;
  }

  /** What follows closely and is likely of the same job is one stretch, although nothing in it is the same. */
  #joined(forms: readonly Segment[], stretches: Stretch[], finish: (form: Segment) => Stretch): Stretch[] {
    const { likeness, settings, zone } = this.#options;
    if (!likeness) return stretches;
    const order = forms.map((form, at) => ({ form, stretch: stretches[at]! }));
    order.sort((a, b) => a.stretch.spans[0]!.start - b.stretch.spans[0]!.start);
    // By job the form that was met last, with what it grew by.
    const open = new Map<string, { form: Segment; stretch: Stretch; grown: boolean }>();
    const kept: { form: Segment; stretch: Stretch; grown: boolean }[] = [];
    for (const { form, stretch } of order) {
      const free = !form.placing && !form.ruled;
      const [guess]: Guess[] = free ? likeness.guess(featuresOf(stretch, zone, likeness.leads), 1) : [];
      const job = guess && guess.confidence >= SURE ? guess.job : null;
      const last = job === null ? undefined : open.get(job);
      if (last && form.pieces[0]!.start - endOf(last.form) <= settings.gap * MINUTE) {
        last.form.pieces.push(...form.pieces);
        last.form.pieces.sort((a, b) => a.start - b.start);
        last.grown = true;
        continue;
      }
      const own = { form, stretch, grown: false };
      kept.push(own);
      if (job !== null) open.set(job, own);
    }
    return kept.map((each) => (each.grown ? finish(each.form) : each.stretch));
  }

  /** Pieces that belong together and follow one another closely enough; short ones go to what is around them. */
  #cluster(pieces: readonly Piece[], decided: (piece: Piece) => RuleDecision): Segment[] {
    const { gap, shortest } = this.#options.settings;
    const strands = this.#strands(pieces, decided);
    const of = settled(pieces, strands, (shortest * MINUTE) / 2, gap * MINUTE);
    // By strand, the form that was open last.
    const open: Segment[] = [];
    const forms: Segment[] = [];
    // Which form each piece went to.
    const owners = new Array<Segment>(pieces.length);
    for (let index = 0; index < pieces.length; index++) {
      const piece = pieces[index]!;
      const strand = of[index]!;
      let form = open[strand];
      if (form && piece.start - form.pieces[form.pieces.length - 1]!.end <= gap * MINUTE) form.pieces.push(piece);
      else {
        const ruled = strands.ruled[strand]!;
        open[strand] = form = { placing: null, pieces: [piece], strand, ruled, spans: null, first: index };
        forms.push(form);
      }
      owners[index] = form;
    }
    return shortest === 0 ? forms : withoutShort(forms, owners, pieces, shortest * MINUTE, gap * MINUTE);
  }

  /** By which pieces belong together: what their rule makes of them, or keys that they share, directly or by way of others. */
  #strands(pieces: readonly Piece[], decided: (piece: Piece) => RuleDecision): Strands {
    const groups = new DisjointSet();
    const numbers = new Map<string, number>();
    const ruled: boolean[] = [];
    const numberOf = (strand: string, isRuled: boolean): number => {
      let number = numbers.get(strand);
      if (number === undefined) {
        numbers.set(strand, (number = ruled.length));
        ruled.push(isRuled);
      }
      return number;
    };
    const of = new Int32Array(pieces.length);
    const hold = new Float64Array(pieces.length);
    // What a thing belongs to by its keys is looked for once, however often it came to the front.
    const loose: number[] = [];
    this.#dayNumber++;
    pieces.forEach((piece, index) => {
      const rule = decided(piece)[0];
      const job = rule ? null : this.#surely(piece.subject);
      hold[index] = rule ? Infinity : job !== null ? 1 : this.#holdOf(piece.subject);
      if (rule) of[index] = numberOf(this.#strandOfRule(rule), true);
      else if (job !== null) of[index] = numberOf(`job ${job}`, false);
      else {
        of[index] = BY_KEYS;
        if (this.#onDay[piece.subject] === this.#dayNumber) return;
        this.#onDay[piece.subject] = this.#dayNumber;
        loose.push(piece.subject);
        const telling = this.#telling(piece.subject);
        for (let each = 1; each < telling.length; each++) groups.join(telling[0]!, telling[each]!);
      }
    });
    for (const subject of loose) this.#strandOn[subject] = numberOf(groups.rootOf(this.#telling(subject)[0]!), false);
    for (let at = 0; at < of.length; at++) if (of[at] === BY_KEYS) of[at] = this.#strandOn[pieces[at]!.subject]!;
    return { of, ruled, hold };
  }

  /** How firmly a thing that was never placed holds to what it has keys in common with. */
  #holdOf(subject: number): number {
    const { file, thread, people, kind } = this.#columns.subjects[subject]!;
    if (file || thread || people.length > 0 || kind === 'meeting') return 1;
    return LOOKED_UP;
  }

  /** The keys by which a thing belongs to others; never none. */
  #telling(subject: number): readonly string[] {
    const { keys } = this.#columns.subjects[subject]!;
    const { likeness } = this.#options;
    if (!likeness) return keys;
    const telling = keys.filter((key) => !likeness.isShared(key));
    return telling.length > 0 ? telling : keys.slice(0, 1);
  }

  #strandOfRule(rule: PlacingRule): string {
    let strand = this.#strandOf.get(rule);
    if (strand === undefined) this.#strandOf.set(rule, (strand = `rule ${outcomeKey(rule.then)}`));
    return strand;
  }

  #finish(day: Day, form: Segment, moments: Attention['moments'], decided: (piece: Piece) => RuleDecision): Stretch {
    const { placing, pieces } = form;
    const spans = placing?.outcome ? union(placing.spans) : spansOf(pieces);
    const evidence: Evidence[] = [];
    this.#form++;
    // By rule the time it decided over; there are seldom more than one or two.
    const weights: { rule: PlacingRule | null; second: PlacingRule | null; time: number }[] = [];
    for (const piece of pieces) {
      const length = piece.end - piece.start;
      const each = this.#told(evidence, piece.subject, piece.start);
      each.seen += length;
      each.times++;
      if (piece.hands >= 0) each.hands = Math.max(0, each.hands) + piece.hands;
      if (piece.beside) for (const beside of piece.beside) this.#told(evidence, beside, piece.start).times++;
      const [rule, second] = decided(piece);
      let own = 0;
      while (own < weights.length && weights[own]!.rule !== rule) own++;
      if (own < weights.length) weights[own]!.time += length;
      else weights.push({ rule, second, time: length });
    }
    for (const { at, subject } of moments) {
      const inside = spans.some((span) => at >= span.start && at < span.end);
      if (inside && this.#ofForm(form, subject)) this.#told(evidence, subject, at).times++;
    }
    let most = weights[0];
    for (const weight of weights) if (weight.time > most!.time) most = weight;
    const first = pieces[0];
    return {
      id: placing?.id ?? `${first!.start} ${this.#columns.subjects[first!.subject]!.keys[0]!}`,
      day,
      spans,
      seen: spans.reduce((sum, span) => sum + span.end - span.start, 0),
      evidence: mostFirst(evidence),
      placing,
      outcome: placing ? placing.outcome : (most?.rule?.then ?? null),
      rule: most?.rule ?? null,
      second: most?.second ?? null,
    };
  }

  #told(evidence: Evidence[], subject: number, at: Instant): Evidence {
    if (this.#ofStretch[subject] === this.#form) return evidence[this.#placeOf[subject]!]!;
    this.#ofStretch[subject] = this.#form;
    this.#placeOf[subject] = evidence.length;
    const each = { subject: this.#columns.subjects[subject]!, seen: 0, hands: -1, times: 0, first: at };
    evidence.push(each);
    return each;
  }

  /** Something that happened at a moment belongs to the stretch of what it is about. */
  #ofForm(form: Segment, subject: number): boolean {
    if (form.strand === null) return true;
    const { keys } = this.#columns.subjects[subject]!;
    return form.pieces.some((piece) => this.#columns.subjects[piece.subject]!.keys.some((key) => keys.includes(key)));
  }
}

/** In place of a strand's number until the keys of all things of a day are joined. */
const BY_KEYS = -1;

/** So sure of a job stretches are joined that follow one another. */
const SURE = 0.45;
/**
 * How firmly a page or window that names no document and nobody holds to itself, beside what does: among work it is likelier looked up
 * for that than work of its own.
 */
const LOOKED_UP = 0.4;

const endOf = ({ pieces }: Segment): Instant => pieces[pieces.length - 1]!.end;

/** What was placed alike stands together. */
const outcomeKey = (outcome: Outcome): string =>
  outcome.act === 'place'
    ? `${outcome.workspaceId} ${outcome.projectId} ${outcome.taskId} ${outcome.unlisted} ${outcome.serviceId}`
    : outcome.act;

function byDay(placings: readonly Placing[]): Map<Day, Placing[]> {
  const days = new Map<Day, Placing[]>();
  for (const placing of placings) {
    const list = days.get(placing.day);
    if (list) list.push(placing);
    else days.set(placing.day, [placing]);
  }
  return days;
}

/** Minutes and weekdays within a day; on days on which the clocks change they are asked of the zone. */
function timesWithin(day: Day, bounds: Interval, zone: Zone): (at: Instant) => RuleTime {
  const weekday = weekdayOf(day);
  const plain = bounds.end - bounds.start === 24 * 60 * MINUTE;
  return (at) => ({ at, weekday, minute: plain ? Math.floor((at - bounds.start) / MINUTE) : minuteOf(at, zone) });
}

/** The days from one to another that activities are asked for, with the hour around them that another zone may need. */
export function boundsOfRange(from: Day, to: Day, zone: Zone): Interval {
  return { start: boundsOfDay(from, zone).start, end: boundsOfDay(addDays(to, 1), zone).start };
}
