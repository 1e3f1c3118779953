// Writes the table in docs/rights.md: what each command needs, and which of the usual sets may begin it. A test holds it against the engine.
import { readFileSync, writeFileSync } from 'node:fs';
import { mayBegin, needs, type CommandName } from '../core/src/commands';
import { Rights, usualSetRows } from '../core/src/rights';

const file = new URL('../docs/rights.md', import.meta.url);
const HEAD = '<!-- the table is written by npm run rights -->';
const sets = usualSetRows().map((row) => new Rights({ ...row, id: row.name }));
const lines = (Object.keys(needs) as CommandName[]).toSorted().map((name) => {
  const { any = [], also = [], byRow, free } = needs[name];
  const either = any.join(' or ');
  const what = free ?? [either, ...also].join(' and ');
  const cells = sets.map((rights) => (mayBegin(rights, name) ? 'yes' : 'no'));
  return `| \`${name}\` | ${what}${byRow ? ' (by row)' : ''} | ${cells.join(' | ')} |`;
});
const heads = sets.map(({ set }) => set!.name);
const table = [
  `| command | needs | ${heads.join(' | ')} |`,
  `| --- | --- | ${heads.map(() => '---').join(' | ')} |`,
  ...lines,
];
const [text] = readFileSync(file, 'utf8').split(HEAD);
writeFileSync(file, `${text!}${HEAD}\n\n${table.join('\n')}\n`);
