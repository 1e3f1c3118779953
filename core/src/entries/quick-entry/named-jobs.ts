import { isEveryday, isLinking } from './everyday';
import type { LineJob } from './said';

// Which jobs words name, and how surely. A job that is chosen wrongly stands on somebody's bill, so what is not sure is only offered.

/** How well words fit a job, the best last. */
const Fit = { Beginning: 1, Words: 2, WholeClient: 3, WholeName: 4 } as const;
type Fit = (typeof Fit)[keyof typeof Fit];

interface Known {
  job: LineJob;
  own: ReadonlySet<string>;
  around: ReadonlySet<string>;
  /** The words that tell its own name and its client's apart from others, in order. */
  ownTelling: readonly string[];
  ownInOrder: string;
  clientTelling: readonly string[];
  /** Its own name and those around it, without linking words. */
  names: ReadonlySet<string>;
  number: string;
}

/** Jobs prepared for being named: made once for a list. */
interface JobIndex {
  known: readonly Known[];
  /** Every word that a job is known by, and by whom. */
  vocabulary: ReadonlyMap<string, readonly Known[]>;
  numbers: ReadonlyMap<string, readonly Known[]>;
  /** What words begin, as it was asked for. */
  begun: Map<string, ReadonlySet<Known>>;
}

const indexes = new WeakMap<readonly LineJob[], JobIndex>();

/** Small letters without accents: "Fête" → "fete". */
export const folded = (text: string): string =>
  text.normalize('NFD').replace(/\p{M}/gu, '').replace(/’/g, "'").toLowerCase();

/** The words of a name, with the parts of "double-bill" beside it. */
function wordsOf(name: string): string[] {
  return folded(name)
    .split(/[\s·,;:()&+–—"“”]+|\/(?!\d)/)
    .map((word) => word.replace(/^[.'!?]+|[.'!?]+$/g, ''))
    .filter(Boolean);
}

const tellingOf = (name: string): string[] => wordsOf(name).filter((word) => !isLinking(word));

const withParts = (words: readonly string[]): string[] =>
  words.flatMap((word) => (word.includes('-') ? [word, ...word.split('-').filter(Boolean)] : [word]));

function indexOf(jobs: readonly LineJob[]): JobIndex {
  let index = indexes.get(jobs);
  if (index) return index;
  const vocabulary = new Map<string, Known[]>();
  const numbers = new Map<string, Known[]>();
  const add = (map: Map<string, Known[]>, word: string, known: Known) => {
    const list = map.get(word);
    if (!list) map.set(word, [known]);
    else if (list.at(-1) !== known) list.push(known);
  };
  const known = jobs.map((job) => {
    const own = wordsOf(job.own);
    const one: Known = {
      job,
      own: new Set(withParts(own)),
      around: new Set(withParts(job.around.flatMap(wordsOf))),
      ownTelling: tellingOf(job.own),
      ownInOrder: ` ${own.join(' ')} `,
      clientTelling: tellingOf(job.around.at(-1) ?? ''),
      names: new Set([job.own, ...job.around].map((name) => tellingOf(name).join(' '))),
      number: folded(job.jobNumber.trim()),
    };
    for (const word of new Set([...one.own, ...one.around])) add(vocabulary, word, one);
    // A task goes by its project's number, but the number names the project.
    if (one.number && job.taskId === null) add(numbers, one.number, one);
    return one;
  });
  index = { known, vocabulary, numbers, begun: new Map() };
  indexes.set(jobs, index);
  return index;
}

/** Those who have a word that begins so. */
function begunBy(index: JobIndex, beginning: string): ReadonlySet<Known> {
  let found = index.begun.get(beginning);
  if (found) return found;
  const all = new Set<Known>();
  for (const [word, known] of index.vocabulary) if (word.startsWith(beginning)) for (const each of known) all.add(each);
  if (index.begun.size > 2000) index.begun.clear();
  index.begun.set(beginning, (found = all));
  return found;
}

/** Words of a line that name jobs. */
export interface JobRun {
  from: number;
  to: number;
  /** Those that fit best, likeliest first. */
  jobs: LineJob[];
  /** Whether they say one job surely enough to choose it. */
  sure: boolean;
  /** Whether "for" or a job number says that a job is meant. */
  said: boolean;
  /** Whether they name a job even where they do not choose it, as in the middle of a note. */
  spokenOf: boolean;
  /** Whether the job's own name is there in full. */
  whole: boolean;
  score: number;
}

interface Word {
  text: string;
  from: number;
  to: number;
}

export interface RunPlace {
  from: number;
  to: number;
  /** The whole line is these words: somebody switches jobs and sees what they get. */
  switching: boolean;
}

const MOST_WORDS = 24;
/** From here on a preposition says that a job follows. */
const STRONG = 800;
/** A beginning this much of its word is nearly the word. */
const NEARLY = 0.6;
/** Words before a place: "drove to saltmere" names no job by that alone. */
const TOWARDS = new Set(['to', 'from', 'in', 'near', 'via']);
/** Words that a job's name follows, and how much they say that one does. */
const PREPOSITIONS: Readonly<Record<string, number>> = { for: 1000, on: 900, at: 800, with: 300, re: 300, 're:': 300 };

/** The words between two places. */
function wordsBetween(text: string, from: number, to: number): Word[] {
  return [...text.slice(from, to).matchAll(/[^\s]+/g)].flatMap((match) => {
    const word = folded(match[0]).replace(/^[(/·–—"“.'!?]+|[.:!?)'"”/·–—]+$/g, '');
    const at = from + match.index;
    return [{ text: word, from: at, to: at + match[0].length }];
  });
}

/** The words of a place that may name jobs, the surest first: at its beginning or end, after "for", a job number anywhere. */
export function jobRunsIn(text: string, place: RunPlace, jobs: readonly LineJob[]): JobRun[] {
  const index = indexOf(jobs);
  const words = wordsBetween(text, place.from, place.to);
  const runs: JobRun[] = [];
  for (let first = 0; first < words.length; first++) {
    const preposition = PREPOSITIONS[words[first]!.text] ?? 0;
    const number = numberRun(index, words, first);
    if (number) runs.push(number);
    for (let last = Math.min(words.length, first + MOST_WORDS); last > first; last--) {
      const run = runOf(index, words, first, last, preposition, place);
      if (run) runs.push(run);
    }
  }
  return runs.sort((a, b) => b.score - a.score);
}

/** Where a job's name or number ends that begins with the figure at a place; null where there is none. */
export function figureJobEnd(
  text: string,
  from: number,
  to: number,
  first: boolean,
  jobs: readonly LineJob[],
): number | null {
  const index = indexOf(jobs);
  const words = wordsBetween(text, from, to);
  const number = numberRun(index, first ? words : [{ text: '', from, to: from }, ...words], first ? 0 : 1);
  if (number) return number.to;
  for (let count = Math.min(words.length, MOST_WORDS); count > 1; count--) {
    const name = ` ${words
      .slice(0, count)
      .map((word) => word.text)
      .join(' ')} `;
    if (index.known.some(({ ownInOrder }) => (first ? ownInOrder.startsWith(name) : ownInOrder === name)))
      return words[count - 1]!.to;
  }
  return null;
}

/** Whether words say nothing but a job that is chosen already: its client beside it, or a project around it. */
export function saysOnly(text: string, from: number, to: number, job: LineJob, jobs: readonly LineJob[]): boolean {
  const known = indexOf(jobs).known.find((each) => each.job.id === job.id);
  const words = wordsBetween(text, from, to).flatMap(({ text: word }) => (word && !isLinking(word) ? [word] : []));
  return (
    known !== undefined &&
    (known.names.has(words.join(' ')) ||
      (words.some((word) => !isEveryday(word)) && words.every((word) => known.own.has(word) || known.around.has(word))))
  );
}

/** A job number stands for itself, wherever it is; one of one or two digits only where it begins. */
function numberRun({ numbers }: JobIndex, words: readonly Word[], at: number): JobRun | null {
  for (const count of [3, 2, 1]) {
    const run = words.slice(at, at + count);
    if (run.length < count) continue;
    const number = run.map((word) => word.text).join(' ');
    const fitting = numbers.get(number);
    if (!fitting || (/^\d{1,2}$/.test(number) && at > 0)) continue;
    const before = words[at - 1];
    const from = before && PREPOSITIONS[before.text] ? before.from : run[0]!.from;
    return {
      from,
      to: run.at(-1)!.to,
      jobs: fitting.map(({ job }) => job),
      sure: fitting.length === 1,
      said: true,
      spokenOf: true,
      whole: false,
      score: 100_000 + number.length,
    };
  }
  return null;
}

function runOf(
  index: JobIndex,
  words: readonly Word[],
  first: number,
  last: number,
  preposition: number,
  place: RunPlace,
): JobRun | null {
  const run = words.slice(preposition > 0 ? first + 1 : first, last).filter((word) => /[\p{L}\p{N}]/u.test(word.text));
  // A linking word that the name does not have, such as "the", takes nothing away.
  const telling = run.map((word) => word.text).filter((word) => !isLinking(word));
  if (telling.length === 0 || telling.every((word) => word.length < 3)) return null;
  const [rarest, ...others] = telling.map((word) => begunBy(index, word)).sort((a, b) => a.size - b.size);
  let fitting: Fitting[] = [];
  for (const known of rarest!) {
    if (others.every((each) => each.has(known))) fitting.push({ known, ...fitOf(known, telling) });
  }
  const whole = fitting.filter(({ fit }) => fit > Fit.Beginning);
  if (whole.length > 0) fitting = whole;
  else if (telling.every(isEveryday)) return null;
  if (fitting.length === 0) return null;
  fitting.sort((a, b) => b.fit - a.fit || b.own - a.own);
  const [{ fit: top, own: mostOwn }] = fitting as [Fitting];
  // One word may be anybody's who has it; several mean the one they fit best.
  const best = telling.length === 1 ? fitting : fitting.filter(({ fit, own }) => fit === top && own === mostOwn);
  const kept = openOf(withoutParts(best, fitting, telling));
  const towards = TOWARDS.has(words[first - 1]?.text ?? '') || TOWARDS.has(words[first]!.text);
  const isAll = first === 0 && last === words.length;
  const inside = preposition === 0 && first > 0 && last < words.length;
  const sure =
    kept.length === 1 &&
    isSure(kept[0]!, top, telling, place.switching && isAll) &&
    // In the middle of a note a single word tells that a job is spoken of, not that it is meant.
    !((inside || towards) && telling.length === 1);
  const letters = telling.reduce((sum, word) => sum + word.length, 0);
  return {
    from: words[first]!.from,
    to: words[last - 1]!.to,
    jobs: (sure ? kept : openOf(withoutParts(fitting, fitting, telling))).map(({ job }) => job),
    sure,
    said: preposition >= STRONG,
    spokenOf: kept.length === 1 && isSure(kept[0]!, top, telling, false),
    whole: top === Fit.WholeName,
    score: (sure ? 10_000 : 0) + preposition + top * 100 + letters - (inside ? 500 : 0),
  };
}

interface Fitting {
  known: Known;
  fit: Fit;
  /** How many of the words are of its own name. */
  own: number;
}

/** What takes no more time is meant only where nothing else fits as well. */
function openOf(known: readonly Known[]): readonly Known[] {
  const open = known.filter(({ job }) => job.closed === null);
  return open.length > 0 ? open : known;
}

function fitOf(known: Known, telling: readonly string[]): { fit: Fit; own: number } {
  const own = telling.filter((word) => known.own.has(word)).length;
  const whole = telling.every((word) => known.own.has(word) || known.around.has(word));
  if (!whole) return { fit: Fit.Beginning, own };
  const hasAll = (name: readonly string[]) => name.length > 0 && name.every((word) => telling.includes(word));
  if (hasAll(known.ownTelling)) return { fit: Fit.WholeName, own };
  return { fit: hasAll(known.clientTelling) ? Fit.WholeClient : Fit.Words, own };
}

/** Without what is part of another that the same words fit: the project is meant, not its tasks, unless a word is the task's alone. */
function withoutParts(best: readonly Fitting[], fitting: readonly Fitting[], telling: readonly string[]): Known[] {
  const projects = new Map(
    fitting.filter(({ known }) => known.job.taskId === null).map(({ known }) => [known.job.projectId, known]),
  );
  const isPart = ({ job }: Known) =>
    job.within.some((id) => {
      const around = projects.get(id);
      return (
        around !== undefined &&
        around.job.id !== job.id &&
        telling.every((word) => around.own.has(word) || around.around.has(word))
      );
    });
  const apart = best.map(({ known }) => known).filter((each) => !isPart(each));
  if (apart.length > 0) return apart;
  // All are parts of what fits around them: that is meant.
  return [...projects.values()].filter((each) => !isPart(each));
}

/** Whether words that fit only this job say so surely enough. */
function isSure(
  { job, own, ownInOrder, number }: Known,
  fit: Fit,
  telling: readonly string[],
  switching: boolean,
): boolean {
  const said = telling.filter((word) => !isEveryday(word));
  if (fit === Fit.Beginning) {
    const [only, second] = telling;
    if (said.length === 0 || second !== undefined) return said.length > 0 && telling.length > 1 && switching;
    const begun = [...own].filter((word) => word.startsWith(only!));
    return switching || begun.some((word) => only!.length >= 5 && only!.length >= word.length * NEARLY);
  }
  if (telling.includes(number) && number !== '') return true;
  if (said.length === 0) {
    // Everyday words say a job only as its name, one after the other: "winter season" of "Winter season rig".
    const owned = telling.filter((word) => own.has(word));
    return owned.length >= 2 && ownInOrder.includes(` ${owned.join(' ')} `);
  }
  // A task by one word: too many projects have such a task, here or not yet.
  if (job.taskId !== null && telling.length === 1) return false;
  return true;
}
