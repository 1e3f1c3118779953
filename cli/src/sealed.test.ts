import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { jobSheetFor } from '@half-penny/core/sealed-files';
import { freshStudio } from '@half-penny/core/testing';
import {
  makeKeys,
  packContent,
  publicKeysOf,
  readInvitation,
  sealTo,
  wrapKeys,
  writeInvitation,
  writeReply,
  type PrivateKeys,
} from '@half-penny/formats/sealed-files';
import { saveWorkspace } from './files';
import { sealed } from './sealed';
import { UsageError } from './usage';

const folder = mkdtempSync(join(tmpdir(), 'half-penny-sealed-'));
const at = (name: string) => join(folder, name);
const secret = '5a'.repeat(32);

async function said(...args: string[]): Promise<string> {
  const lines: string[] = [];
  await sealed(args, (line) => lines.push(line));
  return lines.join('\n');
}

/** The studio's workspace with its keys under a passphrase, and files to and from a member. */
async function lay(studio: PrivateKeys, member: PrivateKeys): Promise<void> {
  const { store, at: ids, run, test } = await freshStudio();
  const added = await run('member.add', {
    name: 'Asha Quill',
    role: '',
    zone: 'Europe/London',
    owed: [0, 0, 0, 0, 0, 0, 0],
  });
  const asha = { id: added.changes[0]!.id, name: 'Asha Quill' };
  await run('keys.begin', { keys: publicKeysOf(studio) });
  await run('keys.wrap', { wrapped: await wrapKeys(studio, 'seven lamps over the water') });
  await run('keys.invite', { memberId: asha.id, secret });
  await run('keys.reply', { memberId: asha.id, keys: publicKeysOf(member), secret });
  await run('keys.met', { memberId: asha.id });
  await saveWorkspace(at('studio.zip'), store);
  writeFileSync(at('passphrase'), 'seven lamps over the water\n');
  writeFileSync(at('other'), 'another\n');
  const invitation = writeInvitation({ studio: 'Saltmere Lighting', member: asha, secret, madeAt: test.now }, studio);
  writeFileSync(at('asha.invitation'), invitation);
  writeFileSync(at('reply.sealed'), writeReply(readInvitation(invitation)!, member));
  const sheet = await jobSheetFor(store, asha.id, ids.member, { id: test.newId(), madeAt: test.now });
  const packed = packContent(sheet);
  writeFileSync(at('sheet.sealed'), sealTo(packed, publicKeysOf(member).agreement, studio));
  // Sealed to the studio itself, so that it can be listed there.
  writeFileSync(at('own.sealed'), sealTo(packed, publicKeysOf(studio).agreement, member));
}

describe('half-penny sealed', () => {
  beforeAll(() => lay(makeKeys(), makeKeys()));
  const open = ['--workspace', at('studio.zip'), '--passphrase', at('passphrase')];

  it('tells an invitation, and that it is sound', async () => {
    expect(await said(at('asha.invitation'))).toMatch(/Sound: an invitation of Asha Quill by Saltmere Lighting/);
    writeFileSync(at('altered.invitation'), readFileSync(at('asha.invitation'), 'utf8').replace('Asha', 'Ashe'));
    await expect(said(at('altered.invitation'))).rejects.toThrow(/was altered/);
  });

  it('tells without keys only what can be seen from outside', async () => {
    const told = await said(at('own.sealed'));
    expect(told).toMatch(/^Sealed to the key [0-9a-f]{8}…; \d+ bytes\./);
    expect(told).not.toContain('Winter');
  });

  it('tells for whom it is, who signed it, and what is in it', async () => {
    const told = await said(at('own.sealed'), ...open);
    expect(told).toContain('It is for Saltmere Lighting.');
    expect(told).toContain('Sound: not altered since it was signed by Asha Quill, met.');
    expect(told).toMatch(/A job sheet, made 2026-11-12T09:\d\d/);
    expect(told).toContain('2 clients, 3 projects');
    expect(await said(at('reply.sealed'), ...open)).toContain('A reply of Asha Quill to an invitation');
  });

  it('refuses what is for others, was altered, or comes with another passphrase', async () => {
    await expect(said(at('sheet.sealed'), ...open)).rejects.toThrow(/somebody whom that workspace has met/);
    const bytes = readFileSync(at('own.sealed'));
    bytes[bytes.length - 1]! ^= 1;
    writeFileSync(at('altered.sealed'), bytes);
    await expect(said(at('altered.sealed'), ...open)).rejects.toThrow(/was altered or cut off/);
    await expect(said(at('own.sealed'), '--workspace', at('studio.zip'), '--passphrase', at('other'))).rejects.toThrow(
      /passphrase is not the one/,
    );
    await expect(said(at('passphrase'))).rejects.toThrow(/neither a sealed file/);
    await expect(said(at('own.sealed'), '--passphrase', at('passphrase'))).rejects.toThrow(UsageError);
  });
});
