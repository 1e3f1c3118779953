import { JobFinder, type KnownWork, type Lead } from '../entries/proposal';
import { countryOfZone, numberOf } from '../entries/telephone';
import type { Id } from '../model/ids';
import type { Zone } from '../time/day';
import { namesOf, type Names } from './note';
import { OutsideMarks, type OutsideMark, type Touched } from './outside-marks';
import type { Subject } from './subject';
import { wordsOf } from './words';

/** What a workspace knows of its work, and of the person's own studio. */
export interface SiftBook extends KnownWork {
  workspaceId: string;
  /** The names of those who work here. */
  members: readonly string[];
  /** The studio's own name and mail address, which are in everything and tell nothing. */
  studio: { name: string; email: string };
  /** Open tasks that follow others from elsewhere; none where absent. */
  outside?: readonly OutsideMark[];
}

/** A workspace that knows of no work. */
export const emptyBook: SiftBook = {
  workspaceId: '',
  members: [],
  studio: { name: '', email: '' },
  clients: [],
  projects: [],
  contacts: [],
};

/**
 * What a workspace tells of where things belong before anything was placed: names, job numbers, contacts, domains and telephone numbers
 * of its clients are marks beside those that are learned. The studio's own name and addresses are none.
 */
export class Leads {
  readonly book: SiftBook;
  readonly finder: JobFinder;
  /** What people are called in sentences. */
  readonly names: Names;
  readonly #quiet: ReadonlySet<string>;
  readonly #country: string;
  readonly #outside: OutsideMarks;
  readonly #numbers = new Map<string, string>();
  readonly #known = new WeakMap<Subject, Lead | null>();

  /**
   * @param zone whose country's telephone numbers are meant where a number names none
   * @param own the person's own addresses and numbers
   */
  constructor(book: SiftBook = emptyBook, zone: Zone = 'UTC', own: readonly string[] = []) {
    const country = countryOfZone(zone);
    this.book = book;
    this.#country = country;
    this.#outside = new OutsideMarks(book.outside ?? []);
    this.finder = new JobFinder(book, country);
    this.names = namesOf(book.contacts, book.members, country);
    this.#quiet = new Set([
      ...wordsOf(book.studio.name).map((word) => `word ${word}`),
      ...[book.studio.email, ...own].filter(Boolean).map((each) => `person ${each.trim().toLowerCase()}`),
    ]);
  }

  /** Whether a mark is the studio's own, and so tells nothing. */
  isQuiet(mark: string): boolean {
    return this.#quiet.has(mark);
  }

  /** A person as one mark, however the number is written. */
  personOf(person: string): string {
    let number = this.#numbers.get(person);
    if (number === undefined) this.#numbers.set(person, (number = numberOf(person, this.#country)));
    return number;
  }

  /** What a thing is known to belong to by its words, who took part, or whose page it is. */
  of(subject: Subject): Lead | null {
    let lead = this.#known.get(subject);
    if (lead === undefined) this.#known.set(subject, (lead = this.#find(subject)));
    return lead;
  }

  /** The task from elsewhere whose number or page it is; null where it is of none. */
  touched(subject: Subject): Touched | null {
    return this.#outside.of(subject);
  }

  #find({ thread, title, file, people, site }: Subject): Lead | null {
    const guests = people.filter((each) => !this.isQuiet(`person ${each}`));
    return this.finder.lead({ title: `${thread || title} ${file}`, guests, site });
  }

  /** The same as marks, one for each project that is spoken for. */
  marksOf(subject: Subject): string[] {
    return this.of(subject)?.projectIds.map((id) => markOfProject(this.book.workspaceId, id)) ?? [];
  }
}

/** The mark that a project's own name leaves in what was seen. */
export const markOfProject = (workspaceId: string, projectId: Id): string =>
  NAMED + JSON.stringify([workspaceId, projectId]);
const NAMED = 'named ';

/** The project that a mark speaks for; null where it is another kind of mark. */
export const projectOfMark = (mark: string): { workspaceId: string; projectId: Id } | null => {
  if (!mark.startsWith(NAMED)) return null;
  const [workspaceId, projectId] = JSON.parse(mark.slice(NAMED.length)) as [string, Id];
  return { workspaceId, projectId };
};
