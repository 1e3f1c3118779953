import { captureDefaults, recordingOf, type Activity, type Welcome } from '@half-penny/core/capture';
import { makeLineKeys, openLine, publicLineKey, type LineKeys } from '@half-penny/formats/sealed-lines';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { Gate } from './gate';
import { Spool } from './spool';

const NINE = Date.parse('2026-11-12T09:00:00Z');
const window = (title: string, more: Partial<Activity> = {}): Activity => ({
  kind: 'window',
  from: NINE,
  to: NINE + 1000,
  title,
  ...more,
});
const folder = () => mkdtempSync(join(tmpdir(), 'half-penny-spool-'));
const onDisk = (place: string) => readdirSync(place).map((name) => readFileSync(join(place, name), 'utf8'));

let keys: LineKeys;
let publicKey: string;
beforeAll(async () => {
  keys = await makeLineKeys();
  publicKey = await publicLineKey(keys);
});
const welcome = (change: Partial<Welcome['recording']> = {}): Welcome => ({
  publicKey,
  recording: { ...recordingOf(captureDefaults, 0, []), ...change },
});
/** What would be sent, opened by the browser's key. */
async function waiting(spool: Spool): Promise<(string | undefined)[]> {
  await spool.settled();
  const next = spool.next(1000);
  if (!next) return [];
  if ('activities' in next) return next.activities.map((each) => each.title);
  return Promise.all(next.sealed.map(async (each) => (JSON.parse((await openLine(keys, each))!) as Activity).title));
}

describe('what lies on the disk', () => {
  it('is nothing until a browser has said for whom it is, and sealed from then on', async () => {
    const place = folder();
    const spool = new Spool(place);
    spool.add([window('Loan application')]);
    await spool.settled();
    expect([spool.isUnpaired, spool.next(10)]).toEqual([true, null]);
    expect(onDisk(place).join('')).not.toContain('Loan');
    spool.sealFor(publicKey);
    spool.add([window('Loan answer')]);
    expect(await waiting(spool)).toEqual(['Loan application', 'Loan answer']);
    expect(onDisk(place).join('')).not.toContain('Loan');
    // Another process reads it on, and cannot read what it says.
    const again = new Spool(place);
    expect(await waiting(again)).toEqual(['Loan application', 'Loan answer']);
  });

  it('is nothing at all where that was chosen, and numbers are not given twice', async () => {
    const place = folder();
    const spool = new Spool(place, { inMemory: true });
    spool.sealFor(publicKey);
    spool.add([window('a'), window('b')]);
    await spool.settled();
    const [first] = [spool.next(10)!.first];
    expect(readdirSync(place)).toEqual(['state.json']);
    const again = new Spool(place, { inMemory: true });
    again.sealFor(publicKey);
    again.add([window('c')]);
    await again.settled();
    expect(again.next(10)!.first).toBeGreaterThan(first + 1);
  });

  it('of an earlier version is sent as it is, and what comes after it sealed', async () => {
    const place = folder();
    writeFileSync(join(place, 'state.json'), JSON.stringify({ device: 'agent-old', first: 5, sent: 4 }));
    writeFileSync(join(place, 'spool.jsonl'), `${JSON.stringify(window('old'))}\n`);
    const spool = new Spool(place);
    spool.sealFor(publicKey);
    spool.add([window('new')]);
    expect(await waiting(spool)).toEqual(['old']);
    spool.sent(5);
    expect(await waiting(spool)).toEqual(['new']);
    expect(spool.next(10)).toMatchObject({ first: 6, count: 1 });
  });

  it('stays in memory while the key is none', async () => {
    const spool = new Spool(folder());
    spool.sealFor(btoa('none'));
    spool.add([window('kept')]);
    await spool.settled();
    expect(spool.waits).toBe(true);
    spool.sealFor(publicKey);
    expect(await waiting(spool)).toEqual(['kept']);
  });
});

describe('what the browser wishes', () => {
  it('holds for what is noticed, and for what waits unsealed', async () => {
    const place = folder();
    const spool = new Spool(place);
    const gate = new Gate(spool, place);
    gate.record([window('Chess', { program: 'Chess' }), window('Plot'), window('New tab (Incognito)')]);
    gate.hear(welcome({ neverPrograms: ['chess'], neverWords: ['Bank'] }));
    gate.record([window('My bank account'), window('Sheet')]);
    expect(await waiting(spool)).toEqual(['Plot', 'Sheet']);
    // After a restart with nobody there to ask, the same holds.
    const later = new Spool(place);
    new Gate(later, place).record([window('The BANK again'), window('Cue list')]);
    expect(await waiting(later)).toEqual(['Plot', 'Sheet', 'Cue list']);
  });

  it('throws away what waits once the trail was wiped, and nothing that comes later', async () => {
    const place = folder();
    const spool = new Spool(place);
    const gate = new Gate(spool, place);
    gate.hear(welcome());
    gate.record([window('before')]);
    await spool.settled();
    gate.hear(welcome({ wipedAt: NINE + 5000 }));
    gate.record([window('noticed earlier, told later'), window('after', { from: NINE + 6000, to: NINE + 7000 })]);
    expect(await waiting(spool)).toEqual(['after']);
    gate.hear(welcome({ wipedAt: NINE + 5000 }));
    expect(await waiting(spool)).toEqual(['after']);
  });

  it('records nothing in a pause', async () => {
    const place = folder();
    const spool = new Spool(place);
    const gate = new Gate(spool, place);
    gate.hear(welcome({ paused: true }));
    gate.record([window('meanwhile')]);
    expect([gate.paused, await waiting(spool)]).toEqual([true, []]);
  });
});
