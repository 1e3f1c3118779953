import { digitsOf } from '../entries/proposal';
import type { Evidence } from './stretch';
import { documentName, type Subject } from './subject';

/** How people are called: by address or number, in lower case. */
export type Names = ReadonlyMap<string, string>;

const PARTS = 2;

/**
 * A sentence for the client out of what was seen, in plain words: documents by their names, e-mails by what they were about, calls and
 * meetings by who took part. Programs and the words of their windows are left out.
 */
export function noteFor(evidence: readonly Evidence[], names: Names): string {
  const parts: string[] = [];
  for (const { subject } of evidence) {
    const part = say(subject, names);
    if (part && !parts.some((each) => each.toLowerCase() === part.toLowerCase())) parts.push(part);
    if (parts.length === PARTS) break;
  }
  const note = parts.join('; ');
  return note ? note[0]!.toUpperCase() + note.slice(1) : '';
}

function say(subject: Subject, names: Names): string {
  const people = subject.people.map((each) => nameOf(each, names)).filter(Boolean);
  const who = people.slice(0, 2).join(' and ');
  const about = subject.thread ? subject.title.replace(/^(?:(?:re|fw|fwd|aw|wg)\s*:\s*)+/i, '') : '';
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
      if (subject.address) return `Reading up: ${subject.title.split(/ [-–—|·] /)[0]!.trim() || subject.site}`;
      return '';
  }
}

/** "stage@quayside-playhouse.example" is called as contacts say, or by its address without the domain. */
export function nameOf(person: string, names: Names): string {
  const known = names.get(person) ?? names.get(digitsOf(person));
  if (known) return known;
  const local = person.includes('@') ? person.slice(0, person.indexOf('@')) : person;
  return local
    .split(/[._-]/)
    .filter(Boolean)
    .map((part) => part[0]!.toUpperCase() + part.slice(1))
    .join(' ');
}
