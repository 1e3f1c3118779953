import type { Id } from '../model/ids';
import type { Client, Contact, Project } from '../model/records';
import { dialled, waysToDial } from './telephone';

/** What a job is told by: words, who is invited or took part, and whose page it is. */
export interface Clue {
  title: string;
  /** Names, addresses and numbers as they are written: "Stage door <door@quayside-playhouse.example>". */
  guests: readonly string[];
  /** The host of a page; empty where it is none. */
  site?: string;
}

/** What speaks for some job, and why: "door@quayside-playhouse.example is of Quayside Playhouse". */
export interface Lead {
  /** The projects it speaks for alike, the likeliest first; never none. */
  projectIds: readonly Id[];
  why: string;
}

export interface Proposal {
  projectId: Id;
  why: string;
}

/** What is known of clients, their people and their work. */
export interface KnownWork {
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
/** Hosts of mail that anybody may have an address at: what comes from there is of nobody's firm. From memory. */
const ANYBODYS =
  /^(?:gmail|googlemail|hotmail|outlook|live|msn|yahoo|icloud|me|mac|aol|gmx|web|proton(?:mail)?|mail|posteo|free|orange|libero|btinternet)\.[a-z.]{2,6}$/;

const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
const tellingWords = (text: string): string[] =>
  wordsOf(text).filter((word) => word.length >= SHORTEST && !MOST_COMMON.has(word));

interface Named<T> {
  own: T;
  words: readonly string[];
}
/** By a mark what it is of; null where it is of several. */
type Marks<T> = Map<string, T | null>;

/**
 * Finds the job that something is likely about: by a job number in its title, a project or client it names, a contact by mail address
 * or telephone number, or the domain of a client's addresses. Names and numbers are looked up once for all that is asked.
 */
export class JobFinder {
  readonly #projects: readonly (Named<Project> & { number: string })[];
  readonly #clients: readonly Named<Client>[];
  readonly #people: Marks<Contact> = new Map();
  readonly #domains: Marks<Client> = new Map();

  /** @param country whose telephone numbers are meant where a client has no country */
  constructor({ clients, projects, contacts }: KnownWork, country = '') {
    const archived = new Set(clients.filter((each) => each.archived).map((each) => each.id));
    this.#clients = clients.map((own) => ({ own, words: tellingWords(own.name) }));
    this.#projects = projects
      .filter((each) => !each.finished && !archived.has(each.clientId ?? ''))
      .map((own) => ({ own, words: tellingWords(own.name), number: own.jobNumber.trim().toLowerCase() }));
    const byId = new Map(clients.map((each) => [each.id, each]));
    for (const client of clients) this.#isAt(client.email, client);
    for (const contact of contacts) {
      const client = byId.get(contact.clientId);
      mark(this.#people, contact.email.trim().toLowerCase(), contact);
      for (const way of waysToDial(contact.telephone, client?.taxPlace || country)) mark(this.#people, way, contact);
      if (client) this.#isAt(contact.email, client);
    }
  }

  #isAt(address: string, client: Client): void {
    const domain = domainOf(address);
    if (domain && !ANYBODYS.test(domain)) mark(this.#domains, domain, client);
  }

  /** The contact whose mail address or telephone number this is; null where it is nobody's, or several share it. */
  contactOf(person: string): Contact | null {
    return this.#people.get(addressOf(person).toLowerCase()) ?? this.#people.get(dialled(person)) ?? null;
  }

  /** The likeliest job; null where nothing speaks for one, or as much for several. */
  propose(clue: Clue): Proposal | null {
    const lead = this.lead(clue);
    return lead && { projectId: lead.projectIds[0]!, why: lead.why };
  }

  /** What speaks for a job, or alike for some of a client's. */
  lead(clue: Clue): Lead | null {
    const title = clue.title.toLowerCase();
    const numbered = this.#projects.filter(({ number }) => number !== '' && title.includes(number));
    if (numbered.length === 1)
      return onlyOf(numbered[0]!.own, `its title has the job number ${numbered[0]!.own.jobNumber}`);
    const named = onlyBest(this.#projects, ({ words }) => share(words, title));
    if (named) return onlyOf(named.own, `its title names ${named.own.name}`);
    const contact = clue.guests.map((guest) => this.contactOf(guest)).find((each) => each !== null) ?? null;
    const answered = this.#projects.filter(({ own }) => contact?.projectIds?.includes(own.id));
    if (contact && answered.length === 1) {
      return onlyOf(answered[0]!.own, `${contact.name} answers for ${answered[0]!.own.name}`);
    }
    const titled = onlyBest(this.#clients, ({ words }) => share(words, title))?.own;
    if (titled) return this.#ofClient(titled.id, title, answered, `its title names ${titled.name}`);
    const their = contact && this.#clients.find(({ own }) => own.id === contact.clientId)?.own;
    if (their) return this.#ofClient(their.id, title, answered, `${contact.name} is of ${their.name}`);
    for (const guest of clue.guests) {
      const client = this.#domains.get(domainOf(guest) ?? '');
      if (client) return this.#ofClient(client.id, title, answered, `${addressOf(guest)} is of ${client.name}`);
    }
    const client = clue.site ? this.#ofSite(clue.site) : null;
    return client && this.#ofClient(client.id, title, answered, `${clue.site} is of ${client.name}`);
  }

  /** The client of whose domain a host is: "tickets.quayside-playhouse.example" is of "quayside-playhouse.example". */
  #ofSite(site: string): Client | null {
    for (let host = site.toLowerCase(); host.includes('.'); host = host.slice(host.indexOf('.') + 1)) {
      const client = this.#domains.get(host);
      if (client !== undefined) return client;
    }
    return null;
  }

  /** Of a client's projects, or those that its contact answers for, the one that the title speaks for; else all of them alike. */
  #ofClient(clientId: Id, title: string, answered: readonly Named<Project>[], why: string): Lead | null {
    const isTheirs = ({ own }: Named<Project>) => own.clientId === clientId;
    const own = answered.some(isTheirs) ? answered : this.#projects.filter(isTheirs);
    const best = onlyBest(own, ({ words }) => words.filter((word) => title.includes(word)).length);
    const found = best ? [best] : own;
    return found.length > 0 ? { projectIds: found.map((each) => each.own.id), why } : null;
  }
}

const onlyOf = (project: Project, why: string): Lead => ({ projectIds: [project.id], why });

function mark<T>(marks: Marks<T>, key: string, of: T): void {
  if (key === '') return;
  const known = marks.get(key);
  marks.set(key, known === undefined || known === of ? of : null);
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
