import type * as z from 'zod';
import type { Id, IdSource } from '../model/ids';
import { Fault, type InputFault } from '../faults/fault';
import { changeOf, type Change } from '../model/change';
import type { Rows, TableName } from '../model/tables';
import type { Instant } from '../time/interval';
import type { Reader } from './store';

/** What a plan may know besides the workspace. */
export interface CommandContext {
  /** Epoch milliseconds. */
  now: Instant;
  /** Who is working in this browser. */
  memberId: Id | null;
  newId: IdSource;
  /** Somebody is there to be asked about what may be a slip; otherwise it is taken as it is. */
  asks?: boolean;
  /** A timer that was seen running, and the latest moment at which it was, by whatever the clock said then. */
  seen?: { timerId: Id; at: Instant };
  /** Where whoever works here is: null where that could not be told, absent where nobody asked. Kept nowhere but beside what waits for a log. */
  position?: { latitude: number; longitude: number; accuracy: number } | null;
  /** It was done before and is planned again, on what others did meanwhile. */
  again?: true;
}

/** Rows to put and to delete; the last word on a row counts. */
export class Plan {
  readonly rows = new Map<string, Change>();

  put<T extends TableName>(table: T, row: Rows[T]): this {
    this.rows.set(`${table} ${row.id}`, changeOf(table, row.id, null, row));
    return this;
  }

  remove(table: TableName, id: Id): this {
    this.rows.set(`${table} ${id}`, changeOf(table, id, null, null));
    return this;
  }

  /** As changes that do not know yet what was there before. */
  changes(): Change[] {
    return [...this.rows.values()];
  }
}

/** One way to change a workspace. */
export interface Command<Input = never> {
  name: string;
  /** What happened, for the notice and the history: "Entry added". */
  title: string | ((input: Input) => string);
  /** The same where only what became different tells it. */
  titleOf?: (changes: readonly Change[]) => string;
  input: z.ZodType<Input>;
  /** Why it is not undone but reversed; only for what the outside world has seen. */
  outward?: string;
  /** It happens without anybody pressing anything: undoing what was done last goes past it. */
  byItself?: true;
  /** In a shared workspace it is planned only when its turn in the log has come, on what everybody has: nobody may have seen it otherwise. */
  inTurn?: true;
  plan(reader: Reader, input: Input, context: CommandContext): Promise<Plan>;
}

/** A command where it does not matter which: its input is checked before it is planned. */
export interface AnyCommand extends Omit<Command, 'input'> {
  input: z.ZodType;
}

/** Keeps the input's type while naming a command. */
export const command = <Input>(definition: Command<Input>): Command<Input> => definition;

/** @throws Fault when there is no such row */
export async function need<T extends TableName>(reader: Reader, table: T, id: Id, what: string): Promise<Rows[T]> {
  const row = await reader.get(table, id);
  if (!row) throw new Fault('gone', `This ${what} is not there any more.`, 'id', { table, id });
  return row;
}

/** Rows in the order of their ids, each once, read together. @throws Fault when one of them is not there */
export async function needAll<T extends TableName>(
  reader: Reader,
  table: T,
  ids: readonly Id[],
  what: string,
): Promise<Rows[T][]> {
  const distinct = [...new Set(ids)];
  const rows = await reader.many(table, distinct);
  return rows.map((row, index) => {
    if (!row) throw new Fault('gone', `This ${what} is not there any more.`, 'id', { table, id: distinct[index] });
    return row;
  });
}

/** The first issue of a failed parse as a fault with its path. */
export function faultOf(error: z.ZodError, where = ''): Fault {
  const issue = error.issues[0]!;
  const path = [where, ...issue.path.map(String)].filter(Boolean).join('/');
  const all = error.issues.map(({ message, path: at }): InputFault => ({
    code: 'invalid',
    message,
    path: [where, ...at.map(String)].filter(Boolean).join('/'),
  }));
  return new Fault('invalid', issue.message, path, { issues: error.issues.length, all });
}

/** The fields that were given; an optional field that is undefined was not. */
export function defined<T extends object>(input: T): { [K in keyof T]: Exclude<T[K], undefined> } {
  return Object.fromEntries(Object.entries(input).filter(([, value]) => value !== undefined)) as never;
}
