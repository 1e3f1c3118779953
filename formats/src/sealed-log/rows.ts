import { xchacha20poly1305 } from '@noble/ciphers/chacha.js';
import { ed25519 } from '@noble/curves/ed25519.js';
import { bytesToHex, concatBytes, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import { canonical, type Id } from '@half-penny/core/model';
import {
  bodySchema,
  checkFollows,
  hashOfRow,
  headerText,
  LogFault,
  type LogBody,
  type LogHead,
  type LogHeader,
  type LogRow,
  type OpenedRow,
} from '@half-penny/core/shared-log';
import { randomBytes, type Random } from '../sealed-files/keys';
import { isSigned, publicKeyOf } from './signing';

/**
 * The seal of a row: hex of a nonce of 24 bytes, and XChaCha20-Poly1305 under the workspace's key of an Ed25519 signature of 64 bytes and
 * the row's body as canonical JSON in UTF-8. The row's header, as canonical JSON, is additional data of the seal and, behind a label, the
 * beginning of what is signed: so neither can be moved to another place, book or epoch, or be passed off as another device's.
 */
const NONCE = 24;
const SIGNATURE = 64;
const LABEL = 'half-penny log row 1\n';

const signedText = (header: LogHeader, content: Uint8Array): Uint8Array =>
  concatBytes(utf8ToBytes(`${LABEL}${headerText(header)}\n`), content);

/** What a device writes with. */
export interface Writer {
  book: Id;
  epoch: number;
  /** The workspace's key in this epoch, 32 bytes in hex. */
  key: string;
  /** The device's private Ed25519 key, in hex. */
  signing: string;
}

/** Binds bodies to a head and seals them, each after the one before. */
export function sealRows(
  head: LogHead,
  bodies: readonly LogBody[],
  { book, epoch, key, signing }: Writer,
  random: Random = randomBytes,
): LogRow[] {
  const writer = publicKeyOf(signing);
  let { number, hash: previous } = head;
  return bodies.map((body) => {
    const header: LogHeader = { book, epoch, number: ++number, previous, writer };
    const content = utf8ToBytes(canonical(body));
    const signature = ed25519.sign(signedText(header, content), hexToBytes(signing));
    const nonce = random(NONCE);
    const cipher = xchacha20poly1305(hexToBytes(key), nonce, utf8ToBytes(headerText(header)));
    const sealed = bytesToHex(concatBytes(nonce, cipher.encrypt(concatBytes(signature, content))));
    const row = { ...header, sealed };
    previous = hashOfRow(row);
    return row;
  });
}

/** What a device reads with. */
export interface LogReader {
  book: Id;
  /** The workspace's keys by epoch. */
  keys: ReadonlyMap<number, string>;
  /** The Ed25519 key of each device that may write, or might once. */
  writers: ReadonlyMap<Id, string>;
}

/**
 * Checks that rows go on from a head, opens their seals and checks who signed them.
 *
 * @throws LogFault that names the first row that is not what it must be
 */
export async function openRows(
  head: LogHead,
  rows: readonly LogRow[],
  { book, keys, writers }: LogReader,
): Promise<OpenedRow[]> {
  const hashes = checkFollows(head, book, rows);
  const opened: OpenedRow[] = [];
  for (const [index, row] of rows.entries()) {
    const { sealed, ...header } = row;
    const body = await openRow(header, sealed, keys.get(row.epoch));
    if (writers.get(body.row.device) !== row.writer)
      throw new LogFault(
        'not by this device',
        row.number,
        `Row ${row.number} says that it is of a device whose key did not sign it, or that was never met here.`,
      );
    opened.push({ ...header, hash: hashes[index]!, body });
  }
  return opened;
}

async function openRow(header: LogHeader, sealed: string, key: string | undefined): Promise<LogBody> {
  const refuse = (): never => {
    throw new LogFault(
      'cannot be opened',
      header.number,
      `Row ${header.number} cannot be opened: it was altered, or sealed with a key that this device does not have.`,
    );
  };
  if (key === undefined) return refuse();
  try {
    const bytes = hexToBytes(sealed);
    const cipher = xchacha20poly1305(hexToBytes(key), bytes.subarray(0, NONCE), utf8ToBytes(headerText(header)));
    const plain = cipher.decrypt(bytes.subarray(NONCE));
    const [signature, content] = [plain.subarray(0, SIGNATURE), plain.subarray(SIGNATURE)];
    if (!(await isSigned(signature, signedText(header, content), header.writer))) return refuse();
    return bodySchema.parse(JSON.parse(new TextDecoder().decode(content))) as LogBody;
  } catch {
    return refuse();
  }
}
