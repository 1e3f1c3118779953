import { union, type Instant, type Interval } from '../time/interval';
import type { TrailArrays } from './byte-tables/trail-arrays';
import type { RuleDecision } from './rules/match';
import { MINUTE, type CaptureSettings } from './settings';
import type { Subject } from './subject';

/** A time in which one thing had attention. Pieces follow one another and never overlap. */
export interface Piece {
  start: Instant;
  end: Instant;
  /** The number of what had it, in the columns' subjects. */
  subject: number;
  /** Milliseconds with hands on; −1 where nobody measured it. */
  hands: number;
  /** What was in front meanwhile, of a call or meeting; the numbers of subjects. */
  beside: readonly number[] | null;
  /** What rules make of it, once they were asked. */
  decided: RuleDecision | null;
}

export interface Attention {
  pieces: Piece[];
  /** Away for longer than counts as being there. */
  away: Interval[];
  /** Mails that came, files that were opened or kept: at a moment, with no length. */
  moments: { at: Instant; subject: number }[];
}

/**
 * What had attention when. At each moment one thing has it: what came last, and what was there before once that ends, so that time
 * noticed twice, or by two devices, counts once. Calls and meetings have it whatever is in front meanwhile, and go on while nobody
 * touches the keys; everything else stops where the person was away.
 *
 * @param positions of the activities to look at, in the order of their beginnings; all where not given
 * @param bounds what lies outside them is cut off
 */
export function attentionOf(
  columns: TrailArrays,
  settings: CaptureSettings,
  positions: ArrayLike<number> = inOrder(columns),
  bounds: Interval = ALWAYS,
): Attention {
  const { from, to, hands, subject, subjects } = columns;
  const fronts = new Sweep((told, top) => isToldBetter(subjects[told]!, subjects[top]!));
  const talks = new Sweep(() => false);
  const away: Interval[] = [];
  const moments: Attention['moments'] = [];
  for (let step = 0; step < positions.length; step++) {
    const at = positions[step]!;
    const about = subject[at]!;
    const { kind } = subjects[about]!;
    const start = Math.max(from[at]!, bounds.start);
    const end = Math.min(to[at]!, bounds.end);
    if (kind === 'away') {
      if (to[at]! - from[at]! >= settings.awayAfter * MINUTE) away.push({ start, end });
    } else if (end <= start) moments.push({ at: start, subject: about });
    else if (kind === 'call' || kind === 'meeting') talks.add(start, end, about, -1);
    else {
      const whole = to[at]! - from[at]!;
      fronts.add(start, end, about, hands[at]! < 0 ? -1 : (hands[at]! * (end - start)) / whole);
    }
  }
  const gone = union(away);
  const talked = talks.done();
  const seen = besideTalks(without(fronts.done(), gone), talked);
  return { pieces: withoutBlips(seen, settings.blip * 1000), away: outside(gone, talked), moments };
}

/**
 * Whether what is in front is told better by what has attention already: a browser's window, as the system names it, while the browser
 * itself says which page it is.
 */
function isToldBetter(told: Subject, top: Subject): boolean {
  return (
    top.address !== '' && told.address === '' && told.file === '' && top.title !== '' && told.title.includes(top.title)
  );
}

const ALWAYS: Interval = { start: -Infinity, end: Infinity };

/** Positions by their beginning. */
export function inOrder({ from, length }: TrailArrays): Uint32Array {
  const order = new Uint32Array(length);
  for (let at = 0; at < length; at++) order[at] = at;
  for (let at = 1; at < length; at++) {
    if (from[at]! < from[at - 1]!) return order.sort((a, b) => from[a]! - from[b]! || a - b);
  }
  return order;
}

/** What has begun and is not over. */
interface Open {
  end: Instant;
  subject: number;
  hands: number;
  length: number;
}

/** Gives each moment to what began last and is not over; takes things in order of their beginning. */
class Sweep {
  readonly #pieces: Piece[] = [];
  /** What has begun and is not over, the last on top; places are used again. */
  readonly #open: Open[] = [];
  /** Whether the first subject, although it began later, stands behind the second. */
  readonly #isBehind: (subject: number, top: number) => boolean;
  #depth = 0;
  #time = -Infinity;

  constructor(isBehind: (subject: number, top: number) => boolean) {
    this.#isBehind = isBehind;
  }

  add(start: Instant, end: Instant, subject: number, hands: number): void {
    this.#goTo(start);
    if (start > this.#time) this.#time = start;
    const top = this.#depth > 0 ? this.#open[this.#depth - 1]! : null;
    // The same noticed twice, as when a batch was imported again from a file.
    if (top && top.subject === subject && top.end === end) return;
    const place = this.#open[this.#depth++];
    const behind = top !== null && this.#isBehind(subject, top.subject);
    if (!place) this.#open.push({ end, subject, hands, length: end - start });
    else this.#fill(place, end, subject, hands, end - start);
    if (behind) [this.#open[this.#depth - 1], this.#open[this.#depth - 2]] = [top, this.#open[this.#depth - 1]!];
  }

  #fill(place: Open, end: Instant, subject: number, hands: number, length: number): void {
    place.end = end;
    place.subject = subject;
    place.hands = hands;
    place.length = length;
  }

  done(): Piece[] {
    this.#goTo(Infinity);
    return this.#pieces;
  }

  #goTo(until: Instant): void {
    while (this.#depth > 0 && this.#time < until) {
      const top = this.#open[this.#depth - 1]!;
      const end = top.end < until ? top.end : until;
      if (end > this.#time) {
        // Hands on go with the part that is left of it.
        const hands = top.hands < 0 ? -1 : Math.min(end - this.#time, (top.hands * (end - this.#time)) / top.length);
        this.#put(this.#time, end, top.subject, hands);
        this.#time = end;
      }
      if (top.end <= this.#time) this.#depth--;
    }
  }

  /** Repeats of one thing are one piece. */
  #put(start: Instant, end: Instant, subject: number, hands: number): void {
    const last = this.#pieces[this.#pieces.length - 1];
    if (last && last.end === start && last.subject === subject) {
      last.end = end;
      last.hands = bothHands(last.hands, hands);
    } else this.#pieces.push({ start, end, subject, hands, beside: null, decided: null });
  }
}

const bothHands = (a: number, b: number): number => (a < 0 ? b : b < 0 ? a : a + b);

/** A part of a piece, with its part of the hands. */
export function partOf(piece: Piece, start: Instant, end: Instant): Piece {
  if (start === piece.start && end === piece.end) return piece;
  const share = (end - start) / (piece.end - piece.start);
  return { ...piece, start, end, hands: piece.hands < 0 ? -1 : piece.hands * share };
}

/** Pieces without the times of `holes`, which are sorted and apart from one another. */
export function without(pieces: readonly Piece[], holes: readonly Interval[]): Piece[] {
  if (holes.length === 0) return pieces as Piece[];
  const left: Piece[] = [];
  let next = 0;
  for (const piece of pieces) {
    while (next < holes.length && holes[next]!.end <= piece.start) next++;
    let start = piece.start;
    for (let at = next; at < holes.length && holes[at]!.start < piece.end; at++) {
      if (holes[at]!.start > start) left.push(partOf(piece, start, holes[at]!.start));
      start = Math.max(start, holes[at]!.end);
    }
    if (start < piece.end) left.push(partOf(piece, start, piece.end));
  }
  return left;
}

/** Only what of the pieces lies in `bounds`, which are sorted and apart from one another. */
export function within(pieces: readonly Piece[], bounds: readonly Interval[]): Piece[] {
  const found: Piece[] = [];
  let next = 0;
  for (const piece of pieces) {
    while (next < bounds.length && bounds[next]!.end <= piece.start) next++;
    for (let at = next; at < bounds.length && bounds[at]!.start < piece.end; at++) {
      found.push(partOf(piece, Math.max(piece.start, bounds[at]!.start), Math.min(piece.end, bounds[at]!.end)));
    }
  }
  return found;
}

/** Calls and meetings take their time from what was in front, which is told of them. */
function besideTalks(fronts: readonly Piece[], talks: readonly Piece[]): Piece[] {
  if (talks.length === 0) return fronts as Piece[];
  const spans = talks.map(({ start, end }) => ({ start, end }));
  const told = talks.map((talk) => {
    const beside = new Set(within(fronts, [talk]).map((piece) => piece.subject));
    return { ...talk, beside: [...beside] };
  });
  return [...without(fronts, union(spans)), ...told].sort((a, b) => a.start - b.start);
}

/** Time away that no call or meeting went on in. */
function outside(away: readonly Interval[], talks: readonly Piece[]): Interval[] {
  const pieces = away.map((each): Piece => ({ ...each, subject: 0, hands: -1, beside: null, decided: null }));
  return without(pieces, union(talks.map(({ start, end }) => ({ start, end })))).map(({ start, end }) => ({
    start,
    end,
  }));
}

/** A glance at something belongs to what was done before it, or after where nothing was. */
function withoutBlips(pieces: readonly Piece[], blip: number): Piece[] {
  if (blip === 0) return pieces as Piece[];
  const left: Piece[] = [];
  const join = (last: Piece, next: Piece) => {
    last.end = next.end;
    last.hands = bothHands(last.hands, next.hands);
  };
  let waiting: Piece | null = null;
  // The pieces are this function's alone by now, and changed where they stand.
  for (const piece of pieces) {
    if (waiting && waiting.end === piece.start) {
      piece.start = waiting.start;
      piece.hands = bothHands(piece.hands, waiting.hands);
      waiting = null;
    } else if (waiting) {
      left.push(waiting);
      waiting = null;
    }
    const last = left[left.length - 1];
    if (last && last.end === piece.start && last.subject === piece.subject) join(last, piece);
    else if (piece.end - piece.start < blip && piece.beside === null) {
      if (last && last.end === piece.start) join(last, piece);
      else waiting = piece;
    } else left.push(piece);
  }
  if (waiting) left.push(waiting);
  return left;
}
