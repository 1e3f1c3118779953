import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Id } from './ids';

/**
 * An id that is worked out: the same of the same text and moment wherever it is made, so that two devices make one row. A version 7 UUID
 * (RFC 9562, 5.7) whose random part is told by SHA-256.
 *
 * @param at the moment that it sorts by, in epoch milliseconds
 */
export function derivedId(text: string, at: number): Id {
  const time = at.toString(16).padStart(12, '0');
  const rest = bytesToHex(sha256(utf8ToBytes(text)));
  const variant = ((parseInt(rest[3]!, 16) & 3) | 8).toString(16);
  return `${time.slice(0, 8)}-${time.slice(8)}-7${rest.slice(0, 3)}-${variant}${rest.slice(4, 7)}-${rest.slice(7, 19)}`;
}
