import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { JournalRow } from '../model/change';
import type { Client } from '../model/records';
import { schemas } from '../model/schemas';
import { byTable, tables, type AllRows, type Rows } from '../model/tables';
import { sha256Hex } from './journal';
import { baseRow } from './replay';

/** Whose personal data is to be deleted. */
export interface Whose {
  table: 'clients' | 'contacts' | 'members';
  id: Id;
}

/** What a workspace becomes once a person was deleted for good. */
export interface Forgotten {
  rows: AllRows;
  /** The history begins again with this row: the old one held the person. */
  journal: [JournalRow];
  /** Records that were changed or removed. */
  touched: number;
  /** Issued papers that name the person and have to be kept as they were sent. */
  papers: number;
  /** Names and addresses by which the person may be found outside the workspace, in lower case. */
  known: string[];
}

interface Begin {
  device: Id;
  at: number;
  /** Random text that is kept nowhere: without it nobody can try names against the hash that stands in their place. */
  salt: string;
}

/** Shorter words would be found within what is meant otherwise. */
const SHORTEST = 3;

/** What is not looked through: issued papers have to be kept as they were sent. */
const KEPT = 'frozen';

/**
 * Deletes a person's or client's data for good: names become a salted hash, the same wherever they stood, addresses and numbers become
 * nothing, a contact and the account of a member go altogether; notes and texts that name them name the hash. Issued papers stay as they were sent, as tax law asks.
 * The history, which held all of it, begins again with a row that holds the hash of the records as they are then.
 *
 * @throws Fault when there is no such person, or a record could not be what it must be any more; nothing is changed then
 */
export function forgetPerson(all: AllRows, whose: Whose, begin: Begin): Forgotten {
  const person = (all[whose.table] as readonly (Rows['clients'] | Rows['contacts'] | Rows['members'])[]).find(
    (row) => row.id === whose.id,
  );
  if (!person) throw new Fault('unknown', `There is no such ${tables[whose.table].one}.`, 'id');
  const contacts = all.contacts.filter(({ id, clientId }) => id === whose.id || clientId === whose.id);
  const gone = new Set(contacts.map(({ id }) => id));
  const people = whose.table === 'contacts' ? contacts : [person, ...contacts];
  const replaced = new Replacing(
    people.map((each) => ({ name: each.name, known: addressesOf(each) })),
    begin.salt,
  );
  let touched = 0;
  let papers = 0;
  const rows = byTable((table) =>
    all[table].flatMap((row) => {
      // An account number is the person's as well, and so is what a list from elsewhere tells of them.
      const isTheirs =
        (table === 'payees' && 'memberId' in row && row.memberId === whose.id) ||
        (table === 'outsideClients' && 'clientId' in row && row.clientId === whose.id);
      if (isTheirs || (table === 'contacts' && gone.has(row.id))) {
        touched++;
        return [];
      }
      if (KEPT in row && row[KEPT] && replaced.isIn(row[KEPT])) papers++;
      const own = row.id === whose.id ? blanked(whose.table, row) : row;
      const after = replaced.through(own) as typeof row;
      if (after === row) return [row];
      const parsed = schemas[table].safeParse(after);
      if (!parsed.success) {
        const [issue] = parsed.error.issues;
        throw new Fault(
          'invalid',
          `The ${tables[table].one} that names them could not be kept without the name: ${issue!.message} Nothing was deleted.`,
          issue!.path.join('/'),
          { id: row.id },
        );
      }
      touched++;
      return [after];
    }),
  );
  const reason = `the data of a ${tables[whose.table].one} was deleted for good`;
  return {
    rows,
    journal: [baseRow((table) => byId(rows[table]), { ...begin, reason })],
    touched,
    papers,
    known: replaced.known,
  };
}

/** A history that begins with the records as they are, for a file that leaves the old one out. */
export const withoutHistory = (all: AllRows, at: { device: Id; at: number }): JournalRow =>
  baseRow((table) => byId(all[table]), { ...at, reason: 'this file was taken out without its history' });

const byId = (rows: readonly { id: Id }[]) => rows.toSorted((one, other) => (one.id < other.id ? -1 : 1));

/** By what else than their name a person is known. */
function addressesOf(person: object): string[] {
  const { email = '', telephone = '', taxNumber = '' } = person as Record<string, string | undefined>;
  const { electronicAddress = '', reference = '' } = (person as Partial<Client>).asBuyer ?? {};
  return [email, telephone, taxNumber, electronicAddress, reference].filter((each) => each.trim().length >= SHORTEST);
}

/** Fields that are about the person alone. */
const OWN = {
  clients: ['address', 'email', 'taxNumber', 'code', 'taxPlace'],
  contacts: [],
  members: ['role', 'email'],
} as const satisfies Record<Whose['table'], readonly string[]>;

const blanked = (table: Whose['table'], row: Record<string, unknown>): Record<string, unknown> => ({
  ...row,
  ...Object.fromEntries(OWN[table].map((field) => [field, ''])),
  ...(table === 'clients' ? { archived: true, asBuyer: undefined } : {}),
});

const literal = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** Puts hashes in the place of names and addresses, wherever they stand in texts. */
class Replacing {
  readonly #pattern: RegExp;
  readonly #hashes = new Map<string, string>();

  constructor(people: readonly { name: string; known: readonly string[] }[], salt: string) {
    for (const { name, known } of people) {
      const hash = `Deleted ${sha256Hex(`${salt} ${name}`).slice(0, 8)}`;
      for (const text of [name.trim(), ...known]) this.#hashes.set(text.toLowerCase(), hash);
    }
    // The longest first: a name that holds another is replaced as a whole.
    const texts = [...this.#hashes.keys()].sort((one, other) => other.length - one.length).map(literal);
    this.#pattern = new RegExp(`(?<![\\p{L}\\p{N}])(?:${texts.join('|')})(?![\\p{L}\\p{N}])`, 'giu');
  }

  get known(): string[] {
    return [...this.#hashes.keys()];
  }

  isIn(value: unknown): boolean {
    return this.through(value) !== value;
  }

  /** The value without them; the same one where they are not in it. */
  through(value: unknown): unknown {
    if (typeof value === 'string') {
      return value.replace(this.#pattern, (found) => this.#hashes.get(found.toLowerCase()) ?? found);
    }
    if (Array.isArray(value)) {
      const list = value.map((each) => this.through(each));
      return list.some((each, place) => each !== value[place]) ? list : value;
    }
    if (typeof value !== 'object' || value === null) return value;
    const fields = Object.entries(value).map(([key, each]) => [key, key === KEPT ? each : this.through(each)] as const);
    const before = value as Record<string, unknown>;
    return fields.some(([key, each]) => each !== before[key]) ? Object.fromEntries(fields) : value;
  }
}
