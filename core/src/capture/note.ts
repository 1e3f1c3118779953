import { dialled, waysToDial } from '../entries/telephone';
import type { Contact } from '../model/records';
import type { Evidence } from './stretch';
import { documentName, type Subject } from './subject';

/** How people are called: by address, by number in each way of dialling it, or by what members are called, in lower case. */
export type Names = ReadonlyMap<string, string>;

/** What contacts and members are called, wherever they are met. @param country whose numbers are meant where one names none */
export function namesOf(contacts: readonly Contact[], members: readonly string[], country: string): Names {
  const names = new Map<string, string>();
  for (const { email, telephone, name } of contacts) {
    for (const key of [email.toLowerCase(), ...waysToDial(telephone, country)]) if (key !== '') names.set(key, name);
  }
  for (const name of members) names.set(name.toLowerCase(), name);
  return names;
}

const PARTS = 2;

/** What sentences may be made of. */
export interface SentenceSources {
  /** Page titles and what mails are about, too: they say what nobody outside is to read, unless the person chose so. */
  titles: boolean;
  /** The person's own addresses and numbers, which stand in none. */
  own: readonly string[];
}
const DOCUMENTS: SentenceSources = { titles: false, own: [] };

/**
 * A sentence for the client out of what was seen, in plain words: documents by their names, calls, meetings and e-mails by who took part.
 * Programs, pages and what mails are about are left out.
 */
export function noteFor(evidence: readonly Evidence[], names: Names, sources: SentenceSources = DOCUMENTS): string {
  const own = new Set(sources.own.map((each) => each.toLowerCase()));
  const parts: string[] = [];
  for (const { subject } of evidence) {
    const people = subject.people.filter((each) => !own.has(each));
    const part = say({ ...subject, people }, names, sources.titles);
    if (part && !parts.some((each) => each.toLowerCase() === part.toLowerCase())) parts.push(part);
    if (parts.length === PARTS) break;
  }
  const note = parts.join('; ');
  return note ? note[0]!.toUpperCase() + note.slice(1) : '';
}

function say(subject: Subject, names: Names, titles: boolean): string {
  const people = subject.people.map((each) => nameOf(each, names)).filter(Boolean);
  const who = people.slice(0, 2).join(' and ');
  const about =
    subject.thread && (titles || subject.kind === 'meeting')
      ? subject.title.replace(/^(?:(?:re|fw|fwd|aw|wg)\s*:\s*)+/i, '')
      : '';
  switch (subject.kind) {
    case 'call':
      return who ? `Call with ${who}` : 'Call';
    case 'meeting':
      return about || (who ? `Meeting with ${who}` : 'Meeting');
    case 'mail':
    case 'message': {
      const what = subject.kind === 'mail' ? 'E-mail' : 'Messages';
      if (!who) return about ? `${what} about ${about}` : what;
      return about ? `${what} with ${who} about ${about}` : `${what} with ${who}`;
    }
    default:
      if (subject.file) return documentName(subject.file);
      // Of a page, what it is about; the name of its site comes last in nearly every title.
      if (subject.address)
        return titles ? `Reading up: ${subject.title.split(/ [-–—|·] /)[0]!.trim() || subject.site}` : '';
      return documentInTitle(subject);
  }
}

/** Programs that show pages: no document is named by what their windows are called. */
const BROWSER = /chrom(?:e|ium)|firefox|safari|\bedge\b|browser/i;
/** Whether a program shows pages: its titles name the page and not a document of its own. */
export const isBrowser = (program: string): boolean => BROWSER.test(program);

/** The document that a window's title names before its program: "Orchid novel chapter 3 – Writing pad". */
function documentInTitle({ kind, title, program }: Subject): string {
  if (kind !== 'window' || program === '' || isBrowser(program)) return '';
  const found = /^(.+) [-–—|·] (.+?)$/.exec(title);
  if (!found) return '';
  const [, named = '', shown = ''] = found;
  const same = [shown, program].map((each) => each.trim().toLowerCase());
  if (!same[0]!.includes(same[1]!) && !same[1]!.includes(same[0]!)) return '';
  // No document is meant by who is where on which machine, or by what has no name yet.
  return /[@:/\\]|^(?:untitled|unnamed|new document|inbox)\b/i.test(named) ? '' : documentName(named.trim());
}

/** Shorter words stand in sentences by chance. */
const LEAST_TOLD = 4;

/**
 * Whether a sentence says something of what was seen: the document by its name, who took part, or what a page or mail is about. That is
 * what leaves this browser with an entry.
 */
export function isToldIn(note: string, subject: Subject, names: Names): boolean {
  const said = note.toLowerCase();
  const about = subject.title.split(/ [-–—|·] /)[0]!;
  const told = [
    subject.file ? documentName(subject.file) : '',
    documentInTitle(subject),
    subject.file ? '' : about,
    subject.thread,
    ...subject.people.flatMap((each) => [each, nameOf(each, names)]),
  ];
  return told.some((each) => each.trim().length >= LEAST_TOLD && said.includes(each.trim().toLowerCase()));
}

/** "stage@quayside-playhouse.example" is called as contacts say, or by its address without the domain. */
export function nameOf(person: string, names: Names): string {
  const known = names.get(person) ?? names.get(dialled(person));
  if (known) return known;
  const local = person.includes('@') ? person.slice(0, person.indexOf('@')) : person;
  return local
    .split(/[._-]/)
    .filter(Boolean)
    .map((part) => part[0]!.toUpperCase() + part.slice(1))
    .join(' ');
}
