import { xchacha20poly1305 } from '@noble/ciphers/chacha.js';
import { hkdf } from '@noble/hashes/hkdf.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, concatBytes, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import { idPattern, publicKeysSchema } from '@half-penny/core/model';
import { entropyToMnemonic, mnemonicToEntropy } from '@scure/bip39';
import { wordlist } from '@scure/bip39/wordlists/english.js';
import * as z from 'zod';
import { openSealed, sealTo } from '../sealed-files/envelope';
import { randomBytes, type PrivateKeys, type Random } from '../sealed-files/keys';
import { publicKeyOf } from './signing';

// How a device is met: a secret of sixteen bytes goes from one to the other by eye, as twelve words (BIP-39) or in a QR code. Both make of
// it the keys of two mailboxes and a seal, and tell each other through them who they are. What is sealed by the secret is worth nothing by
// itself: people compare a short code of both devices' keys, and only then the workspace's keys go, sealed to the one that was met.

const SECRET = 16;
const NONCE = 24;

/** What both sides make of the secret. */
export interface Meeting {
  /** Signs for, and opens, the mailbox of whoever shares the workspace; an Ed25519 key in hex. */
  host: string;
  /** The same of whoever comes. */
  guest: string;
  seal: Uint8Array;
}

/** A secret for one meeting, in hex. */
export const meetingSecret = (random: Random = randomBytes): string => bytesToHex(random(SECRET));

/** A secret as twelve words. @example wordsOfSecret('00'.repeat(16)) // → 'abandon abandon … about' */
export const wordsOfSecret = (secret: string): string => entropyToMnemonic(hexToBytes(secret), wordlist);

/** What is wrong with words that were typed. */
export class WordsFault extends Error {
  override name = 'WordsFault';
}

/**
 * The secret of twelve words, however they were spaced and cased.
 *
 * @throws WordsFault that names a word that is none of them, or says that one is wrong or in the wrong place
 */
export function secretOfWords(typed: string): string {
  const words = typed
    .toLowerCase()
    .split(/[^a-z]+/)
    .filter(Boolean);
  if (words.length !== 12)
    throw new WordsFault(`There are twelve words; here ${words.length === 1 ? 'is 1' : `are ${words.length}`}.`);
  const strange = words.find((word) => !wordlist.includes(word));
  if (strange) throw new WordsFault(`“${strange}” is none of the words that are used. Look at it again.`);
  try {
    return bytesToHex(mnemonicToEntropy(words.join(' '), wordlist));
  } catch {
    throw new WordsFault('One of the words is wrong, or two have changed places.');
  }
}

/** What a secret is made of. @param secret in hex */
export function meetingOf(secret: string): Meeting {
  const made = (what: string) =>
    hkdf(sha256, hexToBytes(secret), undefined, utf8ToBytes(`half-penny meeting 1 ${what}`), 32);
  return { host: bytesToHex(made('host')), guest: bytesToHex(made('guest')), seal: made('seal') };
}

/** The mailbox of a side: the public key of what opens it. */
export const mailboxOf = (signing: string): string => publicKeyOf(signing);

const deviceTold = z.strictObject({
  id: z.string().regex(idPattern),
  name: z.string().min(1).max(200),
  keys: publicKeysSchema,
});

/** A device as it tells who it is. */
export type DeviceTold = z.infer<typeof deviceTold>;

/** A device's word on who it is, sealed by what both made of the secret. */
export function sealHello(
  device: DeviceTold,
  { seal }: Meeting,
  random: Random = randomBytes,
): Uint8Array<ArrayBuffer> {
  const nonce = random(NONCE);
  const sealed = xchacha20poly1305(seal, nonce).encrypt(utf8ToBytes(JSON.stringify(device)));
  return concatBytes(nonce, sealed) as Uint8Array<ArrayBuffer>;
}

/** Null where the bytes are not such a word: anybody can put something into a mailbox. */
export function openHello(bytes: Uint8Array, { seal }: Meeting): DeviceTold | null {
  try {
    const plain = xchacha20poly1305(seal, bytes.subarray(0, NONCE)).decrypt(bytes.subarray(NONCE));
    return deviceTold.parse(JSON.parse(new TextDecoder().decode(plain)));
  } catch {
    return null;
  }
}

const hex32 = z.string().regex(/^[0-9a-f]{64}$/);
const id = z.string().regex(idPattern);
const headTold = z.strictObject({ number: z.int().min(0), hash: z.string() });

const letterSchema = z.discriminatedUnion('kind', [
  /** To a device that was met: everything it needs to have the workspace. */
  z.strictObject({
    kind: z.literal('welcome'),
    book: id,
    /** What the workspace is called. */
    name: z.string(),
    epoch: z.int().min(1),
    /** The workspace's keys by epoch. */
    keys: z.array(z.tuple([z.int().min(1), hex32])).min(1),
    snapshot: z.strictObject({ id: z.uuid(), epoch: z.int().min(1), pieces: z.int().min(1), head: headTold }),
    /** Who works on the device that shares it. */
    memberId: id.nullable(),
    /** Whether it is the made-up studio. */
    demo: z.boolean(),
  }),
  /** To a device that stays: the key of an epoch that begins. */
  z.strictObject({ kind: z.literal('epoch'), book: id, epoch: z.int().min(2), key: hex32, afresh: z.boolean() }),
]);

/** What one device tells another alone. */
export type DeviceLetter = z.infer<typeof letterSchema>;

/** @param to the X25519 key of the device it is for, in hex */
export const sealLetter = (letter: DeviceLetter, to: string, from: PrivateKeys): Uint8Array<ArrayBuffer> =>
  sealTo(utf8ToBytes(JSON.stringify(letter)), to, from);

/** A letter and the Ed25519 key that signed it, in hex; null where the bytes are something else, or for somebody else. */
export function openLetter(bytes: Uint8Array, own: PrivateKeys): { letter: DeviceLetter; signer: string } | null {
  try {
    const { signer, content } = openSealed(bytes, own);
    return { letter: letterSchema.parse(JSON.parse(new TextDecoder().decode(content))), signer };
  } catch {
    return null;
  }
}
