import { xchacha20poly1305 } from '@noble/ciphers/chacha.js';
import { hmac } from '@noble/hashes/hmac.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, concatBytes, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import { canonical, type Id } from '@half-penny/core/model';
import { LogFault, type LogHead } from '@half-penny/core/shared-log';
import { randomBytes, type Random } from '../sealed-files/keys';

// What is too large for a row travels beside the log, sealed with the same key: whole workspaces in pieces, and receipts.

const NONCE = 24;

/** A key for a workspace that begins to be shared, or begins a new epoch: 32 bytes in hex. */
export const workspaceKey = (random: Random = randomBytes): string => bytesToHex(random(32));

/** So long a piece of a workspace is before it is sealed, in bytes. */
const PIECE = 1_000_000;

function seal(bytes: Uint8Array, key: string, about: string, random: Random): Uint8Array<ArrayBuffer> {
  const nonce = random(NONCE);
  const sealed = xchacha20poly1305(hexToBytes(key), nonce, utf8ToBytes(about)).encrypt(bytes);
  return concatBytes(nonce, sealed) as Uint8Array<ArrayBuffer>;
}

/** @throws Error where the bytes were altered, are about something else, or the key is another one */
function open(sealed: Uint8Array, key: string, about: string): Uint8Array<ArrayBuffer> {
  const cipher = xchacha20poly1305(hexToBytes(key), sealed.subarray(0, NONCE), utf8ToBytes(about));
  return cipher.decrypt(sealed.subarray(NONCE)) as Uint8Array<ArrayBuffer>;
}

/** Which workspace a snapshot is of, and after which row. */
export interface SnapshotOf {
  book: Id;
  epoch: number;
  head: LogHead;
}

const aboutPiece = ({ book, epoch, head }: SnapshotOf, piece: number, pieces: number): string =>
  `half-penny snapshot 1\n${canonical({ book, epoch, head, piece, pieces })}`;

/** A workspace file in sealed pieces, each bound to its place and to the row that it is the workspace after. */
export function sealSnapshot(
  file: Uint8Array,
  of: SnapshotOf,
  key: string,
  random: Random = randomBytes,
): Uint8Array<ArrayBuffer>[] {
  const pieces = Math.max(1, Math.ceil(file.length / PIECE));
  return Array.from({ length: pieces }, (_, piece) =>
    seal(file.subarray(piece * PIECE, (piece + 1) * PIECE), key, aboutPiece(of, piece, pieces), random),
  );
}

/** The workspace file of sealed pieces. @throws LogFault where one is not what it must be */
export function openSnapshot(pieces: readonly Uint8Array[], of: SnapshotOf, key: string): Uint8Array<ArrayBuffer> {
  try {
    return concatBytes(
      ...pieces.map((sealed, piece) => open(sealed, key, aboutPiece(of, piece, pieces.length))),
    ) as Uint8Array<ArrayBuffer>;
  } catch {
    throw new LogFault(
      'cannot be opened',
      of.head.number,
      'The workspace that the relay sent cannot be opened: it was altered, or is of another moment than it says.',
    );
  }
}

/**
 * What the relay calls a receipt: whoever has the workspace's key knows it by the receipt's own hash, and nobody else can tell whether a
 * receipt that they have is among them.
 *
 * @param name the SHA-256 of the receipt, in hex
 */
export const blobNameOf = (name: string, key: string): string =>
  bytesToHex(hmac(sha256, hexToBytes(key), utf8ToBytes(`half-penny receipt name 1\n${name}`)));

/** A sealed receipt. @param name the SHA-256 of the receipt, in hex, which it is bound to */
export const sealBlob = (
  bytes: Uint8Array,
  name: string,
  key: string,
  random: Random = randomBytes,
): Uint8Array<ArrayBuffer> => seal(bytes, key, `half-penny receipt 1\n${name}`, random);

/** @throws Error where it was altered or is another receipt than the one named */
export function openBlob(sealed: Uint8Array, name: string, key: string): Uint8Array<ArrayBuffer> {
  const bytes = open(sealed, key, `half-penny receipt 1\n${name}`);
  if (bytesToHex(sha256(bytes)) !== name) throw new Error('The receipt is not the one that it is called by.');
  return bytes;
}
