import { addDays, boundsOfDay, dayOf, minuteOf, weekdayOf, type Day, type Zone } from '../time/day';
import { union, type Instant, type Interval } from '../time/interval';
import { attentionOf, within, without, type Attention, type Piece } from './attention';
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
  /** Keys that things of different jobs share, such as a search engine; they hold nothing together. */
  isShared?: (key: string) => boolean;
}

/** Stretches of every day that activities lie in. */
export function formStretches(columns: TrailColumns, options: FormOptions): DayOfStretches[] {
  return new Forming(columns, options).all();
}

class Forming {
  readonly #columns: TrailColumns;
  readonly #options: FormOptions;
  readonly #attention: Attention;
  readonly #caught: (Caught | undefined)[] = [];

  constructor(columns: TrailColumns, options: FormOptions) {
    this.#columns = columns;
    this.#options = options;
    this.#attention = attentionOf(columns, options.settings);
  }

  all(): DayOfStretches[] {
    const { pieces, away, moments } = this.#attention;
    const placings = byDay(this.#options.placings);
    const days: DayOfStretches[] = [];
    let at = 0;
    let awayAt = 0;
    let momentAt = 0;
    while (at < pieces.length) {
      const day = dayOf(pieces[at]!.start, this.#options.zone);
      const bounds = boundsOfDay(day, this.#options.zone);
      const own: Piece[] = [];
      // A piece over midnight is two; the rest of it is left for the next day.
      while (at < pieces.length && pieces[at]!.start < bounds.end) {
        const piece = pieces[at]!;
        if (piece.end <= bounds.end) {
          own.push(piece);
          at++;
        } else {
          own.push(...within([piece], [bounds]));
          pieces[at] = within([piece], [{ start: bounds.end, end: piece.end }])[0]!;
          break;
        }
      }
      const first = own[0]!.start;
      const last = own[own.length - 1]!.end;
      const gone: Interval[] = [];
      while (awayAt < away.length && away[awayAt]!.end <= first) awayAt++;
      for (let next = awayAt; next < away.length && away[next]!.start < last; next++) {
        gone.push({ start: Math.max(first, away[next]!.start), end: Math.min(last, away[next]!.end) });
      }
      const happened: Attention['moments'] = [];
      while (momentAt < moments.length && moments[momentAt]!.at < bounds.end) happened.push(moments[momentAt++]!);
      days.push(this.#day(day, bounds, own, gone, happened, placings.get(day) ?? []));
    }
    return days;
  }

  #day(
    day: Day,
    bounds: Interval,
    pieces: readonly Piece[],
    away: Interval[],
    moments: Attention['moments'],
    placings: readonly Placing[],
  ): DayOfStretches {
    const timeOf = timesWithin(day, bounds, this.#options.zone);
    const forms: Form[] = [];
    let rest = pieces;
    for (const placing of placings) {
      const spans = union(placing.spans);
      const own = within(rest, spans);
      rest = without(rest, spans);
      // Time away that was said to be something has no piece; it counts as the person said.
      if (own.length > 0 || placing.outcome) forms.push({ placing, pieces: own, strand: null, spans });
    }
    const decided = (piece: Piece) => this.#decide(piece.subject, () => timeOf(piece.start));
    const kept = rest.filter((piece) => decided(piece)[0]?.then.act !== 'never record');
    forms.push(...this.#cluster(kept, decided));
    const stretches = forms.map((form) => this.#finish(day, form, moments, decided));
    stretches.sort((a, b) => a.spans[0]!.start - b.spans[0]!.start);
    return { day, stretches, away };
  }

  #decide(subject: number, time: () => RuleTime): [PlacingRule | null, PlacingRule | null] {
    const about = this.#columns.subjects[subject]!;
    const caught = (this.#caught[subject] ??= this.#options.rules.caught(about));
    return this.#options.rules.decide(about, caught, time);
  }

  /** Pieces that belong together and follow one another closely enough; short ones go to what is around them. */
  #cluster(pieces: readonly Piece[], decided: (piece: Piece) => [PlacingRule | null, PlacingRule | null]): Form[] {
    const { gap, shortest } = this.#options.settings;
    const strands = this.#strands(pieces, decided);
    const open = new Map<string, Form>();
    const forms: Form[] = [];
    pieces.forEach((piece, index) => {
      const strand = strands[index]!;
      const form = open.get(strand);
      if (form && piece.start - form.pieces[form.pieces.length - 1]!.end <= gap * MINUTE) form.pieces.push(piece);
      else {
        const next: Form = { placing: null, pieces: [piece], strand, spans: null };
        open.set(strand, next);
        forms.push(next);
      }
    });
    return shortest === 0 ? forms : withoutShort(forms, shortest * MINUTE, gap * MINUTE);
  }

  /** By which pieces belong together: what their rule makes of them, or keys that they share, directly or by way of others. */
  #strands(pieces: readonly Piece[], decided: (piece: Piece) => [PlacingRule | null, PlacingRule | null]): string[] {
    const { subjects } = this.#columns;
    const groups = new Groups();
    const ruled = pieces.map((piece) => {
      const rule = decided(piece)[0];
      const { keys } = subjects[piece.subject]!;
      if (rule) return `rule ${outcomeKey(rule.then)}`;
      const telling = this.#options.isShared ? keys.filter((key) => !this.#options.isShared!(key)) : keys;
      for (let each = 1; each < telling.length; each++) groups.join(telling[0]!, telling[each]!);
      return null;
    });
    return pieces.map((piece, index) => {
      const key = subjects[piece.subject]!.keys.find((each) => !this.#options.isShared?.(each));
      return ruled[index] ?? groups.rootOf(key ?? subjects[piece.subject]!.keys[0]!);
    });
  }

  #finish(
    day: Day,
    form: Form,
    moments: Attention['moments'],
    decided: (piece: Piece) => [PlacingRule | null, PlacingRule | null],
  ): Stretch {
    const { placing, pieces } = form;
    const spans = placing?.outcome ? union(placing.spans) : union(pieces);
    const evidence = new Map<number, Evidence>();
    const told = (subject: number, at: Instant): Evidence => {
      let each = evidence.get(subject);
      if (!each) {
        each = { subject: this.#columns.subjects[subject]!, seen: 0, hands: -1, times: 0, first: at };
        evidence.set(subject, each);
      }
      return each;
    };
    const weights = new Map<PlacingRule | null, { time: number; second: PlacingRule | null }>();
    for (const piece of pieces) {
      const each = told(piece.subject, piece.start);
      each.seen += piece.end - piece.start;
      each.times++;
      if (piece.hands >= 0) each.hands = Math.max(0, each.hands) + piece.hands;
      for (const beside of piece.beside ?? []) told(beside, piece.start).times++;
      const [rule, second] = decided(piece);
      const weight = weights.get(rule);
      if (weight) weight.time += piece.end - piece.start;
      else weights.set(rule, { time: piece.end - piece.start, second });
    }
    for (const { at, subject } of moments) {
      const inside = spans.some((span) => at >= span.start && at < span.end);
      if (inside && this.#ofForm(form, subject)) told(subject, at).times++;
    }
    const [rule, weight] = [...weights].reduce((best, next) => (next[1].time > best[1].time ? next : best), [
      null,
      { time: -1, second: null },
    ] as [PlacingRule | null, { time: number; second: PlacingRule | null }]);
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
      second: weight.second,
    };
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
}

/** What was placed alike stands together. */
const outcomeKey = (outcome: Outcome): string =>
  outcome.act === 'place'
    ? `${outcome.workspaceId} ${outcome.projectId} ${outcome.taskId} ${outcome.unlisted} ${outcome.serviceId}`
    : outcome.act;

/** Short ones go to the one that is closest in time, where that is near enough; no time is lost by it. */
function withoutShort(forms: readonly Form[], shortest: number, gap: number): Form[] {
  const lengthOf = (form: Form) => form.pieces.reduce((sum, piece) => sum + piece.end - piece.start, 0);
  const long = forms.filter((form) => lengthOf(form) >= shortest);
  if (long.length === 0) return forms as Form[];
  const left = new Set(long);
  // By every piece of a long one, which is where a short one can go.
  const places = long
    .flatMap((form) => form.pieces.map((piece) => ({ form, start: piece.start, end: piece.end })))
    .sort((a, b) => a.start - b.start);
  for (const form of forms) {
    if (left.has(form)) continue;
    const start = form.pieces[0]!.start;
    const end = form.pieces[form.pieces.length - 1]!.end;
    const after = firstFrom(places, start);
    const before = places[after - 1];
    const next = places[after];
    const back = before ? start - before.end : Infinity;
    const on = next ? next.start - end : Infinity;
    const near = back <= on ? before : next;
    // What a rule placed is not mixed with what it did not, however short.
    if (!near || Math.min(back, on) > gap || form.strand?.startsWith('rule ')) left.add(form);
    else near.form.pieces.push(...form.pieces);
  }
  const kept = forms.filter((form) => left.has(form));
  for (const form of kept) form.pieces.sort((a, b) => a.start - b.start);
  return kept;
}

/** The first place that begins at a moment or after it. */
function firstFrom(places: readonly Interval[], start: Instant): number {
  let low = 0;
  for (let high = places.length; low < high;) {
    const middle = (low + high) >> 1;
    if (places[middle]!.start < start) low = middle + 1;
    else high = middle;
  }
  return low;
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
