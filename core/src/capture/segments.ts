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

interface Path {
  strand: number;
  cost: number;
  /** The path that it goes on from. */
  from: Path | null;
}

/**
 * The strand that each piece goes to, so that going from one to another and time in the wrong one come to the least: each change costs
 * as much as `change` milliseconds that are wholly in the wrong strand.
 */
export function settled(
  pieces: readonly Piece[],
  { of, hold, ruled }: { of: Int32Array; hold: Float64Array; ruled: readonly boolean[] },
  change: number,
  gap: number,
): Int32Array {
  if (change === 0 || pieces.length === 0) return of;
  // Strands that a path may stand in; all others cost as much as changing from the best of these.
  let paths: Path[] = [];
  for (let at = 0; at < pieces.length; at++) {
    const piece = pieces[at]!;
    const own = of[at]!;
    let best: Path | null = null;
    for (const path of paths) if (!best || path.cost < best.cost) best = path;
    const apart = at > 0 && piece.start - pieces[at - 1]!.end > gap;
    const enter = (best?.cost ?? 0) + (best && !apart ? change : 0);
    const wrong = hold[at]! * (piece.end - piece.start);
    const next: Path[] = [];
    let least = Infinity;
    let known = false;
    for (const path of paths) {
      const isOwn = path.strand === own;
      known ||= isOwn;
      if (!isOwn && (ruled[own] || ruled[path.strand])) continue;
      const goesOn = path.cost <= enter || !best;
      const cost = (goesOn ? path.cost : enter) + (isOwn ? 0 : wrong);
      next.push({ strand: path.strand, cost, from: goesOn ? path : best });
      if (cost < least) least = cost;
    }
    if (!known) {
      next.push({ strand: own, cost: enter, from: best });
      if (enter < least) least = enter;
    }
    paths = next.filter((path) => path.cost <= least + change);
  }
  const result = new Int32Array(pieces.length);
  let path: Path | null = paths.reduce((a, b) => (b.cost < a.cost ? b : a));
  for (let at = pieces.length - 1; at >= 0; at--) {
    result[at] = path!.strand;
    path = path!.from;
  }
  return result;
}
