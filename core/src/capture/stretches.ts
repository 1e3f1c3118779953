import { addDays, boundsOfDay, dayOf, minuteOf, weekdayOf, type Day, type Zone } from '../time/day';
import { clip, gaps, union, type Instant, type Interval } from '../time/interval';
import { attentionOf, inOrder, within, without, type Attention, type Piece } from './attention';
import type { TrailColumns } from './columns';
import type { Placing } from './placing';
import type { Caught, RuleBook, RuleTime } from './rules/match';
import type { Outcome, PlacingRule } from './rules/rule';
import { MINUTE, type CaptureSettings } from './settings';
import type { Subject } from './subject';

/** One thing within a stretch, with all of its time there. */
export interface Evidence {
  subject: Subject;
  seen: number;
  /** −1 where nobody measured it. */
  hands: number;
  /** How often it came to the front, or happened. */
  times: number;
  first: Instant;
}

/** Activities that belong together, offered as one piece to place. */
export interface Stretch {
  /** That of its placing, or one that stays the same while its beginning and its first thing do. */
  id: string;
  day: Day;
  spans: Interval[];
  /** Milliseconds seen: what its spans come to. */
  seen: number;
  /** The most seen first. */
  evidence: Evidence[];
  placing: Placing | null;
  /** What became of it, by hand or by rule. */
  outcome: Outcome | null;
  /** The rule that decided over most of it, and the one that would have otherwise. */
  rule: PlacingRule | null;
  second: PlacingRule | null;
}

export interface DayOfStretches {
  day: Day;
  stretches: Stretch[];
  /** Time away between the first and the last sign of the person. */
  away: Interval[];
}

export interface FormOptions {
  settings: CaptureSettings;
  zone: Zone;
  rules: RuleBook;
  /** What the person said, of any days. */
  placings: readonly Placing[];
  /** Times that are recorded already; what was seen in them is not offered again. */
  taken?: readonly Interval[];
  /** Keys that things of different jobs share, such as a search engine; they hold nothing together. */
  isShared?: (key: string) => boolean;
  /** The job that a thing is surely of by what was placed before; things of one job belong together. */
  surelyOf?: (subject: Subject) => string | null;
}

/** Stretches of every day that activities lie in. */
export function formStretches(columns: TrailColumns, options: FormOptions): DayOfStretches[] {
  return new Forming(columns, options).all();
}

/** The rule that decides, and the one that would otherwise. */
type Decided = readonly [PlacingRule | null, PlacingRule | null];

class Forming {
  readonly #columns: TrailColumns;
  readonly #options: FormOptions;
  readonly #caught: (Caught | undefined)[] = [];
  readonly #decided: (Decided | undefined)[] = [];
  readonly #sure = new Map<number, string | null>();
  /** Of each rule, the strand of what it places. */
  readonly #strandOf = new Map<PlacingRule, string>();

  constructor(columns: TrailColumns, options: FormOptions) {
    this.#columns = columns;
    this.#options = options;
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
    const forms: Form[] = [];
    let rest: readonly Piece[] = pieces;
    for (const placing of placings) {
      const spans = union(placing.spans);
      const own = within(rest, spans);
      rest = without(rest, spans);
      // Time away that was said to be something has no piece; it counts as the person said.
      if (own.length > 0 || placing.outcome) forms.push({ placing, pieces: own, strand: null, spans, first: 0 });
    }
    const taken = union(this.#options.taken ?? []);
    rest = without(rest, taken);
    const decided = (piece: Piece): Decided => this.#decide(piece, timeOf);
    const kept = rest.filter((piece) => decided(piece)[0]?.then.act !== 'never record');
    forms.push(...this.#cluster(kept, decided));
    const stretches = forms.map((form) => this.#finish(day, form, moments, decided));
    stretches.sort((a, b) => a.spans[0]!.start - b.spans[0]!.start);
    const there = { start: pieces[0]!.start, end: pieces[pieces.length - 1]!.end };
    const said = union([...taken, ...placings.flatMap((each) => each.spans)]);
    const gone = away.map((each) => clip(each, there)).filter((each) => each !== null);
    return { day, stretches, away: gone.flatMap((each) => gaps(said, each)) };
  }

  /** What rules make of a piece; where none of them asks for a time, it is the same for all pieces of a thing. */
  #decide({ subject, start }: Piece, timeOf: (at: Instant) => RuleTime): Decided {
    const always = this.#decided[subject];
    if (always) return always;
    const about = this.#columns.subjects[subject]!;
    const { rules } = this.#options;
    const caught = (this.#caught[subject] ??= rules.caught(about));
    const two = rules.decide(about, caught, () => timeOf(start));
    if (caught.holds === null) this.#decided[subject] = two;
    return two;
  }

  #surely(subject: number): string | null {
    const { surelyOf } = this.#options;
    if (!surelyOf) return null;
    let job = this.#sure.get(subject);
    if (job === undefined) this.#sure.set(subject, (job = surelyOf(this.#columns.subjects[subject]!)));
    return job;
  }

  /** Pieces that belong together and follow one another closely enough; short ones go to what is around them. */
  #cluster(pieces: readonly Piece[], decided: (piece: Piece) => Decided): Form[] {
    const { gap, shortest } = this.#options.settings;
    const strands = this.#strands(pieces, decided);
    const open = new Map<string, Form>();
    const forms: Form[] = [];
    // Which form each piece went to.
    const owners: Form[] = [];
    pieces.forEach((piece, index) => {
      const strand = strands[index]!;
      let form = open.get(strand);
      if (form && piece.start - form.pieces[form.pieces.length - 1]!.end <= gap * MINUTE) form.pieces.push(piece);
      else {
        form = { placing: null, pieces: [piece], strand, spans: null, first: index };
        open.set(strand, form);
        forms.push(form);
      }
      owners.push(form);
    });
    return shortest === 0 ? forms : withoutShort(forms, owners, pieces, shortest * MINUTE, gap * MINUTE);
  }

  /** By which pieces belong together: what their rule makes of them, or keys that they share, directly or by way of others. */
  #strands(pieces: readonly Piece[], decided: (piece: Piece) => Decided): string[] {
    const { subjects } = this.#columns;
    const { isShared } = this.#options;
    const groups = new Groups();
    // What a thing belongs to by its keys is looked for once, however often it came to the front.
    const joined = new Map<number, string>();
    const ruled = pieces.map((piece) => {
      const rule = decided(piece)[0];
      if (rule) return this.#strandOfRule(rule);
      const job = this.#surely(piece.subject);
      if (job !== null) return `job ${job}`;
      if (!joined.has(piece.subject)) {
        const { keys } = subjects[piece.subject]!;
        const telling = isShared ? keys.filter((key) => !isShared(key)) : keys;
        for (let each = 1; each < telling.length; each++) groups.join(telling[0]!, telling[each]!);
        joined.set(piece.subject, telling[0] ?? keys[0]!);
      }
      return null;
    });
    for (const [subject, key] of joined) joined.set(subject, groups.rootOf(key));
    return pieces.map((piece, index) => ruled[index] ?? joined.get(piece.subject)!);
  }

  #strandOfRule(rule: PlacingRule): string {
    let strand = this.#strandOf.get(rule);
    if (strand === undefined) this.#strandOf.set(rule, (strand = `rule ${outcomeKey(rule.then)}`));
    return strand;
  }

  #finish(day: Day, form: Form, moments: Attention['moments'], decided: (piece: Piece) => Decided): Stretch {
    const { placing, pieces } = form;
    const spans = placing?.outcome ? union(placing.spans) : spansOf(pieces);
    const evidence = new Map<number, Evidence>();
    const weights = new Map<PlacingRule | null, { time: number; second: PlacingRule | null }>();
    for (const piece of pieces) {
      const each = this.#told(evidence, piece.subject, piece.start);
      each.seen += piece.end - piece.start;
      each.times++;
      if (piece.hands >= 0) each.hands = Math.max(0, each.hands) + piece.hands;
      if (piece.beside) for (const beside of piece.beside) this.#told(evidence, beside, piece.start).times++;
      const [rule, second] = decided(piece);
      const weight = weights.get(rule);
      if (weight) weight.time += piece.end - piece.start;
      else weights.set(rule, { time: piece.end - piece.start, second });
    }
    for (const { at, subject } of moments) {
      const inside = spans.some((span) => at >= span.start && at < span.end);
      if (inside && this.#ofForm(form, subject)) this.#told(evidence, subject, at).times++;
    }
    let rule: PlacingRule | null = null;
    let most: { time: number; second: PlacingRule | null } = { time: -1, second: null };
    for (const [each, weight] of weights) if (weight.time > most.time) [rule, most] = [each, weight];
    const first = pieces[0];
    return {
      id: placing?.id ?? `${first!.start} ${this.#columns.subjects[first!.subject]!.keys[0]!}`,
      day,
      spans,
      seen: spans.reduce((sum, span) => sum + span.end - span.start, 0),
      evidence: [...evidence.values()].sort((a, b) => b.seen - a.seen || a.first - b.first),
      placing,
      outcome: placing ? placing.outcome : (rule?.then ?? null),
      rule,
      second: most.second,
    };
  }

  #told(evidence: Map<number, Evidence>, subject: number, at: Instant): Evidence {
    let each = evidence.get(subject);
    if (!each) {
      each = { subject: this.#columns.subjects[subject]!, seen: 0, hands: -1, times: 0, first: at };
      evidence.set(subject, each);
    }
    return each;
  }

  /** Something that happened at a moment belongs to the stretch of what it is about. */
  #ofForm(form: Form, subject: number): boolean {
    if (form.strand === null) return true;
    const { keys } = this.#columns.subjects[subject]!;
    return form.pieces.some((piece) => this.#columns.subjects[piece.subject]!.keys.some((key) => keys.includes(key)));
  }
}

/** A stretch while it is being formed. */
interface Form {
  placing: Placing | null;
  pieces: Piece[];
  strand: string | null;
  spans: Interval[] | null;
  /** Where its first piece stands among the day's. */
  first: number;
}

/** The times of pieces, which stand in their order and never overlap; those that touch are one. */
function spansOf(pieces: readonly Piece[]): Interval[] {
  const spans: Interval[] = [];
  let last: { start: Instant; end: Instant } | null = null;
  for (const { start, end } of pieces) {
    if (last && last.end === start) last.end = end;
    else spans.push((last = { start, end }));
  }
  return spans;
}

/** What was placed alike stands together. */
const outcomeKey = (outcome: Outcome): string =>
  outcome.act === 'place'
    ? `${outcome.workspaceId} ${outcome.projectId} ${outcome.taskId} ${outcome.unlisted} ${outcome.serviceId}`
    : outcome.act;

/** Short ones go to the one that is closest in time, where that is near enough; no time is lost by it. */
function withoutShort(
  forms: readonly Form[],
  owners: readonly Form[],
  pieces: readonly Piece[],
  shortest: number,
  gap: number,
): Form[] {
  const lengthOf = (form: Form) => form.pieces.reduce((sum, piece) => sum + piece.end - piece.start, 0);
  const long = new Set(forms.filter((form) => lengthOf(form) >= shortest));
  if (long.size === 0 || long.size === forms.length) return forms as Form[];
  const grown = new Set<Form>();
  const kept = forms.filter((form) => {
    if (long.has(form)) return true;
    // What a rule placed is not mixed with what it did not, however short.
    if (form.strand?.startsWith('rule ')) return true;
    const lastPiece = form.pieces[form.pieces.length - 1]!;
    let before = form.first - 1;
    while (before >= 0 && !long.has(owners[before]!)) before--;
    let after = form.first + 1;
    while (after < pieces.length && (!long.has(owners[after]!) || pieces[after]!.start < lastPiece.end)) after++;
    const back = before >= 0 ? form.pieces[0]!.start - pieces[before]!.end : Infinity;
    const on = after < pieces.length ? pieces[after]!.start - lastPiece.end : Infinity;
    if (Math.min(back, on) > gap) return true;
    const near = owners[back <= on ? before : after]!;
    for (const piece of form.pieces) near.pieces.push(piece);
    grown.add(near);
    return false;
  });
  for (const form of grown) form.pieces.sort((a, b) => a.start - b.start);
  return kept;
}

function byDay(placings: readonly Placing[]): Map<Day, Placing[]> {
  const days = new Map<Day, Placing[]>();
  for (const placing of placings) {
    const list = days.get(placing.day);
    if (list) list.push(placing);
    else days.set(placing.day, [placing]);
  }
  return days;
}

/** Keys that are joined, directly or by way of others. */
class Groups {
  readonly #parents = new Map<string, string>();

  rootOf(key: string): string {
    let root = key;
    for (let up; (up = this.#parents.get(root)) !== undefined;) root = up;
    for (let at = key; at !== root;) {
      const up = this.#parents.get(at)!;
      this.#parents.set(at, root);
      at = up;
    }
    return root;
  }

  join(a: string, b: string): void {
    const [one, other] = [this.rootOf(a), this.rootOf(b)];
    if (one !== other) this.#parents.set(other, one);
  }
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
