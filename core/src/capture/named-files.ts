import type { Activity } from './activity';
import { isBrowser } from './note';

/** A name so short stands in titles by chance. */
const SHORTEST_STEM = 4;

const nameOf = (file: string): string => file.slice(Math.max(file.lastIndexOf('/'), file.lastIndexOf('\\')) + 1);
const stemOf = (file: string): string => nameOf(file).replace(/(?<=.)\.[^.]*$/, '');

/**
 * The files that a title may mean: by their whole name rather than by their stem, by the longest rather than by a part of it, and those
 * that are open rather than those that are known. Which of several it is nobody can tell but the person.
 */
export function filesNamed(title: string, open: readonly string[], known: Iterable<string>): string[] {
  const all = [...new Set([...open, ...known])];
  for (const called of [nameOf, stemOf]) {
    const named = all.filter((file) => called(file).length >= SHORTEST_STEM && names(title, called(file)));
    const longest = Math.max(0, ...named.map((file) => called(file).length));
    const best = named.filter((file) => called(file).length === longest);
    const held = best.filter((file) => open.includes(file));
    if (best.length > 0) return held.length > 0 ? held : best;
  }
  return [];
}

/** The one file that a title names; null where it names none, or several alike. */
export function fileNamed(title: string, open: readonly string[], known: Iterable<string>): string | null {
  const [only, other] = filesNamed(title, open, known);
  return only !== undefined && other === undefined ? only : null;
}

/** Whether the title of a window may mean a file: nobody said which it is, and it shows no page. */
export const mayNameFile = ({ kind, title, file, address, program = '' }: Activity): boolean =>
  kind === 'window' && !file && !address && !!title && !isBrowser(program);

/** Known files by what titles may call them, for many titles. */
export class NamedFiles {
  readonly #byRun = new Map<string, string[]>();
  readonly #found = new Map<string, readonly string[]>();

  constructor(known: Iterable<string>) {
    for (const file of new Set(known)) {
      // Where a name stands by itself, what it begins with does, too.
      const [run] = runsOf(nameOf(file));
      if (run === undefined) continue;
      const files = this.#byRun.get(run);
      if (files) files.push(file);
      else this.#byRun.set(run, [file]);
    }
  }

  /** The files that a title may mean, see {@link filesNamed}. */
  of(title: string): readonly string[] {
    let found = this.#found.get(title);
    if (!found) {
      const near = [...new Set(runsOf(title))].flatMap((run) => this.#byRun.get(run) ?? []);
      this.#found.set(title, (found = near.length === 0 ? NONE : filesNamed(title, [], near)));
    }
    return found;
  }
}

const NONE: readonly string[] = [];
const runsOf = (text: string): string[] => text.match(/[\p{L}\p{N}]+/gu) ?? [];

/** Whether a name stands in a title by itself: "chapter-3.txt" does not in "chapter-3.txt.bak", nor "plot" in "plot-4". */
function names(title: string, name: string): boolean {
  for (let at = title.indexOf(name); at >= 0; at = title.indexOf(name, at + 1)) {
    const [before, after] = [title.slice(0, at), title.slice(at + name.length)];
    if (!/[\p{L}\p{N}_.-]$/u.test(before) && !/^(?:[\p{L}\p{N}_-]|\.[\p{L}\p{N}])/u.test(after)) return true;
  }
  return false;
}
