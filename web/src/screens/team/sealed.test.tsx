// @vitest-environment jsdom
import { useComponents } from '../../testing/studio';
import { openTeam } from '../../testing/team';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { makeKeys, publicKeysOf } from '@half-penny/formats/sealed-files';
import { describe, expect, it } from 'vitest';
import { keepKeys } from '../../data/keys';
import { KeysKept } from '../../parts/keys-kept';
import { pageFor } from './sealed-words';
import Sealed from './sealed';

describe('sealed files', () => {
  useComponents();

  it('begin with keys, and then everybody can be invited', async () => {
    const { show, user, reader } = await openTeam();
    show(<Sealed />);
    await user.click(await screen.findByRole('button', { name: 'Make the studio’s keys' }));
    const members = within(await screen.findByRole('grid', { name: 'Members and their files' }));
    expect(members.getByRole('row', { name: /Wren Okafor/ }).textContent).toContain('not invited');
    const [own] = await reader.all('keyHolders');
    expect(own).toMatchObject({ memberId: null, standing: 'met' });
    expect(await screen.findByText(/The keys are in this browser, and nowhere else/)).toBeTruthy();
    // The private ones are in nothing that is exported.
    expect(JSON.stringify(own)).not.toContain('wrapped');
  });

  it('are refused in words where they are none', async () => {
    const { show, executor } = await openTeam();
    await executor.run('keys.begin', { keys: publicKeysOf(makeKeys()) });
    show(<Sealed />);
    const chosen = new File(['{"a":1}'], 'notes.sealed');
    await userEvent.upload(await screen.findByLabelText('Sealed files'), chosen);
    const opened = within(screen.getByRole('list', { name: 'What was opened' }));
    await waitFor(() => expect(opened.getByText(/neither a sealed file of Half Penny nor an invitation/)).toBeTruthy());
  });

  it('need keys that are here: brought back by their passphrase, or not at all', async () => {
    const { show, executor, reader } = await openTeam();
    await executor.run('keys.begin', { keys: publicKeysOf(makeKeys()) });
    const [own] = await reader.all('keyHolders');
    show(<KeysKept own={own!} whenLost="Ask to be invited again." />);
    expect(await screen.findByText(/are not in this browser.*Ask to be invited again/)).toBeTruthy();
  });

  it('keep keys in backups only under a passphrase that is long enough', async () => {
    const { show, executor, reader, user } = await openTeam();
    const keys = makeKeys();
    await keepKeys(keys);
    await executor.run('keys.begin', { keys: publicKeysOf(keys) });
    const [own] = await reader.all('keyHolders');
    show(<KeysKept own={own!} whenLost="" />);
    await user.click(await screen.findByRole('button', { name: 'Keep them in backups…' }));
    await user.type(screen.getByLabelText('Passphrase'), 'short');
    await user.click(screen.getByRole('button', { name: 'Keep in backups' }));
    expect((await screen.findByRole('alert')).textContent).toContain('at least 10 letters');
    await user.type(screen.getByLabelText('Passphrase'), ' of the seven lamps');
    await user.type(screen.getByLabelText('Once more'), 'another');
    await user.click(screen.getByRole('button', { name: 'Keep in backups' }));
    expect((await screen.findByRole('alert')).textContent).toContain('The two are not the same');
    expect((await reader.all('keyHolders'))[0]!.wrapped).toBeUndefined();
  });

  it('come with a page that says what to do, whatever they are', () => {
    const about = { studio: 'Saltmere Lighting', member: 'Wren Okafor', file: 'wren.sealed', days: '9 Nov – 15 Nov' };
    for (const kind of ['invitation', 'job sheet', 'timesheet', 'answer'] as const) {
      const page = pageFor(kind, about);
      expect(page).toContain('wren.sealed');
      expect(page).toMatch(/Open|open/);
    }
  });
});
