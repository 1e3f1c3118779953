import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import * as z from 'zod';
import { canonical } from '../model/canonical';
import type { Id } from '../model/ids';
import type { JournalRow } from '../model/change';
import * as fields from '../model/fields';
import { journalSchema } from '../model/records';

// A shared workspace has one log: rows in one order, each sealed by the device that wrote it and bound to the row before it. Whoever keeps
// it can neither read it nor leave out, reorder or fork what it keeps without being found out by the next device that reads.

/** What stands outside of a row's seal: whoever keeps the log sees this much. */
export interface LogHeader {
  book: Id;
  /** Counts from 1; rises when the workspace's key is changed. */
  epoch: number;
  /** The row's place in the log, from 1. */
  number: number;
  /** Hash of the row before it; of the first row `LOG_START`. */
  previous: string;
  /** The Ed25519 key of the device that wrote it, in hex. */
  writer: string;
}

/** A row as it is kept and sent. */
export interface LogRow extends LogHeader {
  /** What was done, sealed and signed, in hex or base64: the log does not look into it. */
  sealed: string;
}

/** What a row says once it is opened. */
export interface LogBody {
  /** The doing, by an id of its own: so a device knows what it sent when the answer was lost. */
  op: Id;
  /** The version of the records that its images are written in. */
  version: number;
  row: JournalRow;
}

/** What a row of the log holds inside its seal: its operation's id, the version of the records, and the command. */
export const bodySchema = z.strictObject({ op: fields.id, version: z.int().min(1), row: journalSchema });

/** A row whose seal and signature were checked. */
export interface OpenedRow extends LogHeader {
  hash: string;
  body: LogBody;
}

/** How far a log is. */
export interface LogHead {
  number: number;
  hash: string;
}

/** What stands before the first row. */
export const LOG_START: LogHead = { number: 0, hash: '' };

/** The text that a row's hash is made over, and that its signature covers up to the seal. */
export const headerText = ({ book, epoch, number, previous, writer }: LogHeader): string =>
  canonical({ book, epoch, number, previous, writer });

/** SHA-256 over a row's header and what is sealed, in hex. */
export const hashOfRow = (row: LogRow): string =>
  bytesToHex(sha256(utf8ToBytes(`half-penny log row 1\n${headerText(row)}\n${row.sealed}`)));

/** What is wrong with a log, or with whoever keeps it. */
export type LogFaultKind =
  | 'another book'
  | 'not in order'
  | 'not after the one before'
  | 'lost'
  | 'cannot be opened'
  | 'not by this device'
  | 'from a newer version'
  | 'does not fit';

/** The log is not what it must be. Nothing of it was applied; the device goes on by itself until somebody looks into it. */
export class LogFault extends Error {
  readonly kind: LogFaultKind;
  /** The row's place in the log. */
  readonly number: number;

  constructor(kind: LogFaultKind, number: number, message: string) {
    super(message);
    this.name = 'LogFault';
    this.kind = kind;
    this.number = number;
  }
}

/**
 * Checks that rows go on from a head, each bound to the one before it.
 *
 * @returns the hash of each row
 * @throws LogFault that says which row does not follow, and how
 */
export function checkFollows(head: LogHead, book: Id, rows: readonly LogRow[]): string[] {
  let { number, hash } = head;
  return rows.map((row) => {
    if (row.book !== book) throw new LogFault('another book', row.number, 'The relay sent a row of another workspace.');
    if (row.number !== number + 1)
      throw new LogFault(
        'not in order',
        row.number,
        `The relay sent row ${row.number} where ${number + 1} comes next: rows were left out, put in another order, or sent again.`,
      );
    if (row.previous !== hash)
      throw new LogFault(
        'not after the one before',
        row.number,
        `Row ${row.number} does not follow what this device has: the relay keeps another history than it told before.`,
      );
    number = row.number;
    return (hash = hashOfRow(row));
  });
}

/** @throws LogFault where whoever keeps the log has less of it than it told before */
export function checkNotLost(head: LogHead, told: number): void {
  if (told < head.number)
    throw new LogFault(
      'lost',
      told,
      `The relay has ${told} rows, and told this device of ${head.number} before: it was set back. What is here is kept.`,
    );
}
