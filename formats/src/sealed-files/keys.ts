import { xchacha20poly1305 } from '@noble/ciphers/chacha.js';
import { ed25519, x25519 } from '@noble/curves/ed25519.js';
import { scryptAsync } from '@noble/hashes/scrypt.js';
import { bytesToHex, concatBytes, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import type { PublicKeys, WrappedKeys } from '@half-penny/core/model';
import { SealedFileFault } from './fault';

// Keys of the studio and its members: Ed25519 (RFC 8032) to sign and X25519 (RFC 7748) to be sealed to.

/** Both private keys, in hex: in the browser of whoever's they are, and nowhere else but under a passphrase. */
export interface PrivateKeys {
  signing: string;
  agreement: string;
}

/** So many random bytes. */
export type Random = (length: number) => Uint8Array;

export const randomBytes: Random = (length) => crypto.getRandomValues(new Uint8Array(length));

/** Makes keys. @param random other than the machine's own only in tests */
export const makeKeys = (random: Random = randomBytes): PrivateKeys => ({
  signing: bytesToHex(random(32)),
  agreement: bytesToHex(random(32)),
});

/** What others may know of keys. */
export const publicKeysOf = ({ signing, agreement }: PrivateKeys): PublicKeys => ({
  signing: bytesToHex(ed25519.getPublicKey(hexToBytes(signing))),
  agreement: bytesToHex(x25519.getPublicKey(hexToBytes(agreement))),
});

/** The work that a guess at a passphrase costs (OWASP Password Storage Cheat Sheet: scrypt N = 2^17, r = 8, p = 1). */
const PASSPHRASE = { N: 2 ** 17, r: 8, p: 1, dkLen: 32 };

// The same letters typed on another machine may be put together otherwise.
const keyOf = (passphrase: string, salt: Uint8Array, work = PASSPHRASE): Promise<Uint8Array> =>
  scryptAsync(utf8ToBytes(passphrase.normalize('NFKC')), salt, work);

/**
 * Seals keys by a passphrase, for backups: XChaCha20-Poly1305 under a key that scrypt (RFC 7914) makes of it. Takes about a second.
 *
 * @example await wrapKeys(makeKeys(), 'seven lamps over the water') // → { salt, nonce, sealed }
 */
export async function wrapKeys(
  keys: PrivateKeys,
  passphrase: string,
  random: Random = randomBytes,
): Promise<WrappedKeys> {
  const [salt, nonce] = [random(16), random(24)];
  const plain = concatBytes(hexToBytes(keys.signing), hexToBytes(keys.agreement));
  const sealed = xchacha20poly1305(await keyOf(passphrase, salt), nonce).encrypt(plain);
  return { salt: bytesToHex(salt), nonce: bytesToHex(nonce), sealed: bytesToHex(sealed) };
}

/** @throws SealedFileFault when the passphrase is another one */
export async function unwrapKeys({ salt, nonce, sealed }: WrappedKeys, passphrase: string): Promise<PrivateKeys> {
  const key = await keyOf(passphrase, hexToBytes(salt));
  try {
    const plain = xchacha20poly1305(key, hexToBytes(nonce)).decrypt(hexToBytes(sealed));
    return { signing: bytesToHex(plain.subarray(0, 32)), agreement: bytesToHex(plain.subarray(32)) };
  } catch {
    throw new SealedFileFault('wrong passphrase', 'The passphrase is not the one that these keys were kept with.');
  }
}

/** The work that a try at the same short code costs whoever puts keys of their own between two people. */
const CODE = { N: 2 ** 15, r: 8, p: 1, dkLen: 16 };

/**
 * The short code that both sides read to one another: the same where both have the same keys of each other. Twenty figures, each try at
 * which costs some tenths of a second: whoever stands between and makes keys of their own would have to try about 2³³ times.
 *
 * @example await shortCode(studio, member) // → '40713 88215 06190 55342'
 */
export async function shortCode(studio: PublicKeys, member: PublicKeys): Promise<string> {
  const both = [studio.signing, studio.agreement, member.signing, member.agreement].map((each) => hexToBytes(each));
  const hash = await scryptAsync(concatBytes(...both), utf8ToBytes('half-penny short code 1'), CODE);
  const number = BigInt(`0x${bytesToHex(hash)}`) % 10n ** 20n;
  return number
    .toString()
    .padStart(20, '0')
    .replace(/(\d{5})(?=\d)/g, '$1 ');
}
