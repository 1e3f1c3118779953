import type { Id } from '../model/ids';
import type { Client, Contact, Project } from '../model/records';

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
  contacts: readonly Contact[];
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
  const contact = clue.guests.map((guest) => contactOf(guest, book.contacts)).find((each) => each !== null) ?? null;
  const answered = open.filter((project) => contact?.projectIds?.includes(project.id));
  if (contact && answered.length === 1) {
    return { projectId: answered[0]!.id, why: `${contact.name} answers for ${answered[0]!.name}` };
  }
  const byClient = (client: Client, why: string): Proposal | null => {
    const all = open.filter((project) => project.clientId === client.id);
    const own = answered.some((project) => project.clientId === client.id) ? answered : all;
    const best = onlyBest(own, (project) => tellingWords(project.name).filter((word) => title.includes(word)).length);
    const project = best ?? own[0];
    return project ? { projectId: project.id, why } : null;
  };
  const titled = onlyBest(book.clients, (client) => share(tellingWords(client.name), title));
  if (titled) return byClient(titled, `its title names ${titled.name}`);
  const their = contact && book.clients.find((client) => client.id === contact.clientId);
  if (their) return byClient(their, `${contact.name} is of ${their.name}`);
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

/** The contact whose mail address or telephone number this is; null where it is nobody's, or several share it. */
export function contactOf(person: string, contacts: readonly Contact[]): Contact | null {
  const address = addressOf(person).toLowerCase();
  const digits = digitsOf(person);
  const found = contacts.filter(
    (contact) =>
      (contact.email !== '' && contact.email.toLowerCase() === address) ||
      (digits.length >= LEAST_DIGITS && digitsOf(contact.telephone) === digits),
  );
  return found.length === 1 ? found[0]! : null;
}

/** Fewer digits are an extension, which many have. */
const LEAST_DIGITS = 6;

/** A telephone number's last nine digits, by which the same one is known however it is written. */
export const digitsOf = (text: string): string => text.replace(/\D/g, '').slice(-9);

const addressOf = (text: string): string => /[^\s<>"']+@[^\s<>"']+/.exec(text)?.[0] ?? text;

/** The domain of a mail address. */
const domainOf = (text: string): string | null => /@([\w.-]+)/.exec(text)?.[1]?.toLowerCase() ?? null;
