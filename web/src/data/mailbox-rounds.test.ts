// @vitest-environment jsdom
import { openTeam } from '../testing/team';
import { useComponents } from '../testing/studio';
import { makeKeys, openSealed, publicKeysOf, writeInvitation, writeReply } from '@half-penny/formats/sealed-files';
import { readInvitation, type PrivateKeys } from '@half-penny/formats/sealed-files';
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { emptyMailbox } from './mailbox';
import { keepMailbox } from './mailbox-rounds';
import { keepKeys } from './keys';
import { registry } from './registry';
import type { Session } from './session';

const { fetch: ownFetch } = globalThis;
const RELAY = 'https://relay.saltmere-lighting.example';

/** The mailboxes of a relay, by key. */
const boxes = new Map<string, Map<string, Uint8Array>>();
let isDead = false;
/** How often somebody looked into a mailbox. */
let looks = 0;
let count = 0;

const SOON = { timeout: 30_000 };

const boxOf = (key: string) => {
  const box = boxes.get(key) ?? new Map<string, Uint8Array>();
  boxes.set(key, box);
  return box;
};

const put = (key: string, bytes: Uint8Array) => boxOf(key).set(`letter-${++count}`, bytes);

/** Answers as docs/relay.md says that a relay does. */
async function relay(address: string, { method, headers, body }: RequestInit): Promise<Response> {
  const [, first, second] = new URL(address).pathname.split('/');
  if (first === 'mailbox' && !second) looks++;
  if (isDead) throw new TypeError('Failed to fetch');
  if (first === 'mailboxes') {
    put(second!, body as Uint8Array);
    return new Response('{}');
  }
  const own = boxOf((headers as Record<string, string>)['x-device']!);
  if (!second)
    return new Response(
      JSON.stringify({ letters: [...own].map(([id, bytes]) => ({ id, at: 1, bytes: bytes.length })) }),
    );
  const found = own.get(second);
  if (method === 'DELETE') own.delete(second);
  return new Response((found ?? null) as BodyInit | null);
}

/** A studio with a mailbox, whose member has answered an invitation. */
async function openWithMailbox() {
  const { executor, reader, database, at, wren, test } = await openTeam();
  const [studio, member] = [makeKeys(), makeKeys()];
  await keepKeys(studio);
  await executor.run('keys.begin', { keys: publicKeysOf(studio) });
  const secret = '5a'.repeat(32);
  await executor.run('keys.invite', { memberId: wren, secret });
  const invitation = readInvitation(
    writeInvitation(
      { studio: 'Saltmere Lighting', member: { id: wren, name: 'Wren Okafor' }, secret, madeAt: test.now },
      studio,
    ),
  )!;
  const { signing } = publicKeysOf(studio);
  await registry.mailboxes.put(emptyMailbox(signing, RELAY));
  const session = {
    ...{ database, executor, reader, memberId: at.member },
    entry: { id: database.name },
  } as unknown as Session;
  const said: string[] = [];
  const begin = () => keepMailbox(session, (text) => said.push(text));
  const mailbox = async () => (await registry.mailboxes.get(signing))!;
  const lookNow = () => registry.mailboxes.update(signing, { asked: ++count });
  /** Two more rounds: the first of them has ended by then. */
  const lookTwice = async () => {
    for (let round = 0; round < 2; round++) {
      const before = looks;
      await lookNow();
      await expect.poll(() => looks, SOON).toBeGreaterThan(before);
    }
  };
  return {
    executor,
    reader,
    wren,
    member,
    signing,
    reply: writeReply(invitation, member),
    said,
    begin,
    mailbox,
    lookNow,
    lookTwice,
  };
}

/** What waits for a member, opened. */
const waitingFor = (member: PrivateKeys) =>
  [...boxOf(publicKeysOf(member).signing).values()].map((bytes) => openSealed(bytes, member).content.length > 0);

describe('the mailbox of a workspace', () => {
  useComponents();
  beforeAll(() => {
    vi.stubGlobal('fetch', relay);
    // One tab alone: whoever asks has the lock.
    Object.defineProperty(navigator, 'locks', {
      configurable: true,
      value: { request: (_: string, __: object, work: () => unknown) => Promise.resolve(work()) },
    });
  });
  afterAll(() => vi.stubGlobal('fetch', ownFetch));
  beforeEach(() => {
    boxes.clear();
    isDead = false;
  });

  it('takes what is for it, refuses what is nothing, and sends a job sheet once they are met', async () => {
    const { begin, reply, signing, said, executor, wren, member, mailbox, lookTwice } = await openWithMailbox();
    put(signing, new TextEncoder().encode('half a sandwich'));
    put(signing, reply);
    const end = begin();
    await expect.poll(() => boxOf(signing).size, SOON).toBe(0);
    await expect.poll(async () => (await mailbox()).lately.length, SOON).toBe(2);
    expect((await mailbox()).lately.map(({ fault }) => fault)).toEqual([false, true]);
    // Nobody is called for what a stranger put there.
    expect(said).toEqual([expect.stringContaining('Wren Okafor has answered the invitation.')]);
    expect(waitingFor(member)).toEqual([]);

    await executor.run('keys.met', { memberId: wren });
    await expect.poll(() => waitingFor(member), SOON).toEqual([true]);
    // The same does not go twice.
    await lookTwice();
    expect(waitingFor(member)).toHaveLength(1);
    end();
  });

  it('leaves what came where it is when this browser cannot keep it', async () => {
    const { begin, reply, signing, executor, mailbox, lookNow } = await openWithMailbox();
    put(signing, reply);
    const full = vi.spyOn(executor, 'run').mockRejectedValue(new DOMException('Quota', 'QuotaExceededError'));
    const end = begin();
    await expect
      .poll(async () => (await mailbox()).standing, SOON)
      .toMatchObject({ kind: 'stopped', why: /no room left/ });
    expect(boxOf(signing).size).toBe(1);
    full.mockRestore();
    await lookNow();
    await expect.poll(() => boxOf(signing).size, SOON).toBe(0);
    await expect.poll(async () => (await mailbox()).standing.kind, SOON).toBe('together');
    end();
  });

  it('says since when the relay is not reached, and makes nothing meanwhile', async () => {
    const { begin, executor, reply, signing, reader, mailbox, wren, member, lookNow, lookTwice } =
      await openWithMailbox();
    put(signing, reply);
    const end = begin();
    await expect.poll(() => boxOf(signing).size, SOON).toBe(0);
    isDead = true;
    await lookNow();
    await expect.poll(async () => (await mailbox()).standing.kind, SOON).toBe('off line');
    const { standing } = await mailbox();
    await executor.run('keys.met', { memberId: wren });
    await lookTwice();
    expect((await mailbox()).standing).toEqual(standing);
    expect(await reader.all('sealedFiles')).toEqual([]);
    isDead = false;
    await lookNow();
    await expect.poll(() => waitingFor(member).length, SOON).toBe(1);
    expect(await reader.all('sealedFiles')).toHaveLength(1);
    end();
  });
});
