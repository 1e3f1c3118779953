import { isMet, ratioOf, type Measured } from './measure';

export interface PartResult {
  name: string;
  rows: readonly Measured[];
  failed: boolean;
  seconds: number;
}

const cell = (text: string | number): string => String(text).replaceAll('|', '\\|');

/** The figures of a run as Markdown. */
export function tableOf(results: readonly PartResult[], at: Date, machine: string): string {
  const lines = results.flatMap(({ name, rows, failed }) => [
    ...rows.map((row) => {
      const aim = row.aim === null ? '' : `${row.atLeast ? '≥' : '≤'} ${Math.round(row.aim * 1000) / 1000}`;
      return `| ${[name, row.what, row.own, `${row.peer}: ${row.other}`, ratioOf(row), aim, row.aim === null ? '' : isMet(row) ? 'met' : '**not met**'].map(cell).join(' | ')} |`;
    }),
    ...(failed ? [`| ${name} | did not run to its end | | | | | |`] : []),
  ]);
  return [
    '# Speed',
    '',
    'Made by `npm run bench -- --table docs/bench.md`. Every figure stands beside a peer or a limit that was measured in the same run; what counts is the ratio.',
    '',
    `Last run: ${at.toISOString().slice(0, 10)} on ${machine}.`,
    '',
    '| part | what | ours | beside | ratio | aim | |',
    '| --- | --- | --- | --- | --- | --- | --- |',
    ...lines,
    '',
  ].join('\n');
}
