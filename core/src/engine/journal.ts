import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { canonical } from '../model/canonical';
import type { Id } from '../model/ids';
import type { JournalRow } from '../model/change';

/** What the first row of a chain has in place of the hash before it. */
export const CHAIN_START = '';

/** SHA-256 (FIPS 180-4) of a text's UTF-8 bytes, in lower-case hexadecimal. */
export const sha256Hex = (text: string): string => bytesToHex(sha256(utf8ToBytes(text)));

/**
 * The row with its hash: SHA-256 over its canonical JSON, the previous hash included, the hash itself left out, and its place in a shared
 * log as well, which is known only later.
 */
export function sealed(row: Omit<JournalRow, 'hash'>): JournalRow {
  const { place: _, ...hashed } = row;
  return { ...row, hash: sha256Hex(canonical(hashed)) };
}

export interface ChainFault {
  device: Id;
  seq: number;
  message: string;
}

/** Follows each device's chain from its first row; returns every place where it does not hold. */
export function checkChains(rows: readonly JournalRow[]): ChainFault[] {
  const faults: ChainFault[] = [];
  const chains = new Map<Id, JournalRow[]>();
  for (const row of rows) {
    const chain = chains.get(row.device);
    if (chain) chain.push(row);
    else chains.set(row.device, [row]);
  }
  for (const [device, chain] of chains) {
    chain.sort((a, b) => a.seq - b.seq);
    let previous = CHAIN_START;
    chain.forEach((row, index) => {
      const { hash, ...content } = row;
      const fault = (message: string) => faults.push({ device, seq: row.seq, message });
      if (row.seq !== index + 1) fault(`Change ${index + 1} of the history is missing; the next is ${row.seq}.`);
      if (row.previous !== previous) fault(`Change ${row.seq} does not follow the one before it.`);
      if (sealed(content).hash !== hash) fault(`Change ${row.seq} was altered after it was made.`);
      previous = hash;
    });
  }
  return faults;
}
