// @vitest-environment jsdom
import { openTeam } from '../../testing/team';
import { useComponents } from '../../testing/studio';
import { makeKeys, publicKeysOf } from '@half-penny/formats/sealed-files';
import { screen, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { keepKeys } from '../../data/keys';
import { mailboxOf, note, stand, wasSent } from '../../data/mailbox';
import { ByRelay } from './by-relay';

const { fetch: ownFetch } = globalThis;
const RELAY = 'https://relay.saltmere-lighting.example';

/** A studio with its keys, and a relay that answers or does not. */
async function openWithRelay(answers: boolean) {
  vi.stubGlobal('fetch', async () => {
    if (!answers) throw new TypeError('Failed to fetch');
    return new Response(JSON.stringify({ letters: [] }));
  });
  const studio = await openTeam();
  const keys = makeKeys();
  await keepKeys(keys);
  await studio.executor.run('keys.begin', { keys: publicKeysOf(keys) });
  const [own] = await studio.reader.all('keyHolders');
  studio.show(<ByRelay own={own!} zone="Europe/London" />);
  const { signing } = publicKeysOf(keys);
  const use = async (address: string) => {
    await studio.user.type(await screen.findByLabelText('Relay'), address);
    await studio.user.click(screen.getByRole('button', { name: 'Use this relay' }));
  };
  return { ...studio, use, box: () => mailboxOf(signing), signing };
}

describe('sealed files by a relay', () => {
  useComponents();
  afterEach(() => vi.stubGlobal('fetch', ownFetch));

  it('wants an address, and none of a relay elsewhere that can be listened to', async () => {
    const { use, box, user } = await openWithRelay(true);
    await use('relay of ours');
    expect(await screen.findByText(/Write the address of the relay as https:/)).toBeTruthy();
    await user.clear(screen.getByLabelText('Relay'));
    await use('http://relay.saltmere-lighting.example');
    expect(await screen.findByText(/reached by https:\/\/ alone/)).toBeTruthy();
    expect(await box()).toBeUndefined();
  });

  it('keeps nothing of a relay that does not answer', async () => {
    const { use, box } = await openWithRelay(false);
    await use(RELAY);
    expect((await screen.findByRole('alert')).textContent).toContain('The relay was not reached.');
    expect(await box()).toBeUndefined();
  });

  it('says how it stands and what came, and goes by hand again when told to', async () => {
    const { use, box, signing, user } = await openWithRelay(true);
    await use(`${RELAY}/`);
    await screen.findByText(/^Looked into/);
    expect(await box()).toMatchObject({ relay: RELAY, sent: {} });
    expect(screen.getByText('Nothing went or came yet.')).toBeTruthy();

    const refused = { name: 'refused.half-penny.sealed', blob: new Blob(['?']) };
    await wasSent(signing, 'answer m', 'abc', 'A job sheet for Wren Okafor went to its mailbox.');
    const why = 'This timesheet is of closed days.';
    await note(signing, { at: Date.UTC(2026, 10, 12, 9, 30), said: why, fault: true, file: refused });
    await stand(signing, { kind: 'off line', since: Date.UTC(2026, 10, 12, 10) });
    await screen.findByText('Off line since 12 Nov 2026, 10:00.');
    const lines = within(screen.getByRole('list', { name: 'Went and came' })).getAllByRole('listitem');
    expect(lines.map((line) => within(line).queryByRole('button') !== null)).toEqual([true, false]);
    expect(lines[0]!.textContent).toContain('12 Nov 2026, 09:30');

    await user.click(screen.getByRole('button', { name: 'Send all again' }));
    await waitFor(async () => expect((await box())?.sent).toEqual({}));
    await user.click(screen.getByRole('button', { name: 'Files by hand alone' }));
    expect(await screen.findByLabelText('Relay')).toBeTruthy();
    expect(await box()).toBeUndefined();
  });
});
