import type { Change } from '../model/change';
import type { CommandContext, AnyCommand } from './command';
import type { Reader } from './store';

/**
 * Checks what must hold for the rows that a change touches, reading through `after`, the workspace with the change laid over it.
 *
 * @throws Fault that names the row and what it would break
 */
export type Invariant = (after: Reader, changes: readonly Change[]) => void | Promise<void>;

/** What follows from a change by itself, in the same step: further changes, or none. */
export type Reaction = (
  reader: Reader,
  changes: readonly Change[],
  context: CommandContext,
  command: string,
) => Promise<Change[]>;

/**
 * Adds to what a command is about to write what the command itself does not know of.
 *
 * @throws Fault where it may not be written like that
 */
export type Amendment = (
  reader: Reader,
  changes: readonly Change[],
  context: CommandContext,
  command: string,
) => Promise<Change[]>;

/**
 * Refuses what may not be done now or by whoever does it, as it is about to happen: unlike an invariant it is not asked of what is there
 * already. Reads the workspace as it was before.
 *
 * @param command its name; of what is taken back or repeated the name of what did it
 * @throws Fault that says what stands in the way
 */
export type Guard = (
  reader: Reader,
  changes: readonly Change[],
  context: CommandContext,
  command: string,
) => Promise<void>;

/** Refuses a command to whoever may not do it at all, before its input is looked at. @throws Fault in words */
export type Admission = (reader: Reader, command: string, context: CommandContext) => Promise<void>;

/** Asks about what may be a slip. @throws Question */
export type Doubt = (reader: Reader, changes: readonly Change[]) => Promise<void>;

/** What the engine is told of the domain; it knows nothing of it by itself. */
export interface Domain {
  /** Every change there is, by name. */
  catalogue: Readonly<Record<string, AnyCommand>>;
  /** In the order in which they are asked, beside those that hold of any table: shapes, references, moments. */
  invariants: readonly Invariant[];
  /** Before reactions, in their order. */
  amendments: readonly Amendment[];
  reactions: readonly Reaction[];
  /** What is told of changes behind the title of what made them: ", from elsewhere"; nothing where there is nothing to tell. */
  remark: (changes: readonly Change[]) => string;
  /** Asked before anything else. */
  admit: Admission;
  /** Asked of every change, undoing and repeating included. */
  guards: readonly Guard[];
  /** Asked only where somebody is there to answer. */
  doubts: readonly Doubt[];
}
