import type { Activity } from '@half-penny/core/capture';
import { appendFileSync, mkdirSync, mkdtempSync, renameSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { isMailbox, watchMail } from './mail';

const mail = (subject: string, day = 12) =>
  `From: Stage <stage@quayside.example>\nTo: me@saltmere.example\nSubject: ${subject}\nDate: Thu, ${day} Nov 2026 10:00:00 +0000\n\nThe body says the secret word.\n`;
const NOW = Date.parse('2026-11-12T11:00:00Z');

let watcher: { close: () => Promise<void> } | null = null;
afterEach(() => watcher?.close());

async function watched(path: string) {
  const seen: Activity[] = [];
  watcher = await watchMail(
    [path],
    (list) => seen.push(...list),
    () => NOW,
  );
  return seen;
}

describe('a Maildir', () => {
  it('tells what comes, is read and is answered, and nothing of what was there', async () => {
    const place = mkdtempSync(join(tmpdir(), 'half-penny-mail-'));
    for (const part of ['cur', 'new', 'tmp']) mkdirSync(join(place, part));
    expect(isMailbox(place)).toBe(true);
    writeFileSync(join(place, 'cur/1.a:2,S'), mail('Old'));
    const seen = await watched(place);
    writeFileSync(join(place, 'new/2.b'), mail('Gel order'));
    await expect.poll(() => seen.length, { timeout: 30_000 }).toBe(1);
    expect(seen[0]).toEqual({
      kind: 'mail',
      program: 'Mail',
      from: Date.parse('2026-11-12T10:00:00Z'),
      to: Date.parse('2026-11-12T10:00:00Z'),
      title: 'Gel order',
      people: ['stage@quayside.example', 'me@saltmere.example'],
    });
    renameSync(join(place, 'new/2.b'), join(place, 'cur/2.b:2,S'));
    await expect.poll(() => seen.length, { timeout: 30_000 }).toBe(2);
    renameSync(join(place, 'cur/2.b:2,S'), join(place, 'cur/2.b:2,RS'));
    await expect.poll(() => seen.length, { timeout: 30_000 }).toBe(3);
    expect(seen.slice(1).map(({ program, from, title }) => [program, from, title])).toEqual([
      ['Mail, read', NOW, 'Gel order'],
      ['Mail, answered', NOW, 'Gel order'],
    ]);
    expect(JSON.stringify(seen)).not.toContain('secret');
  });
});

describe('an mbox', () => {
  it('tells what is put at its end', async () => {
    const box = join(mkdtempSync(join(tmpdir(), 'half-penny-mail-')), 'inbox');
    writeFileSync(box, `From a Thu Nov 12 10:00:00 2026\n${mail('Old')}\n`);
    const seen = await watched(box);
    appendFileSync(box, `From b Fri Nov 13 10:00:00 2026\n${mail('Cue list', 13)}\n`);
    await expect.poll(() => seen.map((each) => each.title), { timeout: 30_000 }).toEqual(['Cue list']);
  });
});

it('may be none at all', async () => {
  watcher = await watchMail([], () => undefined);
  expect(watcher).toBeDefined();
});

it('is nothing that is not there', () => {
  expect(isMailbox(join(tmpdir(), 'half-penny-no-such-box'))).toBe(false);
  expect(isMailbox(mkdtempSync(join(tmpdir(), 'half-penny-mail-')))).toBe(false);
});
