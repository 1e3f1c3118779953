import { Aes256Gcm, CipherSuite, DhkemP256HkdfSha256, HkdfSha256 } from '@hpke/core';

/**
 * Lines that only one browser can read: each is sealed by itself for the browser's public key by HPKE (RFC 9180, base mode, DHKEM(P-256,
 * HKDF-SHA256), HKDF-SHA256, AES-256-GCM), and written in base64 as the encapsulated key of 65 bytes and the sealed text. Who carries
 * them, or finds them on a disk, can count them; who writes them cannot read them again.
 */

const suite = new CipherSuite({
  kem: new DhkemP256HkdfSha256(),
  kdf: new HkdfSha256(),
  aead: new Aes256Gcm(),
});
/** Length of an encapsulated key of P-256, uncompressed (RFC 9180, 7.1). */
const ENCAPSULATED = 65;
/** What the key is for: lines that were sealed for anything else do not open. */
const info = new TextEncoder().encode('half-penny activity 1');

/** What a browser opens lines with; the private key cannot be read out of it. */
export type LineKeys = CryptoKeyPair;

export const makeLineKeys = (): Promise<LineKeys> =>
  crypto.subtle.generateKey({ name: 'ECDH', namedCurve: 'P-256' }, false, ['deriveBits']);

/** The public key in base64, as devices are told it. */
export const publicLineKey = async ({ publicKey }: LineKeys): Promise<string> =>
  toBase64(await crypto.subtle.exportKey('raw', publicKey));

/** Seals lines for whoever has the private key. */
export class LineSealer {
  readonly #key: Promise<CryptoKey>;

  /** @param publicKey in base64; that it is none is told by the first sealing */
  constructor(publicKey: string) {
    this.#key = importKey(publicKey);
    this.#key.catch(() => undefined);
  }

  async seal(line: string): Promise<string> {
    const sealed = await suite.seal(
      { recipientPublicKey: await this.#key, info },
      new TextEncoder().encode(line).buffer,
    );
    const joined = new Uint8Array(ENCAPSULATED + sealed.ct.byteLength);
    joined.set(new Uint8Array(sealed.enc));
    joined.set(new Uint8Array(sealed.ct), ENCAPSULATED);
    return toBase64(joined.buffer);
  }
}

/**
 * Opens a sealed line.
 *
 * @returns null where it was sealed for another browser, or is damaged
 */
export async function openLine(keys: LineKeys, sealed: string): Promise<string | null> {
  try {
    const bytes = fromBase64(sealed);
    const recipient = { recipientKey: keys, enc: bytes.slice(0, ENCAPSULATED).buffer, info };
    return new TextDecoder().decode(await suite.open(recipient, bytes.slice(ENCAPSULATED).buffer));
  } catch {
    return null;
  }
}

const importKey = (publicKey: string): Promise<CryptoKey> =>
  suite.kem.importKey('raw', fromBase64(publicKey).buffer, true);

function toBase64(buffer: ArrayBuffer): string {
  let text = '';
  for (const byte of new Uint8Array(buffer)) text += String.fromCharCode(byte);
  return btoa(text);
}

const fromBase64 = (text: string): Uint8Array<ArrayBuffer> =>
  Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
