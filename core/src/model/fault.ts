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

/** The message of anything thrown, in words. */
export const messageOf = (thrown: unknown): string => (thrown instanceof Error ? thrown.message : String(thrown));
