import { ed25519 } from '@noble/curves/ed25519.js';
import { bytesToHex, hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import { canonical, idPattern, type Id } from '@half-penny/core/model';
import * as z from 'zod';
import { publicKeyOf } from './signing';

// Who may write a book stands in rows of their own, each signed by a device that might write before it. The relay reads them to know whom
// to let in; devices read them to know whose rows to believe. They say nothing of a workspace but how many devices it has, and since when.

const hex32 = z.string().regex(/^[0-9a-f]{64}$/, 'A key is 64 figures in hex.');

export const grantSchema = z.strictObject({
  book: z.string().regex(idPattern, 'A book is named by an id.'),
  /** From 1, without gaps. */
  number: z.int().min(1),
  device: z.string().regex(idPattern, 'A device is named by an id.'),
  /** The device's Ed25519 key, in hex. */
  key: hex32,
  /** Whether it may write from now on, or not any more. */
  may: z.boolean(),
  /** The Ed25519 key of the device that says so: the first grants itself. */
  by: hex32,
  signature: z.string().regex(/^[0-9a-f]{128}$/, 'A signature is 128 figures in hex.'),
});

/** Says of a device that it may write a book, or not any more. */
export type Grant = z.infer<typeof grantSchema>;

const textOf = ({ book, number, device, key, may, by }: Omit<Grant, 'signature'>): Uint8Array =>
  utf8ToBytes(`half-penny writer 1\n${canonical({ book, number, device, key, may, by })}`);

/** @param signing the private Ed25519 key of the device that says so, in hex */
export function grant(content: Omit<Grant, 'by' | 'signature'>, signing: string): Grant {
  const by = publicKeyOf(signing);
  return { ...content, by, signature: bytesToHex(ed25519.sign(textOf({ ...content, by }), hexToBytes(signing))) };
}

/** A row of the writers that does not hold. */
export class GrantFault extends Error {
  override name = 'GrantFault';
}

/** Who may write, and who ever might. */
export interface Writers {
  /** Devices that may write now, by their keys. */
  may: ReadonlyMap<string, Id>;
  /** Keys of all devices that ever might. */
  ever: ReadonlyMap<Id, string>;
  /** The number of the last row. */
  number: number;
}

export const NO_WRITERS: Writers = { may: new Map(), ever: new Map(), number: 0 };

/**
 * Follows rows from those before them.
 *
 * @throws GrantFault where a row is not signed by a device that might write before it
 */
export function writersAfter(before: Writers, grants: readonly Grant[], book: Id): Writers {
  const may = new Map(before.may);
  const ever = new Map(before.ever);
  let { number } = before;
  for (const each of grants) {
    const refuse = (why: string) => {
      throw new GrantFault(`Row ${each.number} of who may write does not hold: ${why}`);
    };
    if (each.book !== book) refuse('it is of another workspace.');
    if (each.number !== number + 1) refuse(`${number + 1} comes next.`);
    if (!ed25519.verify(hexToBytes(each.signature), textOf(each), hexToBytes(each.by)))
      refuse('its signature is wrong.');
    if (number === 0 ? each.by !== each.key || !each.may : !may.has(each.by))
      refuse('who signed it may not write here.');
    const known = ever.get(each.device);
    if (known !== undefined && known !== each.key) refuse('the device is known by another key.');
    const [holder] = [...ever].find(([, key]) => key === each.key) ?? [each.device];
    if (holder !== each.device) refuse('the key is another device’s.');
    number = each.number;
    ever.set(each.device, each.key);
    if (each.may) may.set(each.key, each.device);
    else may.delete(each.key);
    if (may.size === 0) refuse('nobody would be left who may write.');
  }
  return { may, ever, number };
}
