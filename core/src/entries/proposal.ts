import type { Id } from '../model/ids';
import type { Client, Project } from '../model/records';

/** What a proposal goes by: an event's or a row's words, and who is invited. */
export interface Clue {
  title: string;
  /** Names and addresses as they are written: "Stage door <door@quayside-playhouse.example>". */
  guests: readonly string[];
}

export interface Proposal {
  projectId: Id;
  /** "door@quayside-playhouse.example is of Quayside Playhouse". */
  why: string;
}

interface Book {
  clients: readonly Client[];
  projects: readonly Project[];
}

const MOST_COMMON = new Set([
  'the',
  'and',
  'for',
  'with',
  'council',
  'town',
  'company',
  'limited',
  'ltd',
  'museum',
  'dance',
]);
const SHORTEST = 4;

const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
const tellingWords = (text: string): string[] =>
  wordsOf(text).filter((word) => word.length >= SHORTEST && !MOST_COMMON.has(word));

/**
 * The job that an event is likely about: a job number in its title, a project or client it names, or a guest whose mail address is of a
 * client's domain. Null where nothing speaks for one, or as much for several.
 */
export function proposeJob(clue: Clue, book: Book): Proposal | null {
  const open = book.projects.filter((project) => {
    const client = book.clients.find((each) => each.id === project.clientId);
    return !project.finished && !client?.archived;
  });
  const title = clue.title.toLowerCase();
  const numbered = open.filter(
    (project) => project.jobNumber.trim() && title.includes(project.jobNumber.trim().toLowerCase()),
  );
  if (numbered.length === 1)
    return { projectId: numbered[0]!.id, why: `its title has the job number ${numbered[0]!.jobNumber}` };
  const named = onlyBest(open, (project) => share(tellingWords(project.name), title));
  if (named) return { projectId: named.id, why: `its title names ${named.name}` };
  const byClient = (client: Client, why: string): Proposal | null => {
    const own = open.filter((project) => project.clientId === client.id);
    const best = onlyBest(own, (project) => tellingWords(project.name).filter((word) => title.includes(word)).length);
    const project = best ?? own[0];
    return project ? { projectId: project.id, why } : null;
  };
  const titled = onlyBest(book.clients, (client) => share(tellingWords(client.name), title));
  if (titled) return byClient(titled, `its title names ${titled.name}`);
  for (const client of book.clients) {
    const domain = domainOf(client.email);
    const guest = domain && clue.guests.find((each) => domainOf(each) === domain);
    if (guest) return byClient(client, `${addressOf(guest)} is of ${client.name}`);
  }
  return null;
}

/** 1 where all words stand in the text, 0 otherwise: half a name is no name. */
const share = (words: readonly string[], text: string): number =>
  words.length > 0 && words.every((word) => text.includes(word)) ? words.length : 0;

/** The one with the highest score above nothing, unless another has the same. */
function onlyBest<T>(list: readonly T[], score: (each: T) => number): T | null {
  const scored = list.map((each) => ({ each, score: score(each) })).filter((found) => found.score > 0);
  scored.sort((a, b) => b.score - a.score);
  return scored.length > 0 && scored[0]!.score > (scored[1]?.score ?? 0) ? scored[0]!.each : null;
}

const addressOf = (text: string): string => /[^\s<>"']+@[^\s<>"']+/.exec(text)?.[0] ?? text;

/** The domain of a mail address. */
const domainOf = (text: string): string | null => /@([\w.-]+)/.exec(text)?.[1]?.toLowerCase() ?? null;
