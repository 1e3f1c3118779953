import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import { randomBytes, type Random } from '../sealed-files/keys';
import { isSigned, publicKeyOf, signed } from './signing';

// A device says who it is by signing each request: there are no passwords and no accounts. The time and the nonce make a request that
// somebody caught useless to them.

/** The headers of a signed request, by their names. */
export const REQUEST_HEADERS = {
  device: 'x-device',
  at: 'x-at',
  nonce: 'x-nonce',
  signature: 'x-signature',
} as const;

/** How far the clocks of a device and a relay may stand apart, in milliseconds; so long a nonce is remembered on either side. */
export const MOST_APART = 5 * 60_000;

interface Request {
  method: string;
  /** Path and query, as they are sent. */
  path: string;
  body: Uint8Array;
}

/** Who sent a request and when, by its headers. */
export interface SignedAs {
  /** The device's Ed25519 key, in hex. */
  device: string;
  /** Epoch milliseconds, by the device's clock. */
  at: number;
  nonce: string;
  signature: string;
}

const textOf = ({ method, path, body }: Request, { device, at, nonce }: Omit<SignedAs, 'signature'>): Uint8Array =>
  utf8ToBytes(['half-penny request 1', method, path, device, String(at), nonce, bytesToHex(sha256(body))].join('\n'));

/** The headers that sign a request. @param signing the device's private Ed25519 key, in hex */
export async function signRequest(
  request: Request,
  signing: string,
  at: number,
  random: Random = randomBytes,
): Promise<Record<string, string>> {
  const device = publicKeyOf(signing);
  const nonce = bytesToHex(random(16));
  const signature = bytesToHex(await signed(textOf(request, { device, at, nonce }), signing));
  return {
    [REQUEST_HEADERS.device]: device,
    [REQUEST_HEADERS.at]: String(at),
    [REQUEST_HEADERS.nonce]: nonce,
    [REQUEST_HEADERS.signature]: signature,
  };
}

/** What the headers of a request say; null where they are not those of a signed one. */
export function signedAs(headers: Readonly<Record<string, string | string[] | undefined>>): SignedAs | null {
  const one = (name: string, form: RegExp) => {
    const value = headers[name];
    return typeof value === 'string' && form.test(value) ? value : null;
  };
  const device = one(REQUEST_HEADERS.device, /^[0-9a-f]{64}$/);
  const at = one(REQUEST_HEADERS.at, /^\d{1,15}$/);
  const nonce = one(REQUEST_HEADERS.nonce, /^[0-9a-f]{32}$/);
  const signature = one(REQUEST_HEADERS.signature, /^[0-9a-f]{128}$/);
  return device && at && nonce && signature ? { device, at: Number(at), nonce, signature } : null;
}

/** Whether the signature of a request is its device's; the time and the nonce are looked at by whoever asks. */
export const isSignedBy = (request: Request, as: SignedAs): Promise<boolean> =>
  isSigned(hexToBytes(as.signature), textOf(request, as), as.device);
