import type { FaultCode } from './codes';

/** Facts about what went wrong, for messages and for programs; never secrets. */
export type FaultData = Readonly<Record<string, unknown>>;

/**
 * Input or a change that cannot be accepted. The message is a whole sentence for the person: what is wrong and what to do.
 * `code` names the cause for programs and tests; `path` names the field ("price", "lines/3/text") where there is one; `data` carries the
 * offending value.
 *
 * @example
 * new Fault('not-a-day', '“31 feb” is not a day. Write it as 2026-11-12.', 'day', { text: '31 feb' }).code // → 'not-a-day'
 */
export class Fault extends Error {
  readonly code: FaultCode;
  readonly path: string;
  readonly data: FaultData;

  constructor(code: FaultCode, message: string, path = '', data: FaultData = {}) {
    super(message);
    this.name = 'Fault';
    this.code = code;
    this.path = path;
    this.data = data;
  }
}

/** One thing that is wrong with an input. */
export interface InputFault {
  readonly path: string;
  readonly code: FaultCode;
  readonly message: string;
}

/** Everything that is wrong with an input: what was thrown, and what was found beside it. */
export function faultsIn(thrown: unknown): readonly InputFault[] {
  const all = thrown instanceof Fault ? (thrown.data.all as readonly InputFault[] | undefined) : undefined;
  if (all && all.length > 0) return all;
  const path = thrown instanceof Fault ? thrown.path : '';
  return [{ path, code: codeOf(thrown) ?? 'invalid', message: messageOf(thrown) }];
}

/** The cause of anything thrown; undefined where it is no fault of an input but one of the program. */
export const codeOf = (thrown: unknown): FaultCode | undefined => (thrown instanceof Fault ? thrown.code : undefined);

/**
 * Reads every field of a form before any of it is used, so that all that is wrong is said at once.
 *
 * @param readers by the field's name; each returns its value or throws what is wrong with it
 * @throws Fault of the first field that cannot be read, with those of all fields for {@link faultsIn}
 */
export function readAll<R extends Record<string, () => unknown>>(readers: R): { [K in keyof R]: ReturnType<R[K]> } {
  const all: InputFault[] = [];
  const values: Record<string, unknown> = {};
  for (const [path, read] of Object.entries(readers)) {
    try {
      values[path] = read();
    } catch (thrown) {
      all.push({ path, code: codeOf(thrown) ?? 'invalid', message: messageOf(thrown) });
    }
  }
  const [first] = all;
  if (first) throw new Fault(first.code, first.message, first.path, { all });
  return values as { [K in keyof R]: ReturnType<R[K]> };
}

/** A text that must not be empty, without what stands around it. @throws Fault with the message given */
export function needText(text: string, message: string): string {
  const trimmed = text.trim();
  if (trimmed === '') throw new Fault('empty', message);
  return trimmed;
}

/** What may well be right, but is so unusual that it is asked about first. Nothing was changed; `yes` is what the answer does. */
export class Question extends Fault {
  readonly yes: string;

  constructor(code: FaultCode, message: string, yes: string, path = '', data: FaultData = {}) {
    super(code, message, path, data);
    this.name = 'Question';
    this.yes = yes;
  }

  /** What is thrown where the answer was no. */
  declined(): Fault {
    return new Fault(
      'declined',
      `${this.message.replace(/ Is it right\?$/, '')} Nothing was changed.`,
      this.path,
      this.data,
    );
  }
}

/** The message of anything thrown, in words. */
export const messageOf = (thrown: unknown): string => (thrown instanceof Error ? thrown.message : String(thrown));
