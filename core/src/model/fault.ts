/** Facts about what went wrong, for messages and for programs; never secrets. */
export type FaultData = Readonly<Record<string, unknown>>;

/**
 * Input or a change that cannot be accepted. The message is a whole sentence for the person: what is wrong and what to do.
 * `path` names the field ("price", "lines/3/text") where there is one; `data` carries the offending value.
 */
export class Fault extends Error {
  readonly path: string;
  readonly data: FaultData;

  constructor(message: string, path = '', data: FaultData = {}) {
    super(message);
    this.name = 'Fault';
    this.path = path;
    this.data = data;
  }
}

/** Everything that is wrong with an input: what was thrown, and what was found beside it. */
export function faultsIn(thrown: unknown): { path: string; message: string }[] {
  const all =
    thrown instanceof Fault ? (thrown.data.all as { path: string; message: string }[] | undefined) : undefined;
  if (all && all.length > 0) return all;
  return [{ path: thrown instanceof Fault ? thrown.path : '', message: messageOf(thrown) }];
}

/** What may well be right, but is so unusual that it is asked about first. Nothing was changed; `yes` is what the answer does. */
export class Question extends Fault {
  readonly yes: string;

  constructor(message: string, yes: string, path = '', data: FaultData = {}) {
    super(message, path, data);
    this.name = 'Question';
    this.yes = yes;
  }

  /** What is thrown where the answer was no. */
  declined(): Fault {
    return new Fault(`${this.message.replace(/ Is it right\?$/, '')} Nothing was changed.`, this.path, this.data);
  }
}

/** The message of anything thrown, in words. */
export const messageOf = (thrown: unknown): string => (thrown instanceof Error ? thrown.message : String(thrown));
