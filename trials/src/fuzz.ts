import { chanceOf } from './chance';
import { Garbage, importers, saidBy, type Importer } from './importers';
import { mutate } from './mutate';

/** Something that ought not to happen, and with what seed it does. */
export interface Finding {
  importer: string;
  seed: number;
  what: 'raw' | 'garbage' | 'slow' | 'hang';
  text: string;
}

export interface Tally {
  files: number;
  /** Files of which something was taken. */
  taken: number;
  /** Different things that were said, without their figures. */
  said: Set<string>;
  slowest: number;
  findings: Finding[];
}

/** Above this a file of at most a megabyte took too long. */
const SLOW = 3000;

/** Words that only libraries and engines use. */
const FOREIGN =
  /\bundefined\b|is not a function|is not iterable|cannot read prop|unexpected (?:token|end|non)|invalid (?:input|date|array|regular|time value|string length)|\bNaN\b|\[object |maximum call stack|out of range|not in JSON|ZodError|expected .*, received|duplicate attribute|unpaired|closing tag|Unclosed|RangeError|TypeError|\bat line\b.*col/i;

/** The file that a seed makes for an importer. */
export const fileOf = ({ corpus, words }: Importer, seed: number): Uint8Array => mutate(corpus, words, chanceOf(seed));

/** Reads the file of one seed and looks at what came of it. */
export async function tryOne(name: string, importer: Importer, seed: number, tally: Tally): Promise<void> {
  const bytes = fileOf(importer, seed);
  const find = (what: Finding['what'], text: string) =>
    void tally.findings.push({ importer: name, seed, what, text: text.slice(0, 400) });
  const start = performance.now();
  let said: readonly string[] = [];
  try {
    const outcome = await importer.read(bytes);
    said = outcome.said;
    if (outcome.taken > 0) tally.taken++;
  } catch (thrown) {
    const told = saidBy(thrown);
    if (told) said = told;
    else if (thrown instanceof Garbage) find('garbage', thrown.message);
    else
      find(
        'raw',
        thrown instanceof Error ? `${thrown.name}: ${thrown.message}\n${thrown.stack ?? ''}` : String(thrown),
      );
  }
  const spent = performance.now() - start;
  for (const message of said) {
    // What stands in quotation marks is the file's own.
    const ours = message.replace(/“[^”]*”|"[^"]*"/g, '');
    if (FOREIGN.test(ours)) find('raw', message);
    if (tally.said.size < 2000) tally.said.add(ours.replace(/\d+/g, 'n').slice(0, 120));
  }
  tally.files++;
  tally.slowest = Math.max(tally.slowest, spent);
  if (spent > SLOW) find('slow', `${Math.round(spent)} ms for ${bytes.length} bytes`);
}

export const emptyTally = (): Tally => ({ files: 0, taken: 0, said: new Set(), slowest: 0, findings: [] });

/** Tries one importer for as long or as often as asked, from a seed on. */
export async function fuzz(
  name: string,
  importer: Importer,
  {
    seed,
    until,
    told,
  }: { seed: number; until: (tally: Tally) => boolean; told?: (seed: number, tally: Tally) => void },
): Promise<Tally> {
  const tally = emptyTally();
  for (let next = seed; !until(tally); next++) {
    told?.(next, tally);
    await tryOne(name, importer, next, tally);
  }
  return tally;
}

export { importers };
