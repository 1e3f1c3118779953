import type { Id } from '../../model/ids';
import { showExactly } from '../../time/length';
import { MOST_BARE_HOURS, showTypedSpan } from '../../time/read-length';
import { formAt, readOrNull, type Hit } from './forms';
import { figureJobEnd, jobRunsIn, saysOnly, type JobRun } from './named-jobs';
import type { LineContext, LineJob, LineQuestion, UnderstoodLine } from './said';

// Reads a line as one would write it to a colleague: "1:30 yesterday for quayside, plans, plot sheet 4, not billable".
// Lengths, days, billable parts and starts are known by their form wherever they stand; what lies between them and between commas is a
// service when it is one's whole name, a job when it names one surely, and otherwise the note. What could mean several things is asked.

/** Words with nothing known by its form among them, between commas or such. */
interface Stretch {
  from: number;
  to: number;
  quoted: boolean;
  /** Which of the parts between commas it is in. */
  piece: number;
}

interface Scan {
  hits: Hit[];
  /** Where parts between commas, semicolons, lines and quotes begin and end. */
  pieces: { from: number; to: number; quoted: boolean }[];
}

const SEPARATOR = /[,;\n]/;

/** Finds what has a form, and the parts between commas. A comma within a figure separates nothing. */
function scan(text: string, { jobs, today }: LineContext): Scan {
  const hits: Hit[] = [];
  const pieces: Scan['pieces'] = [];
  let begun = 0;
  const close = (to: number, next: number) => {
    if (text.slice(begun, to).trim() !== '') pieces.push({ from: begun, to, quoted: false });
    begun = next;
  };
  for (let at = 0; at < text.length;) {
    const quoted = /^["“]([^"”]*)["”]/.exec(text.slice(at));
    const digit = /\d/.test(text[at]!);
    if (quoted) {
      close(at, at + quoted[0].length);
      pieces.push({ from: at + 1, to: at + quoted[0].length - 1, quoted: true });
      at = begun;
    } else if (SEPARATOR.test(text[at]!)) {
      close(at, at + 1);
      at = begun;
    } else if (at > 0 && !/[\s,;(]/.test(text[at - 1]!)) at++;
    else {
      const first = text.slice(begun, at).trim() === '';
      const end = text.slice(at).search(/[,;\n"“]/);
      const named = digit ? figureJobEnd(text, at, end < 0 ? text.length : at + end, first, jobs) : null;
      const hit = named === null ? formAt(text, at, today) : null;
      if (hit) hits.push(hit);
      at = named ?? hit?.to ?? at + 1;
    }
  }
  close(text.length, text.length);
  return { hits, pieces };
}

/** Whether only what has a form stands between two places. */
function nothingBetween(text: string, from: number, to: number, hits: readonly Hit[]): boolean {
  let rest = text.slice(from, to);
  for (const hit of hits) {
    const [start, end] = [Math.max(hit.from, from), Math.min(hit.to, to)];
    if (start < end) rest = rest.slice(0, start - from) + ' '.repeat(end - start) + rest.slice(end - from);
  }
  return /^[\s,;.]*$/.test(rest);
}

/** Which of what was found counts: bare figures only where they stand apart, of each kind the first, and one length. */
function settle(text: string, { hits, pieces }: Scan): { kept: Hit[]; rivals: Hit[] } {
  const pieceOf = (hit: Hit) => pieces.find((piece) => !piece.quoted && piece.from <= hit.from && hit.from < piece.to);
  const leads = (hit: Hit) => nothingBetween(text, 0, hit.from, hits);
  const alone = (hit: Hit) => {
    const piece = pieceOf(hit);
    return (
      piece !== undefined &&
      nothingBetween(
        text,
        piece.from,
        piece.to,
        hits.filter((each) => !each.bare || each === hit),
      )
    );
  };
  const ends = (hit: Hit) => {
    const piece = pieceOf(hit);
    return piece !== undefined && nothingBetween(text, hit.to, piece.to, hits);
  };
  const standing = hits.filter((hit) => !hit.bare || leads(hit) || alone(hit));
  const lengths = standing.filter((hit) => hit.typed);
  const worked =
    lengths.find((hit) => hit.kind === 'billable') ??
    onlyOne(lengths.filter((hit) => !hit.bare)) ??
    apartOf(
      lengths.filter((hit) => !hit.bare),
      { leads, alone, ends },
      (from, to) => /[\p{L}\p{N}]/u.test(text.slice(from, to).replace(/\b(?:and|plus)\b/gi, '')),
    ) ??
    spanOfSameLength(lengths) ??
    (lengths.every((hit) => hit.bare) ? lengths[0] : undefined);
  const rivals = worked ? [] : lengths.filter((hit) => !hit.bare);
  const taken = new Set<string>();
  const kept = standing.filter((hit) => {
    if (hit.typed) return hit === worked;
    if (taken.has(hit.kind)) return false;
    taken.add(hit.kind);
    return true;
  });
  return { kept, rivals };
}

const onlyOne = (hits: readonly Hit[]): Hit | undefined => (hits.length === 1 ? hits[0] : undefined);

/** The one that stands by itself between commas, or else at the beginning while the others are in the middle of words: "1h, ran 5 m cable". */
function apartOf(
  lengths: readonly Hit[],
  where: Readonly<Record<'leads' | 'alone' | 'ends', (hit: Hit) => boolean>>,
  wordsBetween: (from: number, to: number) => boolean,
): Hit | undefined {
  // "1h + 30m": neither of them is all of it.
  if (lengths.some((hit, index) => index > 0 && !wordsBetween(lengths[index - 1]!.to, hit.from))) return undefined;
  const alone = lengths.filter(where.alone);
  if (alone.length > 0) return onlyOne(alone);
  return lengths.some((hit) => where.ends(hit) && !where.leads(hit)) ? undefined : onlyOne(lengths.filter(where.leads));
}

/** "9–10:30, 1.5 h" says the same twice. */
function spanOfSameLength(lengths: readonly Hit[]): Hit | undefined {
  const span = lengths.find((hit) => hit.kind === 'span');
  return span && lengths.every((hit) => hit.typed!.seconds === span.typed!.seconds) ? span : undefined;
}

function stretchesOf(text: string, pieces: Scan['pieces'], kept: readonly Hit[]): Stretch[] {
  const stretches: Stretch[] = [];
  pieces.forEach(({ from, to, quoted }, piece) => {
    let free = from;
    const close = (end: number) => {
      if (text.slice(free, end).trim() !== '') stretches.push({ from: free, to: end, quoted, piece });
    };
    for (const hit of quoted ? [] : kept) {
      if (hit.from < from || hit.from >= to) continue;
      close(hit.from);
      free = hit.to;
    }
    close(to);
  });
  return stretches;
}

/** Reads a line. Whatever is not understood is the note or asked about: nothing that was typed is lost. */
export function readLine(text: string, context: LineContext): UnderstoodLine {
  const found = scan(text, context);
  const { kept, rivals } = settle(text, found);
  const stretches = stretchesOf(text, found.pieces, kept);
  const { chosen, offered, closed } = chooseJob(text, stretches, kept, context);
  const { tokens, ...words } = place(text, stretches, chosen, context);
  const line: UnderstoodLine = {
    ...words,
    tokens: [...kept.map(({ kind, from, to, says }) => ({ kind, from, to, says })), ...tokens],
    questions: [],
    length: null,
    day: null,
    billableSeconds: null,
    start: null,
    alternatives: chosen ? chosen.jobs.slice(1).map((job) => job.id) : [],
    offer: null,
    closed: closed ? { name: closed.name, why: closed.closed! } : null,
  };
  for (const hit of kept) hit.apply(line);
  atItsTime(line);
  if (offered && line.unlisted === '') {
    const { note, serviceId } = place(text, stretches, offered, context);
    const jobs = offered.jobs.map((job) => job.id);
    line.offer = { from: offered.from, to: offered.to, jobs, note, serviceId };
  }
  line.tokens.sort((a, b) => a.from - b.from);
  line.questions = questionsOf(text, line, found, kept, rivals);
  // A billable part that is more than the length is as good as all of it.
  if (line.length && line.billableSeconds !== null && line.billableSeconds >= line.length.seconds)
    line.billableSeconds = null;
  return line;
}

/** "1 h since 9:15" was from 9:15 to 10:15. */
function atItsTime(line: UnderstoodLine): void {
  const { length, start } = line;
  if (length?.kind !== 'length' || !start || !('atMinute' in start) || length.seconds % 60 !== 0) return;
  const toMinute = start.atMinute + length.seconds / 60;
  if (toMinute > 2 * 1440) return;
  line.length = { kind: 'span', fromMinute: start.atMinute, toMinute, seconds: length.seconds };
  line.start = null;
}

interface JobChoice {
  chosen: JobRun | null;
  offered: JobRun | null;
  closed: LineJob | null;
}

/** The job that the line names surely; otherwise what its words may mean. */
function chooseJob(text: string, stretches: readonly Stretch[], hits: readonly Hit[], context: LineContext): JobChoice {
  const free = stretches.filter(
    (stretch) =>
      !stretch.quoted &&
      !unlistedIn(text, stretch) &&
      !serviceNamed(text.slice(stretch.from, stretch.to).trim(), context),
  );
  const hasLength = hits.some((hit) => hit.typed);
  const runs = free
    .flatMap((stretch) =>
      jobRunsIn(text, { ...stretch, switching: !hasLength && stretches.length === 1 }, context.jobs),
    )
    .sort((a, b) => b.score - a.score);
  const [best] = runs;
  if (!best) return { chosen: null, offered: null, closed: null };
  if (best.jobs[0]!.closed !== null) return { chosen: null, offered: null, closed: best.sure ? best.jobs[0]! : null };
  const clientOf = ({ jobs: [job] }: JobRun) => job!.around.at(-1) ?? '';
  const rival = runs.find(
    (run) =>
      run.spokenOf &&
      run.said === best.said &&
      (run.to <= best.from || run.from >= best.to) &&
      run.jobs[0]!.closed === null &&
      clientOf(run) !== clientOf(best),
  );
  if (best.sure && !rival) return { chosen: taskOf(best, runs) ?? best, offered: null, closed: null };
  return { chosen: null, offered: rival ? { ...best, jobs: [...best.jobs, ...rival.jobs] } : best, closed: null };
}

/** A task or part of the chosen job that is named in full beside it: "focus notes, winter season rig". */
function taskOf(chosen: JobRun, runs: readonly JobRun[]): JobRun | null {
  const project = chosen.jobs[0]!;
  const parts = runs.flatMap((run) => {
    if (!run.whole || (run.to > chosen.from && run.from < chosen.to)) return [];
    const jobs = run.jobs.filter(
      (job) => job.id !== project.id && job.closed === null && job.within.includes(project.projectId),
    );
    return jobs.length === 1 ? [{ ...run, jobs }] : [];
  });
  return project.taskId === null ? (parts[0] ?? null) : null;
}

/** "job: HH-7 Hadley Hall": a job that is not set up yet, up to the comma. */
function unlistedIn(text: string, { from, to, quoted }: Stretch): string | null {
  if (quoted) return null;
  const words = text.slice(from, to).trim();
  const said =
    /^(?:for |on )?(?:a |the )?(?:new|unlisted) job[: ]+(.+)$/i.exec(words) ??
    /^(?:for |on )?job: *(.+)$/i.exec(words) ??
    /^(?:[Ff]or |[Oo]n )?[Jj]ob ([\p{Lu}\d].*)$/u.exec(words);
  return said ? said[1]!.trim().slice(0, 500) : null;
}

type Placed = Pick<UnderstoodLine, 'tokens' | 'projectId' | 'taskId' | 'unlisted' | 'serviceId' | 'note'>;

/** Services, the job and the note among what has no form of its own. */
function place(text: string, stretches: readonly Stretch[], run: JobRun | null, context: LineContext): Placed {
  const placed: Placed = { tokens: [], projectId: null, taskId: null, unlisted: '', serviceId: null, note: '' };
  const notes: { from: number; to: number }[] = [];
  const job = run?.jobs[0];
  const takeService = (from: number, to: number, service: { id: Id; name: string }) => {
    placed.serviceId = service.id;
    placed.tokens.push({ kind: 'service', from, to, says: service.name });
  };
  if (run && job) {
    placed.projectId = job.projectId;
    placed.taskId = job.taskId;
  }
  for (const stretch of stretches) {
    const { from, to, quoted } = stretch;
    const words = text.slice(from, to).trim();
    const unlisted = unlistedIn(text, stretch);
    const service = quoted || placed.serviceId !== null ? null : serviceNamed(words, context);
    if (run && job && run.from >= from && run.to <= to) {
      placed.tokens.push({ kind: 'job', from: run.from, to: run.to, says: job.name });
      for (const [start, end] of [
        [from, run.from],
        [run.to, to],
      ] as const) {
        const rest = text.slice(start, end).trim();
        const other = placed.serviceId === null ? serviceNamed(rest, context) : null;
        if (other) takeService(start, end, other);
        else if (saysOnly(text, start, end, job, context.jobs)) continue;
        else if (/[\p{L}\p{N}]/u.test(rest)) notes.push({ from: start, to: end });
      }
    } else if (unlisted && !job && placed.unlisted === '') {
      placed.unlisted = unlisted;
      placed.tokens.push({ kind: 'unlisted', from, to, says: `“${unlisted}”, not set up yet` });
    } else if (service) takeService(from, to, service);
    else if (job && !quoted && saysOnly(text, from, to, job, context.jobs)) {
      placed.tokens.push({ kind: 'job', from, to, says: job.name });
    } else if (/[\p{L}\p{N}]/u.test(words)) notes.push({ from, to });
  }
  for (const note of notes) placed.tokens.push({ kind: 'note', from: note.from, to: note.to, says: 'note' });
  placed.note = joined(text, notes);
  return placed;
}

/** Notes as one, with a comma where there was one between them. */
function joined(text: string, notes: readonly { from: number; to: number }[]): string {
  let all = '';
  let last = 0;
  for (const { from, to } of notes) {
    const words = text
      .slice(from, to)
      .trim()
      .replace(/^[–—-] +| +[–—-]$/g, '');
    if (all !== '') all += /[,;\n]/.test(text.slice(last, from)) ? ', ' : ' ';
    all += words;
    last = to;
  }
  return all;
}

const SHORTEST_NAME = 3;

/** The service that words name: in full, or by its first words where only one begins so. */
function serviceNamed(words: string, { services }: LineContext): { id: Id; name: string } | null {
  const wanted = words.toLowerCase();
  if (wanted.length < SHORTEST_NAME) return null;
  const fitting = services.filter((service) => `${service.name.toLowerCase()} `.startsWith(`${wanted} `));
  return (
    fitting.find((service) => service.name.toLowerCase() === wanted) ?? (fitting.length === 1 ? fitting[0]! : null)
  );
}

/** Words that begin with a figure and are plainly words: "2nd fix", "3D model", "4K". */
const FIGURE_WORD = /^\d+(?:st|nd|rd|th|d|k|w|v|a|x\d*|mm|cm|kg|kw|way|ch)?(?:[-–/]\p{L}\S*)?$/iu;

/** What is asked before anything is done with the line. */
function questionsOf(
  text: string,
  line: UnderstoodLine,
  { hits }: Scan,
  kept: readonly Hit[],
  rivals: readonly Hit[],
): LineQuestion[] {
  const written = (from: number, to: number, as: string) => `${text.slice(0, from)}${as}${text.slice(to)}`;
  const asNote = (from: number, to: number) => ({
    says: 'part of the note',
    text: written(from, to, `"${text.slice(from, to)}"`),
  });
  if (rivals.length > 1) return [askWhich(text, rivals)];
  const questions: LineQuestion[] = [];
  for (const token of line.tokens) {
    if (token.kind !== 'note' || /["“”]/.test(text[token.from - 1] ?? '')) continue;
    for (const match of text.slice(token.from, token.to).matchAll(/(?<![^\s(])\d[^\s,;]*/g)) {
      const from = token.from + match.index;
      const word = match[0].replace(/[.!?)]+$/, '');
      const to = from + word.length;
      const leads = nothingBetween(text, 0, from, kept);
      const stands = leads || (text.slice(token.from, token.to).trim() === word && token.from > 0);
      const ends = text.slice(to).trim() === '';
      const doubtful =
        (/^\d+:\d/.test(word) && !hits.some((hit) => hit.from === from)) ||
        (line.length === null &&
          ((leads && (!FIGURE_WORD.test(word) || /^\d+$/.test(word))) ||
            (stands && /^\d+(?:[.,]\d+)?$/.test(word)) ||
            (ends && /^\d*[.,]\d+$/.test(word) && hits.some((hit) => hit.from === from))));
      if (!doubtful) continue;
      const meanings = meaningsOf(word).map(({ says, as }) => ({ says, text: written(from, to, as) }));
      questions.push({
        from,
        to,
        asks: `What is “${word.slice(0, 20)}”?`,
        answers: [...meanings, asNote(from, to)],
      });
    }
  }
  return questions;
}

/** What a figure could have meant. */
function meaningsOf(word: string): { says: string; as: string }[] {
  const clock = /^(\d{1,2}):(\d{2})$/.exec(word);
  if (clock) {
    const minutes = Number(clock[1]) * 60 + Number(clock[2]);
    const two = (value: number) => String(value).padStart(2, '0');
    return [`${Math.floor(minutes / 60)}:${two(minutes % 60)}`, `${clock[1]}.${clock[2]} h`].map((as) => ({
      says: showExactly(readOrNull(as)?.seconds ?? 0),
      as,
    }));
  }
  const figure = /^\d+(?:[.,]\d+)?/.exec(word)![0];
  const number = Number(/^\d+/.exec(figure)![0]);
  const meanings: { says: string; as: string }[] = [];
  if (number <= MOST_BARE_HOURS) meanings.push({ says: '', as: `${figure} h` });
  if (number <= 600) meanings.push({ says: '', as: `${figure} min` });
  return meanings.flatMap(({ as }) => {
    const seconds = readOrNull(as)?.seconds;
    return seconds ? [{ says: showExactly(seconds), as }] : [];
  });
}

/** Several lengths, of which only one can be how long it took; together where they are lengths. */
function askWhich(text: string, rivals: readonly Hit[]): LineQuestion {
  const says = ({ typed }: Hit) => (typed!.kind === 'span' ? showTypedSpan(typed!) : showExactly(typed!.seconds));
  const only = (kept: Hit | null) => {
    let written = text;
    for (const hit of [...rivals].reverse()) {
      if (hit !== kept)
        written = `${written.slice(0, hit.from)}"${text.slice(hit.from, hit.to)}"${written.slice(hit.to)}`;
    }
    return written;
  };
  const answers = rivals.map((hit) => ({ says: says(hit), text: only(hit) }));
  const total = rivals.reduce((sum, hit) => sum + hit.typed!.seconds, 0);
  if (rivals.every((hit) => hit.kind === 'length')) {
    let written = text;
    for (const hit of [...rivals].reverse()) written = `${written.slice(0, hit.from)}${written.slice(hit.to)}`;
    answers.push({ says: `${showExactly(total)} together`, text: `${showExactly(total)}, ${written.trim()}` });
  }
  return { from: rivals[0]!.from, to: rivals[0]!.to, asks: 'How long did it take?', answers };
}
