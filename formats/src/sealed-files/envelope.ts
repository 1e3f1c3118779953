import { xchacha20poly1305 } from '@noble/ciphers/chacha.js';
import { ed25519, x25519 } from '@noble/curves/ed25519.js';
import { hkdf } from '@noble/hashes/hkdf.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, concatBytes, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import { SealedFileFault } from './fault';
import { publicKeysOf, randomBytes, type PrivateKeys, type Random } from './keys';

/**
 * The envelope of a sealed file: signed by its maker, then sealed to one reader. Who made it is told to the reader alone.
 *
 * | bytes | what |
 * |---|---|
 * | 8 | `HPFILE1` and a line feed |
 * | 32 | the X25519 key of the reader |
 * | 32 | an X25519 key made for this file alone |
 * | 24 | nonce |
 * | rest | XChaCha20-Poly1305, with all before as additional data, of: 32 bytes Ed25519 key of the maker, 64 bytes signature, the content |
 *
 * The key is HKDF-SHA-256 (RFC 5869) of what both X25519 keys come to. What is signed is a label, everything before the sealed part, the
 * maker's key and the content: so a reader cannot pass it on as meant for somebody else.
 */
const MAGIC = utf8ToBytes('HPFILE1\n');
const KEY = 32;
const NONCE = 24;
const HEAD = MAGIC.length + 2 * KEY + NONCE;
const SIGNATURE = 64;
const LABEL = utf8ToBytes('half-penny sealed file 1\n');

const sealingKeyOf = (shared: Uint8Array, head: Uint8Array): Uint8Array =>
  hkdf(
    sha256,
    shared,
    head.subarray(MAGIC.length, MAGIC.length + 2 * KEY),
    utf8ToBytes('half-penny sealed file 1'),
    32,
  );

/** Whether bytes begin as a sealed file does. */
export const isSealed = (bytes: Uint8Array): boolean => MAGIC.every((byte, place) => bytes[place] === byte);

/**
 * Signs content and seals it to one reader.
 *
 * @param reader the X25519 key of the reader, in hex
 */
export function sealTo(
  content: Uint8Array,
  reader: string,
  maker: PrivateKeys,
  random: Random = randomBytes,
): Uint8Array<ArrayBuffer> {
  const own = random(KEY);
  const head = concatBytes(MAGIC, hexToBytes(reader), x25519.getPublicKey(own), random(NONCE));
  const key = sealingKeyOf(x25519.getSharedSecret(own, hexToBytes(reader)), head);
  const signer = hexToBytes(publicKeysOf(maker).signing);
  const signature = ed25519.sign(concatBytes(LABEL, head, signer, content), hexToBytes(maker.signing));
  const sealed = xchacha20poly1305(key, nonceOf(head), head).encrypt(concatBytes(signer, signature, content));
  return concatBytes(head, sealed) as Uint8Array<ArrayBuffer>;
}

const nonceOf = (head: Uint8Array): Uint8Array => head.subarray(HEAD - NONCE, HEAD);

/** What was in an envelope, and the Ed25519 key that signed it, in hex. */
export interface Opened {
  signer: string;
  content: Uint8Array;
}

/**
 * Opens an envelope and checks its signature.
 *
 * @throws SealedFileFault when it is none, is sealed to somebody else, or anything of it was altered
 */
export function openSealed(bytes: Uint8Array, reader: PrivateKeys): Opened {
  const { head, to } = headOf(bytes);
  if (to !== publicKeysOf(reader).agreement)
    throw new SealedFileFault(
      'for somebody else',
      'This file is sealed to somebody else’s keys, so nobody can read it here. If it is meant for you, ask to be invited again.',
    );
  let plain: Uint8Array;
  try {
    const shared = x25519.getSharedSecret(
      hexToBytes(reader.agreement),
      head.subarray(MAGIC.length + KEY, HEAD - NONCE),
    );
    plain = xchacha20poly1305(sealingKeyOf(shared, head), nonceOf(head), head).decrypt(bytes.subarray(HEAD));
  } catch {
    throw altered();
  }
  if (plain.length < KEY + SIGNATURE) throw altered();
  const signer = plain.subarray(0, KEY);
  const signature = plain.subarray(KEY, KEY + SIGNATURE);
  const content = plain.subarray(KEY + SIGNATURE);
  // By the strict rules of RFC 8032: no second form of a signature passes.
  const isSound = ed25519.verify(signature, concatBytes(LABEL, head, signer, content), signer, { zip215: false });
  if (!isSound) throw altered();
  return { signer: bytesToHex(signer), content };
}

/** The reader's key that a file is sealed to, in hex. @throws SealedFileFault when it is no sealed file */
export const readerOf = (bytes: Uint8Array): string => headOf(bytes).to;

function headOf(bytes: Uint8Array): { head: Uint8Array; to: string } {
  if (!isSealed(bytes))
    throw new SealedFileFault('not sealed', 'This is no sealed file of Half Penny, or its beginning is lost.');
  if (bytes.length < HEAD) throw altered();
  const head = bytes.subarray(0, HEAD);
  return { head, to: bytesToHex(head.subarray(MAGIC.length, MAGIC.length + KEY)) };
}

const altered = (): SealedFileFault =>
  new SealedFileFault(
    'altered',
    'This file was altered or cut off since it was sealed. Nothing of it was taken; ask for it again.',
  );
