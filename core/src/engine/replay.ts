import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import * as z from 'zod';
import { canonical, sameData } from '../model/canonical';
import type { Id } from '../model/ids';
import { currentImage, SCHEMA_VERSION } from '../model/migrations';
import type { Change, JournalRow } from '../model/change';
import { isTableName, tableNames, tables, type TableName } from '../model/tables';
import { CHAIN_START, sealed, sha256Hex } from './journal';

// The history says how every record came to be what it is. Taken back step by step from the records as they are, each change must find
// what it left behind, and in the end nothing may remain: so a record that was altered beside the history, or a history that was cut, shows
// itself. A history may begin with a base row instead of with nothing: it holds the hash of all records at that moment.

/** The command that a base row names. */
export const BASE = 'base';

const baseSchema = z.strictObject({
  /** SHA-256 over all records at that moment: see {@link recordsHash}. */
  records: z.string().regex(/^[0-9a-f]{64}$/),
  /** The version of the records that it was made of. */
  version: z.int().min(1),
  reason: z.string().min(1).max(200),
});

type Row = Record<string, unknown>;
/** Rows of a table by their ids. */
type Rows = ReadonlyMap<Id, Row>;

/** What is replayed: all records, and the history. */
export interface Replayed {
  rows(table: TableName): readonly object[];
  journal: readonly JournalRow[];
}

export interface ReplayFault {
  table: TableName | 'journal';
  /** Of the record; of a row of the history its device. */
  id: Id | null;
  /** The field that differs; of a row of the history its number. */
  path: string;
  message: string;
}

/**
 * SHA-256 over all records, in hex: for each table in their order its rows by id, each as "table canonical-JSON" and a line feed, in UTF-8.
 */
export function recordsHash(rows: (table: TableName) => Iterable<object>): string {
  const hash = sha256.create();
  for (const table of tableNames)
    for (const row of rows(table)) hash.update(utf8ToBytes(`${table} ${canonical(row)}\n`));
  return bytesToHex(hash.digest());
}

/** A first row for a history that does not begin with nothing. */
export function baseRow(
  rows: (table: TableName) => Iterable<object>,
  { device, at, reason }: { device: Id; at: number; reason: string },
): JournalRow {
  return sealed({
    device,
    seq: 1,
    at,
    memberId: null,
    command: BASE,
    title: `The history begins here: ${reason}`,
    input: { records: recordsHash(rows), version: SCHEMA_VERSION, reason },
    of: null,
    changes: [],
    previous: CHAIN_START,
  });
}

/** How far the history is: how many changes, and a short hash over the last of each device, which no other history has. */
export interface Head {
  number: number;
  hash: string;
}

/** The last row of each device's chain, in any order. */
export function headOf(last: readonly Pick<JournalRow, 'device' | 'seq' | 'hash'>[]): Head {
  const sorted = last.toSorted((a, b) => (a.device < b.device ? -1 : 1));
  return {
    number: sorted.reduce((sum, row) => sum + row.seq, 0),
    hash: sha256Hex(sorted.map((row) => row.hash).join('\n')).slice(0, 10),
  };
}

/** "1207-9f86d08188": as it is shown, written down and compared. */
export const showHead = ({ number, hash }: Head): string => `${number}-${hash}`;

/** The last row of each device. */
export function lastOfEach(journal: readonly JournalRow[]): JournalRow[] {
  const last = new Map<Id, JournalRow>();
  for (const row of journal) if (row.seq > (last.get(row.device)?.seq ?? 0)) last.set(row.device, row);
  return [...last.values()];
}

/**
 * Takes the whole history back from the records as they are.
 *
 * @returns every record that is not what the history made of it, once; none where all is as it was made
 */
export function replayFaults(of: Replayed): ReplayFault[] {
  if (of.journal.length === 0) {
    const any = tableNames.some((table) => of.rows(table).length > 0);
    return any ? [emptyHistory] : [];
  }
  return new Replay(of).run();
}

const emptyHistory: ReplayFault = {
  table: 'journal',
  id: null,
  path: '',
  message: 'The history is empty, and there are records: it was taken away.',
};

const MOST_UNMADE = 50;

class Replay {
  readonly #state = new Map<TableName, Map<Id, Row>>();
  readonly #chains: JournalRow[][];
  readonly #faults: ReplayFault[] = [];
  readonly #told = new Set<string>();

  constructor({ rows, journal }: Replayed) {
    for (const table of tableNames)
      this.#state.set(table, new Map((rows(table) as (Row & { id: Id })[]).map((row) => [row.id, row])));
    const chains = new Map<Id, JournalRow[]>();
    for (const row of journal) {
      const chain = chains.get(row.device);
      if (chain) chain.push(row);
      else chains.set(row.device, [row]);
    }
    this.#chains = [...chains.values()].map((chain) => chain.toSorted((a, b) => a.seq - b.seq));
  }

  run(): ReplayFault[] {
    let base: JournalRow | null = null;
    for (const row of backwards(this.#chains, this.#state)) {
      if (row.command === BASE) {
        if (base || row.seq !== 1)
          this.#tell('journal', row.device, String(row.seq), 'A history has one base row, its first.');
        base = row;
        continue;
      }
      // From the last of a row's changes to its first, as they were made.
      for (const change of row.changes.toReversed()) this.#takeBack(row, change);
    }
    if (base) this.#checkBase(base);
    else this.#checkNothingLeft();
    return this.#faults;
  }

  #takeBack(row: JournalRow, { table, id, before, after }: Change): void {
    if (!isTableName(table)) {
      this.#tell('journal', row.device, String(row.seq), `Change ${row.seq} is of a table that there is not.`);
      return;
    }
    const rows = this.#rows(table) as Map<Id, Row>;
    const found = rows.get(id) ?? null;
    const made = currentImage(table, after);
    if (!sameData(found, made)) {
      const { path, message } = difference(table, found, made, row);
      this.#tell(table, id, path, message);
    }
    const earlier = currentImage(table, before);
    if (earlier === null) rows.delete(id);
    else rows.set(id, earlier);
  }

  /** What stood before the first change of the history is what the base row says. */
  #checkBase({ device, seq, input }: JournalRow): void {
    const parsed = baseSchema.safeParse(input);
    if (!parsed.success) {
      this.#tell('journal', device, String(seq), 'The base row does not say what the history begins with.');
      return;
    }
    // Of records in an older shape the hash cannot be made again; what was changed since is checked all the same.
    if (parsed.data.version !== SCHEMA_VERSION || this.#faults.length > 0) return;
    const byId = (table: TableName) =>
      [...this.#rows(table)].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, row]) => row);
    if (recordsHash(byId) !== parsed.data.records)
      this.#tell('journal', device, String(seq), 'The records are not those that the history began with.');
  }

  #checkNothingLeft(): void {
    let left = 0;
    for (const table of tableNames) {
      for (const id of this.#rows(table).keys()) {
        if (++left > MOST_UNMADE) return;
        this.#tell(
          table,
          id,
          '',
          `No change of the history made this ${tables[table].one}: it was added beside it, or the history was cut.`,
        );
      }
    }
  }

  #rows(table: TableName): Rows {
    return this.#state.get(table)!;
  }

  #tell(table: ReplayFault['table'], id: Id | null, path: string, message: string): void {
    const key = `${table} ${id} ${table === 'journal' ? path : ''}`;
    if (this.#told.has(key)) return;
    this.#told.add(key);
    this.#faults.push({ table, id, path, message });
  }
}

type State = ReadonlyMap<TableName, ReadonlyMap<Id, Row>>;

/** Steps that the search for an order may take beyond one a row. */
const MOST_STEPS = 50_000;

/**
 * All rows of the history in the order in which they are taken back: those of each device from its last to its first, base rows at the end.
 * Rows of a shared log go by their places in it. Of several devices the latest goes first, where its changes fit what is there; where that
 * leads nowhere, another is tried. Where nothing fits, as in a history that was altered, the latest goes first.
 */
function backwards(chains: readonly (readonly JournalRow[])[], state: State): JournalRow[] {
  const bases = chains.flatMap((chain) => chain.filter((row) => row.command === BASE));
  const rest = chains.map((chain) => chain.filter((row) => row.command !== BASE)).filter((chain) => chain.length > 0);
  const latestFirst = (a: JournalRow, b: JournalRow) =>
    (b.place ?? 0) - (a.place ?? 0) || b.at - a.at || (a.device < b.device ? 1 : -1);
  const order =
    rest.length <= 1 ? (rest[0]?.toReversed() ?? []) : (new Search(rest, state).run() ?? merged(rest, latestFirst));
  return [...order, ...bases];
}

/** Chains from their ends, the first by an order each time. */
function merged(
  chains: readonly (readonly JournalRow[])[],
  first: (a: JournalRow, b: JournalRow) => number,
): JournalRow[] {
  const open = chains.map((chain) => [...chain]);
  const order: JournalRow[] = [];
  for (;;) {
    const [next] = open.filter((chain) => chain.length > 0).sort((a, b) => first(a.at(-1)!, b.at(-1)!));
    if (!next) return order;
    order.push(next.pop()!);
  }
}

/** A row that was taken back, with what it changed and which chains could have gone on in its place. */
interface Step {
  chain: number;
  undone: [TableName, Id, Row | null][];
  others: number[];
}

/** Finds an order in which every change fits, going back to the last choice wherever one leads nowhere. */
class Search {
  readonly #chains: readonly (readonly JournalRow[])[];
  /** How many rows of each chain are left. */
  readonly #left: number[];
  /** Places in a shared log that are left, the last at the end. */
  readonly #places: number[];
  readonly #state: State;
  /** What rows are now, where they differ from the state. */
  readonly #now = new Map<string, Row | null>();
  /** For each record, its changes in each chain, and how many of them are left. */
  readonly #ahead = new Map<string, { changes: Change[][]; left: number[] }>();

  constructor(chains: readonly (readonly JournalRow[])[], state: State) {
    this.#chains = chains;
    this.#left = chains.map((chain) => chain.length);
    this.#state = state;
    this.#places = chains.flatMap((rows) => rows.flatMap(({ place }) => place ?? [])).sort((a, b) => a - b);
    chains.forEach((rows, chain) => {
      for (const change of rows.flatMap((row) => row.changes)) {
        const key = `${change.table} ${change.id}`;
        let ahead = this.#ahead.get(key);
        if (!ahead) this.#ahead.set(key, (ahead = { changes: chains.map(() => []), left: chains.map(() => 0) }));
        ahead.changes[chain]!.push(change);
        ahead.left[chain]!++;
      }
    });
  }

  run(): JournalRow[] | null {
    const all = this.#left.reduce((sum, count) => sum + count, 0);
    const steps: Step[] = [];
    let budget = all + MOST_STEPS;
    let choices = this.#fitting();
    while (steps.length < all) {
      if (budget-- === 0) return null;
      const [chain, ...others] = choices;
      if (chain !== undefined) {
        steps.push({ chain, others, undone: this.#take(chain) });
        choices = this.#fitting();
        continue;
      }
      const last = steps.pop();
      if (!last) return null;
      this.#giveBack(last);
      choices = last.others;
    }
    return this.#rowsOf(steps);
  }

  #count({ changes }: JournalRow, chain: number, by: 1 | -1): void {
    for (const { table, id } of changes) this.#ahead.get(`${table} ${id}`)!.left[chain]! += by;
  }

  /**
   * Chains whose next row fits and leaves an order for what is left of its records, the latest first. The last of a shared log leaves one
   * whatever it is; what has no place there was before it all, or touches nothing that came later.
   */
  #fitting(): number[] {
    const next = (chain: number) => this.#chains[chain]![this.#left[chain]! - 1]!;
    const place = this.#places.at(-1);
    const open = [...this.#chains.keys()].filter((chain) => this.#left[chain]! > 0);
    const last = place === undefined ? undefined : open.find((chain) => next(chain).place === place);
    const free = open
      .filter((chain) => {
        const row = next(chain);
        return row.place === undefined && this.#fits(row) && this.#leavesOrder(row, chain);
      })
      .sort((a, b) => next(b).at - next(a).at || (next(a).device < next(b).device ? 1 : -1));
    return last !== undefined && this.#fits(next(last)) ? [last, ...free] : free;
  }

  /**
   * Whether what other chains changed of a row's records can still be taken back after it. Where a change was undone, a record looks as if it
   * had never been changed, and what was before would be taken back too early; a clock that was set back does not tell.
   */
  #leavesOrder({ changes }: JournalRow, chain: number): boolean {
    return changes.every(({ table, id, before }) => {
      const { left, changes: ahead } = this.#ahead.get(`${table} ${id}`)!;
      if (left.every((count, other) => count === 0 || other === chain)) return true;
      const after = left.map((count, other) => (other === chain ? count - 1 : count));
      return orderIsLeft(table as TableName, before, after, ahead);
    });
  }

  #row(table: TableName, id: Id): Row | null {
    const key = `${table} ${id}`;
    return this.#now.has(key) ? this.#now.get(key)! : (this.#state.get(table)!.get(id) ?? null);
  }

  #fits({ changes }: JournalRow): boolean {
    return changes.every(
      ({ table, id, after }) => isTableName(table) && sameData(this.#row(table, id), currentImage(table, after)),
    );
  }

  #take(chain: number): Step['undone'] {
    const row = this.#chains[chain]![--this.#left[chain]!]!;
    if (row.place !== undefined) this.#places.pop();
    this.#count(row, chain, -1);
    return row.changes.map(({ table, id, before }) => {
      const name = table as TableName;
      const was = this.#row(name, id);
      this.#now.set(`${name} ${id}`, currentImage(name, before));
      return [name, id, was];
    });
  }

  #giveBack({ chain, undone }: Step): void {
    const row = this.#chains[chain]![this.#left[chain]!++]!;
    if (row.place !== undefined) this.#places.push(row.place);
    this.#count(row, chain, 1);
    for (const [table, id, was] of undone) this.#now.set(`${table} ${id}`, was);
  }

  #rowsOf(steps: readonly Step[]): JournalRow[] {
    const left = this.#chains.map((chain) => chain.length);
    return steps.map(({ chain }) => this.#chains[chain]![--left[chain]!]!);
  }
}

/** Steps that are spent on one record; beyond them it is left to the search over all. */
const MOST_LOOKS = 500;

/** Whether the changes of one record that are left in each chain can be taken back in some order, beginning with a state of it. */
function orderIsLeft(
  table: TableName,
  state: Change['after'],
  left: readonly number[],
  ahead: readonly (readonly Change[])[],
): boolean {
  const seen = new Set<string>();
  const from = (image: Change['after'], counts: readonly number[]): boolean => {
    if (counts.every((count) => count === 0) || seen.size > MOST_LOOKS) return true;
    return counts.some((count, chain) => {
      const change = ahead[chain]![count - 1];
      if (!change || !sameData(currentImage(table, image), currentImage(table, change.after))) return false;
      const rest = counts.map((each, other) => (other === chain ? each - 1 : each));
      const place = `${chain} ${rest.join(' ')}`;
      if (seen.has(place)) return false;
      seen.add(place);
      return from(change.before, rest);
    });
  };
  return from(state, left);
}

/** What is not as the history left it, in words. */
function difference(
  table: TableName,
  found: Row | null,
  made: Row | null,
  { seq }: JournalRow,
): { path: string; message: string } {
  const { one } = tables[table];
  if (!found) return { path: '', message: `This ${one} is missing; change ${seq} of the history left it there.` };
  if (!made) return { path: '', message: `This ${one} was deleted by change ${seq} of the history, and is there.` };
  const path = firstDifference(found, made);
  return {
    path,
    message: `This is not what change ${seq} of the history made of it: it was altered beside the history.`,
  };
}

/** The path of the first field that differs: "frozen/lines/0/amount". */
function firstDifference(a: unknown, b: unknown): string {
  if (a === null || b === null || typeof a !== 'object' || typeof b !== 'object') return '';
  for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) {
    const [left, right] = [(a as Row)[key], (b as Row)[key]];
    if (sameData(left, right)) continue;
    const rest = firstDifference(left, right);
    return rest ? `${key}/${rest}` : key;
  }
  return '';
}
