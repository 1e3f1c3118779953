import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { beforeEach, describe, expect, it } from 'vitest';
import { Backups, BackupRefused, TRAILS, type BackupKind } from './backups';

const NOON = Date.parse('2026-11-12T12:00:00Z');
const DAY = 86_400_000;
let now = NOON;
let folder: string;

beforeEach(() => {
  now = NOON;
  folder = join(mkdtempSync(join(tmpdir(), 'half-penny-backups-')), 'backups');
});

const file = (text: string) => Buffer.from(`PK\u0003\u0004${text}`);
const start = (more: { largest?: number; mostBytes?: number; kind?: BackupKind } = {}) =>
  new Backups(folder, { now: () => now, ...more });
const take = (backups: Backups, text: string, workspace = 'saltmere', changes = 1) =>
  backups.take(Readable.from([file(text)]), { workspace, name: 'Saltmere Lighting', changes });
const contentOf = async (backups: Backups, id: string): Promise<Buffer> => {
  const pieces: Buffer[] = [];
  for await (const piece of backups.read(id)!) pieces.push(piece as Buffer);
  return Buffer.concat(pieces);
};

describe('backups of the server', () => {
  it('come back byte for byte, also after a restart', async () => {
    const large = 'x'.repeat(3_000_000);
    const { id, sha256, bytes, at } = await take(start(), large, 'saltmere', 42);
    const again = start();
    expect(again.list()).toEqual([
      { id, workspace: 'saltmere', name: 'Saltmere Lighting', changes: 42, at, bytes, sha256 },
    ]);
    const content = await contentOf(again, id);
    expect(content.equals(file(large))).toBe(true);
    expect(createHash('sha256').update(content).digest('hex')).toBe(sha256);
  });

  it('are for their owner alone, under names that nothing sent is part of', async () => {
    const { id } = await take(start(), 'a', '../../../etc/passwd');
    expect(readdirSync(folder).sort()).toEqual([`${id}.half-penny.zip`, `${id}.json`]);
    expect(id).toMatch(/^20261112T120000000Z-[0-9a-f]{16}$/);
    expect(statSync(folder).mode & 0o777).toBe(0o700);
    for (const name of readdirSync(folder)) expect(statSync(join(folder, name)).mode & 0o777).toBe(0o600);
  });

  it('of 60 days are the last seven, then one a week and one a month', async () => {
    const backups = start();
    for (let day = 0; day < 60; day++) {
      now = NOON + day * DAY;
      await take(backups, `day ${day}`);
    }
    const kept = backups.list().map(({ at }) => new Date(at).toISOString().slice(0, 10));
    expect(kept).toEqual([
      ...['2027-01-10', '2027-01-09', '2027-01-08', '2027-01-07', '2027-01-06', '2027-01-05', '2027-01-04'],
      ...['2027-01-03', '2026-12-31', '2026-12-27', '2026-12-20', '2026-11-30'],
    ]);
  });

  it('of one workspace do not push out those of another', async () => {
    const backups = start();
    await take(backups, 'once', 'other');
    for (let day = 1; day < 30; day++) {
      now = NOON + day * DAY;
      await take(backups, `day ${day}`);
    }
    expect(backups.list().filter(({ workspace }) => workspace === 'other')).toHaveLength(1);
  });

  it('make room by letting the oldest go, and are refused in words when that is not enough', async () => {
    const backups = start({ mostBytes: 3000 });
    const first = await take(backups, 'a'.repeat(1200), 'saltmere');
    now += DAY;
    const second = await take(backups, 'b'.repeat(1200), 'saltmere');
    now += DAY;
    const third = await take(backups, 'c'.repeat(1200), 'saltmere');
    expect(backups.list().map(({ id }) => id)).toEqual([third.id, second.id]);
    expect(first.id).not.toBe(second.id);
    await expect(take(backups, 'd'.repeat(2500), 'saltmere')).rejects.toMatchObject({
      statusCode: 507,
      message: expect.stringMatching(/do not fit/) as string,
    });
    expect(backups.list().map(({ id }) => id)).toContain(third.id);
  });

  it('that are none, empty or too large leave nothing behind', async () => {
    const backups = start({ largest: 1000 });
    const about = { workspace: 'saltmere', name: 'Saltmere Lighting', changes: 1 };
    await expect(backups.take(Readable.from([Buffer.from('<html>')]), about)).rejects.toThrow('no workspace file');
    await expect(backups.take(Readable.from([]), about)).rejects.toThrow('empty');
    await expect(take(backups, 'x'.repeat(1000))).rejects.toMatchObject({ statusCode: 413 });
    const broken = Readable.from(
      (async function* () {
        yield file('half');
        await Promise.resolve();
        throw new Error('The connection ended.');
      })(),
    );
    await expect(backups.take(broken, about)).rejects.toBeInstanceOf(BackupRefused);
    expect(readdirSync(folder)).toEqual([]);
  });

  it('that were cut off or damaged are not offered, and keep nothing from working', async () => {
    const { id } = await take(start(), 'whole');
    writeFileSync(join(folder, 'abc.part'), 'PK');
    writeFileSync(join(folder, '20261111T120000000Z-0123456789abcdef.json'), '{"workspace":"x"');
    writeFileSync(join(folder, '20261110T120000000Z-0123456789abcdef.json'), readFileSync(join(folder, `${id}.json`)));
    writeFileSync(join(folder, 'notes.txt'), 'mine');
    const again = start();
    expect(again.list().map((each) => each.id)).toEqual([id]);
    expect(readdirSync(folder)).not.toContain('abc.part');
    expect(readdirSync(folder)).toContain('notes.txt');
    writeFileSync(join(folder, `${id}.half-penny.zip`), 'PK');
    expect(again.list()).toEqual([]);
  });

  it('are found by the list alone, whatever is asked for, and can be deleted', async () => {
    const backups = start();
    const { id } = await take(backups, 'a');
    for (const asked of ['../page-secret', '', `${id}.json`, '..%2Fpage-secret', '__proto__'])
      expect([backups.read(asked), backups.remove(asked)]).toEqual([null, false]);
    expect(backups.remove(id)).toBe(true);
    expect(readdirSync(folder)).toEqual([]);
  });

  it('of one moment, or after the clock was set back a little, stand side by side', async () => {
    const backups = start();
    const one = await take(backups, 'one');
    const two = await take(backups, 'two');
    expect(two.at).toBe(one.at + 1);
    expect((await contentOf(backups, two.id)).toString()).toContain('two');
  });

  it('of a trail are sealed files, of which the newest alone stays', async () => {
    const backups = start({ kind: TRAILS });
    const about = { workspace: 'trail', name: 'What was noticed', changes: 3 };
    await expect(backups.take(Readable.from([file('a')]), about)).rejects.toThrow('This is no sealed trail');
    const ids: string[] = [];
    for (const text of ['first', 'second']) {
      now += DAY;
      ids.push((await backups.take(Readable.from([Buffer.from(`HPSEAL1\n${text}`)]), about)).id);
    }
    await backups.take(Readable.from([Buffer.from('HPSEAL1\nanother')]), { ...about, workspace: 'other' });
    expect(backups.list().map(({ id }) => id)).toContain(ids[1]);
    expect(readdirSync(folder).filter((name) => name.endsWith('.half-penny-trail'))).toHaveLength(2);
    expect((await contentOf(backups, ids[1]!)).toString()).toBe('HPSEAL1\nsecond');
  });
});
