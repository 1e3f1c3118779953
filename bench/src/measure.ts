/** One measured line: what, against what, and the ratio that counts. */
export interface Measured {
  what: string;
  /** In words, with its unit. */
  own: string;
  peer: string;
  other: string;
  ratio: number;
  /** The largest ratio that is aimed at, or the least where `atLeast`; null where there is no aim. */
  aim: number | null;
  atLeast: boolean;
}

/** Whether everything is measured in small, to see that it runs: the figures of such a run say nothing. */
export const short = process.env.BENCH_SHORT !== undefined;

/** A count, or a small one where the run is short. */
export const count = (whole: number, little: number): number => (short ? little : whole);

const rows: Measured[] = [];
/** What this process has measured so far. */
export const measured = (): readonly Measured[] => rows;

/** Milliseconds of the median run, after warming up until the runtime has settled. */
export async function median(runs: number, task: () => unknown): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < runs * 2; i++) {
    const start = performance.now();
    await task();
    if (i >= runs) times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  return times[Math.floor(times.length / 2)]!;
}

const milliseconds = (value: number): string =>
  value < 1
    ? `${Math.round(value * 1000)} µs`
    : value < 10_000
      ? `${Math.round(value * 10) / 10} ms`
      : `${Math.round(value / 1000)} s`;

/** A line of the report from two lengths of time in milliseconds. */
export function report(what: string, own: number, peer: string, other: number, aim: number | null = null): void {
  compare({ what, own: milliseconds(own), peer, other: milliseconds(other), ratio: own / other, aim });
}

/** A line of the report from figures of any unit. */
export function compare({ atLeast = false, ...row }: Omit<Measured, 'atLeast'> & { atLeast?: boolean }): void {
  const made = { ...row, atLeast };
  rows.push(made);
  console.log(`  ${made.what}: ${made.own}; ${made.peer}: ${made.other}; ratio ${ratioOf(made)}${aimOf(made)}`);
}

/** Small ratios to three places: where the aim is a fifteenth, a tenth tells nothing. */
export const ratioOf = ({ ratio }: Measured): number =>
  Math.round(ratio * (ratio < 1 ? 1000 : 10)) / (ratio < 1 ? 1000 : 10);

export const isMet = ({ ratio, aim, atLeast }: Measured): boolean =>
  aim === null || (atLeast ? ratio >= aim : ratio <= aim);

const aimOf = (row: Measured): string =>
  row.aim === null
    ? ''
    : ` (aim at ${row.atLeast ? 'least' : 'most'} ${Math.round(row.aim * 1000) / 1000}: ${isMet(row) ? 'met' : 'not met'})`;

/** Something worth knowing that is no comparison. */
export const note = (text: string): void => console.log(`  ${text}`);
