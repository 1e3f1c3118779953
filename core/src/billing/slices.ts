/** Sources, or lines, between two places where long work can be laid down. */
export const SLICE = 200;

/** A list in order, with pauses; the list itself where it stands so already, as it mostly does. What is alike keeps its order. */
export function* sortedInSlices<T>(list: readonly T[], compare: (a: T, b: T) => number): Generator<void, readonly T[]> {
  let ordered = true;
  for (let i = 1; i < list.length && ordered; i++) ordered = compare(list[i - 1]!, list[i]!) <= 0;
  if (ordered) return list;
  // Runs of a few are sorted, then two by two made one.
  let runs: T[][] = [];
  for (let from = 0; from < list.length; from += 4 * SLICE) {
    yield;
    runs.push(list.slice(from, from + 4 * SLICE).sort(compare));
  }
  while (runs.length > 1) {
    const longer: T[][] = [];
    for (let at = 0; at < runs.length; at += 2) {
      yield;
      longer.push(runs[at + 1] ? merged(runs[at]!, runs[at + 1]!, compare) : runs[at]!);
    }
    runs = longer;
  }
  return runs[0] ?? [];
}

function merged<T>(a: readonly T[], b: readonly T[], compare: (a: T, b: T) => number): T[] {
  const both = new Array<T>(a.length + b.length);
  for (let i = 0, j = 0, at = 0; at < both.length; at++) {
    both[at] = j === b.length || (i < a.length && compare(a[i]!, b[j]!) <= 0) ? a[i++]! : b[j++]!;
  }
  return both;
}
