import fc from 'fast-check';
import { createDecipheriv, pbkdf2Sync } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { seal, sealingKey, unseal, type SealingKey } from '.';

/** Few rounds: what is tried here is the file, not the price of guessing. */
const quick = (passphrase: string) => sealingKey(passphrase, new Uint8Array(16).fill(7), 10);
const sealed = async (text: BlobPart, key?: SealingKey) =>
  new Uint8Array(await (await seal(new Blob([text]).stream(), key ?? (await quick('seven lamps')))).arrayBuffer());
const opened = async (file: BlobPart, passphrase = 'seven lamps') =>
  new Uint8Array(await new Response(await unseal(new Blob([file]), passphrase)).arrayBuffer());
/** What cannot be compressed, so that it fills pieces. */
const noise = (length: number) => {
  const made = new Uint8Array(length);
  for (let from = 0; from < length; from += 65536)
    crypto.getRandomValues(made.subarray(from, Math.min(length, from + 65536)));
  return made;
};

describe('a sealed file', () => {
  it.each([0, 1, 65535, 65536, 200_000])('gives back %i bytes', async (length) => {
    const content = noise(length);
    expect(Buffer.from(await opened(await sealed(content))).equals(content)).toBe(true);
  });

  it('is what its description says: another implementation opens it', async () => {
    const content = noise(150_000);
    const file = Buffer.from(await sealed(content));
    expect(file.subarray(0, 8).toString()).toBe('HPSEAL1\n');
    const key = pbkdf2Sync('seven lamps', file.subarray(8, 24), file.readUInt32BE(24), 32, 'sha256');
    const open = (sealedPiece: Buffer, number: number, last: number) => {
      const iv = Buffer.concat([file.subarray(28, 35), Buffer.alloc(5)]);
      iv.writeUInt32BE(number, 7);
      iv[11] = last;
      const decipher = createDecipheriv('aes-256-gcm', key, iv).setAAD(file.subarray(0, 35));
      decipher.setAuthTag(sealedPiece.subarray(-16));
      return Buffer.concat([decipher.update(sealedPiece.subarray(0, -16)), decipher.final()]);
    };
    expect(open(file.subarray(35, 51), 0xffffffff, 0)).toHaveLength(0);
    const pieces: Buffer[] = [];
    for (let from = 51, number = 0; from < file.length; from += 65552, number++)
      pieces.push(open(file.subarray(from, from + 65552), number, from + 65552 >= file.length ? 1 : 0));
    expect(pieces).toHaveLength(3);
    expect(gunzipSync(Buffer.concat(pieces)).equals(content)).toBe(true);
  });

  it('shows nothing of what is in it, and is another each time', async () => {
    const text = 'orchid novel chapter 3 '.repeat(50);
    const [one, other] = [await sealed(text), await sealed(text)];
    expect(Buffer.from(one).includes('orchid')).toBe(false);
    expect(Buffer.from(one).equals(Buffer.from(other))).toBe(false);
  });

  it('opens by its passphrase alone, however its letters are put together', async () => {
    const file = await sealed('x', await quick('caf\u00e9 lights'));
    expect(await opened(file, 'cafe\u0301 lights')).toHaveLength(1);
    await expect(opened(file, 'café light')).rejects.toMatchObject({ code: 'wrong passphrase' });
  });

  it('says what other files are', async () => {
    for (const other of ['', 'HPSEAL1', 'PK\u0003\u0004 and more of a zip file that is long enough'])
      await expect(opened(other)).rejects.toMatchObject({ code: 'not sealed' });
    const dear = await sealed('x');
    new DataView(dear.buffer).setUint32(24, 4_000_000_000);
    await expect(opened(dear)).rejects.toThrow('its head is not what was sealed');
  });

  it('is refused when any byte of it is another, or any of it is missing or doubled', async () => {
    const file = await sealed(noise(140_000));
    await fc.assert(
      fc.asyncProperty(fc.nat(file.length - 1), fc.integer({ min: 1, max: 255 }), async (place, by) => {
        const changed = file.slice();
        changed[place] = changed[place]! ^ by;
        // A file that asks for millions of rounds is another matter.
        if (place >= 24 && place < 28) return;
        await expect(opened(changed)).rejects.toThrow();
      }),
      { numRuns: 60 },
    );
    for (const end of [51, 60, 51 + 65552, file.length - 1])
      await expect(opened(file.slice(0, end))).rejects.toThrow(/damaged|cut off/);
    const swapped = file.slice();
    swapped.set(file.subarray(51, 51 + 65552), 51 + 65552);
    await expect(opened(swapped)).rejects.toThrow('its piece 2 is not what was sealed');
  });
});
