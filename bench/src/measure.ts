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

/** One line of the report: what, against what, and the ratio that counts. */
export function report(what: string, own: number, peer: string, other: number, aim = ''): void {
  const ms = (value: number) => (value < 1 ? `${Math.round(value * 1000)} µs` : `${Math.round(value * 10) / 10} ms`);
  console.log(`${what}: ${ms(own)}; ${peer}: ${ms(other)}; ratio ${ratio(own / other)}${aim && ` (aim ${aim})`}`);
}

/** Small ratios to three places: where the aim is a fifteenth, a tenth tells nothing. */
const ratio = (value: number): number => Math.round(value * (value < 1 ? 1000 : 10)) / (value < 1 ? 1000 : 10);
