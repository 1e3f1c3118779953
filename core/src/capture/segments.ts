import type { Interval } from '../time/interval';
import type { Piece } from './attention';
import type { Placing } from './placing';
import type { Evidence } from './stretch';

/** A stretch while it is being formed. */
export interface Segment {
  placing: Placing | null;
  pieces: Piece[];
  /** Null where the person placed it. */
  strand: number | null;
  ruled: boolean;
  spans: Interval[] | null;
  /** Where its first piece stands among the day's. */
  first: number;
}

/** The times of pieces, which stand in their order and never overlap; those that touch are one. */
export function spansOf(pieces: readonly Piece[]): Interval[] {
  const spans: Interval[] = [];
  for (let at = 0; at < pieces.length;) {
    const { start } = pieces[at]!;
    let { end } = pieces[at++]!;
    while (at < pieces.length && pieces[at]!.start === end) ({ end } = pieces[at++]!);
    spans.push({ start, end });
  }
  return trimmed(spans);
}

const seenFirst = (a: Evidence, b: Evidence): number => b.seen - a.seen || a.first - b.first;
const FEW = 8;

/** The most seen first. Mostly there are a few, for which a sort of its own costs more than putting each in its place. */
export function mostFirst(evidence: readonly Evidence[]): Evidence[] {
  const list = trimmed(evidence);
  if (list.length > FEW) return list.sort(seenFirst);
  for (let next = 1; next < list.length; next++) {
    const own = list[next]!;
    let at = next;
    for (; at > 0 && seenFirst(own, list[at - 1]!) < 0; at--) list[at] = list[at - 1]!;
    list[at] = own;
  }
  return list;
}

/** Without the room that a list which grew keeps for more: what stays for long and is there in great numbers is kept small. */
const trimmed = <T>(list: readonly T[]): T[] => list.slice();

/** Short ones go to the one that is closest in time, where that is near enough; no time is lost by it. */
export function withoutShort(
  forms: readonly Segment[],
  owners: readonly Segment[],
  pieces: readonly Piece[],
  shortest: number,
  gap: number,
): Segment[] {
  const lengthOf = (form: Segment) => form.pieces.reduce((sum, piece) => sum + piece.end - piece.start, 0);
  const long = new Set(forms.filter((form) => lengthOf(form) >= shortest));
  if (long.size === 0 || long.size === forms.length) return forms as Segment[];
  const grown = new Set<Segment>();
  const kept = forms.filter((form) => {
    if (long.has(form)) return true;
    // What a rule placed is not mixed with what it did not, however short.
    if (form.ruled) return true;
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

/** Which pieces belong together: of each piece the number of its strand, and of each strand whether a rule made it. */
export interface Strands {
  of: Int32Array;
  ruled: readonly boolean[];
  /** Of each piece how firmly it holds to its strand, 0 to 1; beyond all measure where a rule put it there. */
  hold: Float64Array;
}

/** A way that pieces can go: from one on they are of a strand, before that they go as another way does. */
interface Way {
  strand: number;
  first: number;
  before: Way | null;
}

/**
 * The strand that each piece goes to, so that going from one to another and time in the wrong one come to the least. Nothing is wrong
 * about a piece in the strand it is of; in another it costs its length by how firmly it holds, and pieces of a rule go nowhere else.
 * A strand begins with a piece of its own: what leads to work that is new may as well be its own.
 *
 * @param change what going from one strand to another costs, in milliseconds that are firmly in the wrong one
 * @param gap after so many milliseconds without anything it costs nothing
 */
export function settled(
  pieces: readonly Piece[],
  { of, hold, ruled }: Strands,
  change: number,
  gap: number,
): Int32Array {
  if (change === 0 || pieces.length === 0) return of;
  // The best way into each strand; into one that is not here it is to change from the best of all.
  let open: { way: Way; cost: number }[] = [];
  for (let at = 0; at < pieces.length; at++) {
    const { start, end } = pieces[at]!;
    const own = of[at]!;
    const wrong = hold[at]! * (end - start);
    let best = open[0];
    for (const each of open) if (each.cost < best!.cost) best = each;
    const changed = at > 0 && start - pieces[at - 1]!.end > gap ? best!.cost : (best?.cost ?? -change) + change;
    const way = best?.way ?? null;
    let least = Infinity;
    let known = false;
    for (const each of open) {
      const { strand } = each.way;
      if (each.cost > changed) {
        each.way = { strand, first: at, before: way };
        each.cost = changed;
      }
      if (strand === own) known = true;
      else each.cost += ruled[own] || ruled[strand] ? Infinity : wrong;
      if (each.cost < least) least = each.cost;
    }
    if (!known) {
      open.push({ way: { strand: own, first: at, before: way }, cost: changed });
      if (changed < least) least = changed;
    }
    if (open.length > 1) open = open.filter((each) => each.cost <= least + change);
  }
  const to = new Int32Array(pieces.length);
  let last = pieces.length;
  let way: Way | null = open.reduce((a, b) => (b.cost < a.cost ? b : a)).way;
  for (; way; way = way.before) {
    to.fill(way.strand, way.first, last);
    last = way.first;
  }
  return to;
}
