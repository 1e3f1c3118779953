import { ed25519 } from '@noble/curves/ed25519.js';
import { bytesToHex, concatBytes, hexToBytes } from '@noble/hashes/utils.js';

const MOST_KEYS = 200;

/** What is made of a key takes longer than what is done with it, so it is kept by the key's hex. */
function kept<T>(make: (key: string) => T): { of(key: string): T; forget(key: string): void } {
  const known = new Map<string, T>();
  return {
    of(key) {
      const found = known.get(key);
      if (found !== undefined) return found;
      if (known.size >= MOST_KEYS) known.clear();
      const made = make(key);
      known.set(key, made);
      return made;
    },
    forget: (key) => known.delete(key),
  };
}

/** What stands before the 32 bytes of a private Ed25519 key in PKCS #8 (RFC 8410, section 7). */
const PKCS8 = hexToBytes('302e020100300506032b657004220420');

const toCheck = kept((key) =>
  crypto.subtle.importKey('raw', hexToBytes(key) as BufferSource, 'Ed25519', false, ['verify']),
);
const toSign = kept((signing) =>
  crypto.subtle.importKey('pkcs8', concatBytes(PKCS8, hexToBytes(signing)) as BufferSource, 'Ed25519', false, ['sign']),
);
const publicKeys = kept((signing) => bytesToHex(ed25519.getPublicKey(hexToBytes(signing))));

/** The public key of a private one (Ed25519), both in hex. */
export const publicKeyOf = (signing: string): string => publicKeys.of(signing);

/** WebCrypto checks ten times as many signatures a second, where it knows Ed25519 at all. */
let hasWebCrypto = true;

/** Signs a message (Ed25519, RFC 8032). @param signing the private key, in hex */
export async function signed(message: Uint8Array, signing: string): Promise<Uint8Array> {
  if (hasWebCrypto) {
    try {
      return new Uint8Array(await crypto.subtle.sign('Ed25519', await toSign.of(signing), message as BufferSource));
    } catch (thrown) {
      toSign.forget(signing);
      if ((thrown as Error).name === 'NotSupportedError') hasWebCrypto = false;
    }
  }
  return ed25519.sign(message, hexToBytes(signing));
}

/**
 * Whether a signature (Ed25519, RFC 8032) is of a message and a key.
 *
 * @param key the public key, in hex
 * @returns false as well where the key is none
 */
export async function isSigned(signature: Uint8Array, message: Uint8Array, key: string): Promise<boolean> {
  if (hasWebCrypto) {
    try {
      const of = await toCheck.of(key);
      return await crypto.subtle.verify('Ed25519', of, signature as BufferSource, message as BufferSource);
    } catch (thrown) {
      toCheck.forget(key);
      if ((thrown as Error).name === 'NotSupportedError') hasWebCrypto = false;
    }
  }
  try {
    return ed25519.verify(signature, message, hexToBytes(key));
  } catch {
    return false;
  }
}
