import { hmac } from '@noble/hashes/hmac.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import { canonical } from '../model/canonical';
import type { Id } from '../model/ids';

// What a client answers to a quote from its page is signed (HMAC-SHA-256, RFC 2104) with a key that stands in that page and in the
// studio's records: so it was made with this page, for this version, and not changed since. Who pressed the button it cannot tell.
// This file goes into the page; what reads answers does not.

/** A client's answer, without its signature. */
export interface Answer {
  what: 'answer to a quote';
  form: 1;
  quoteId: Id;
  number: string;
  /** What was answered to: SHA-256 of the version, in hexadecimal. */
  digest: string;
  decision: 'accepted' | 'declined';
  /** Keys of the accepted lines. */
  keys: string[];
  by: string;
  note: string;
  /** When it was given, by the client's clock (ISO 8601). */
  at: string;
}

/** What a seal signs a text with (HMAC-SHA-256), in hexadecimal. */
export const signatureOf = (seal: string, text: string): string =>
  bytesToHex(hmac(sha256, hexToBytes(seal), utf8ToBytes(text)));

/** An answer as a file: JSON with its signature. */
export const signAnswer = (answer: Answer, seal: string): string =>
  JSON.stringify({ ...answer, signature: signatureOf(seal, canonical(answer)) }, null, 2);
