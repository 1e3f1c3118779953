import { ed25519 } from '@noble/curves/ed25519.js';
import { bytesToHex, hexToBytes } from '@noble/hashes/utils.js';
import { SCHEMA_VERSION } from '@half-penny/core/model';
import { LOG_START, type LogBody, type LogFaultKind, type LogRow } from '@half-penny/core/shared-log';
import { describe, expect, it, vi } from 'vitest';
import { makeKeys, publicKeysOf, randomBytes } from '../sealed-files/keys';
import { isSignedBy, signedAs, signRequest } from './requests';
import { openRows, sealRows, type LogReader, type Writer } from './rows';
import { isSigned, publicKeyOf, signed } from './signing';
import { grant, GrantFault, NO_WRITERS, writersAfter, type Grant } from './writers';

const id = (number: number) => `01a1cfaa-35a2-7000-9e89-${String(number).padStart(12, '0')}`;
const BOOK = id(1);
const keys = makeKeys();
const other = makeKeys();
const key = bytesToHex(randomBytes(32));
const writer: Writer = { book: BOOK, epoch: 1, key, signing: keys.signing };
const reader: LogReader = {
  book: BOOK,
  keys: new Map([[1, key]]),
  writers: new Map([
    [id(2), publicKeysOf(keys).signing],
    [id(3), publicKeysOf(other).signing],
  ]),
};

const body = (op: number, device = id(2)): LogBody => ({
  op: id(op),
  version: SCHEMA_VERSION,
  row: {
    device,
    seq: op,
    at: 1_794_485_400_000,
    memberId: null,
    command: 'client.edit',
    title: 'Quayside Playhouse changed',
    input: { name: 'Quayside Playhouse' },
    of: null,
    changes: [],
    previous: '',
    hash: '',
  },
});

describe('rows of a log', () => {
  it('open to what was sealed, and say nothing before', async () => {
    const bodies = [body(11), body(12), body(13)];
    const rows = sealRows(LOG_START, bodies, writer);
    expect(rows.map(({ number }) => number)).toEqual([1, 2, 3]);
    const text = JSON.stringify(rows);
    for (const word of ['Quayside', 'client.edit', bytesToHex(new TextEncoder().encode('Quayside')), id(11)])
      expect(text).not.toContain(word);
    const opened = await openRows(LOG_START, rows, reader);
    expect(opened.map((row) => row.body)).toEqual(bodies);
    expect(rows[1]!.previous).toBe(opened[0]!.hash);
  });

  const altered = (row: LogRow, place: number): LogRow => {
    const bytes = hexToBytes(row.sealed);
    bytes[place]! ^= 1;
    return { ...row, sealed: bytesToHex(bytes) };
  };

  it.each<[string, (rows: LogRow[]) => LogRow[], LogFaultKind]>([
    ['in its nonce', ([row]) => [altered(row!, 3)], 'cannot be opened'],
    ['in its signature', ([row]) => [altered(row!, 30)], 'cannot be opened'],
    ['in its body', ([row]) => [altered(row!, 120)], 'cannot be opened'],
    ['in its writer', ([row]) => [{ ...row!, writer: publicKeysOf(other).signing }], 'cannot be opened'],
    ['in its epoch', ([row]) => [{ ...row!, epoch: 2 }], 'cannot be opened'],
    ['in its place', ([row, next]) => [row!, { ...next!, number: 3 }], 'not in order'],
    ['by being cut off', ([row]) => [{ ...row!, sealed: row!.sealed.slice(0, 20) }], 'cannot be opened'],
    ['by being moved', ([, next]) => [{ ...next!, number: 1 }], 'not after the one before'],
  ])('are named where one was altered %s', async (_how, change, kind) => {
    const rows = change(sealRows(LOG_START, [body(11), body(12)], writer));
    await expect(openRows(LOG_START, rows, reader)).rejects.toMatchObject({ kind });
  });

  it('are refused of a device that did not sign them, and of one that nobody met', async () => {
    for (const device of [id(3), id(4)]) {
      const rows = sealRows(LOG_START, [body(11, device)], writer);
      await expect(openRows(LOG_START, rows, reader)).rejects.toMatchObject({ kind: 'not by this device' });
    }
  });
});

describe('signatures', () => {
  // RFC 8032, 7.1, test 2.
  const vector = {
    private: '4ccd089b28ff96da9db6c346ec114e0f5b8a319f35aba624da8cf6ed4fb8a6fb',
    key: '3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c',
    message: '72',
    signature:
      '92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00',
  };
  const check = (message = vector.message, signingKey = vector.key) =>
    isSigned(hexToBytes(vector.signature), hexToBytes(message), signingKey);

  it('are those of RFC 8032, and of nothing else', async () => {
    expect(await check()).toBe(true);
    expect(await check('73')).toBe(false);
    expect(await check('72', publicKeysOf(keys).signing)).toBe(false);
    expect(await check('72', '00')).toBe(false);
    expect(publicKeyOf(vector.private)).toBe(vector.key);
    expect(bytesToHex(await signed(hexToBytes('72'), vector.private))).toBe(vector.signature);
  });

  it('are made and checked where the browser does not know how', async () => {
    const unknown = vi.spyOn(crypto.subtle, 'importKey').mockRejectedValue(new DOMException('no', 'NotSupportedError'));
    const fresh = bytesToHex(randomBytes(32));
    const message = hexToBytes('72');
    expect(await isSigned(ed25519.sign(message, hexToBytes(fresh)), message, publicKeyOf(fresh))).toBe(true);
    expect(await isSigned(await signed(message, fresh), message, publicKeyOf(fresh))).toBe(true);
    expect(await signed(message, fresh)).toEqual(ed25519.sign(message, hexToBytes(fresh)));
    unknown.mockRestore();
  });
});

describe('who may write', () => {
  const [a, b, c] = [makeKeys(), makeKeys(), makeKeys()];
  const say = (number: number, device: number, of: typeof a, by: typeof a, may = true): Grant =>
    grant({ book: BOOK, number, device: id(device), key: publicKeysOf(of).signing, may }, by.signing);
  const first = say(1, 1, a, a);

  it('is whom somebody let in who might', () => {
    const after = writersAfter(NO_WRITERS, [first, say(2, 2, b, a), say(3, 1, a, b, false)], BOOK);
    expect([...after.may.values()]).toEqual([id(2)]);
    expect(after.ever.get(id(1))).toBe(publicKeysOf(a).signing);
  });

  it.each<[string, Grant[]]>([
    ['the first is not by itself', [say(1, 1, a, b)]],
    ['it is by somebody who was never let in', [first, say(2, 3, c, b)]],
    ['it is by somebody who was removed', [first, say(2, 2, b, a), say(3, 1, a, b, false), say(4, 3, c, a)]],
    ['it is not the next', [first, say(3, 2, b, a)]],
    ['it was altered', [{ ...first, device: id(9) }]],
    ['a device has another key', [first, say(2, 1, b, a)]],
    ['a key is two devices’', [first, say(2, 2, a, a)]],
    ['nobody is left', [first, say(2, 1, a, a, false)]],
  ])('does not hold where %s', (_what, grants) => {
    expect(() => writersAfter(NO_WRITERS, grants, BOOK)).toThrow(GrantFault);
  });
});

describe('requests', () => {
  const bodyOf = (text: string) => new TextEncoder().encode(text);
  const request = { method: 'POST', path: `/books/${BOOK}/rows?x=1`, body: bodyOf('{}') };

  it('are signed whole', async () => {
    const as = signedAs(await signRequest(request, keys.signing, 1000))!;
    expect(as).toMatchObject({ device: publicKeysOf(keys).signing, at: 1000 });
    expect(await isSignedBy(request, as)).toBe(true);
    for (const changed of [
      { ...request, method: 'GET' },
      { ...request, path: '/books' },
      { ...request, body: bodyOf('{ }') },
    ])
      expect(await isSignedBy(changed, as)).toBe(false);
    expect(await isSignedBy(request, { ...as, at: 1001 })).toBe(false);
    expect(await isSignedBy(request, { ...as, device: publicKeysOf(other).signing })).toBe(false);
  });

  it('are none without all of their headers', async () => {
    const headers = await signRequest(request, keys.signing, 1000);
    for (const name of Object.keys(headers)) expect(signedAs({ ...headers, [name]: undefined })).toBeNull();
    expect(signedAs({ ...headers, 'x-at': 'yesterday' })).toBeNull();
  });
});
