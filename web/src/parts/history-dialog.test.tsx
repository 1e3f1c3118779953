// @vitest-environment jsdom
import { openStudio, useComponents } from '../testing/studio';
import { work } from '@half-penny/core/testing';
import { act, screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { usePricer } from '../data/book';
import { HistoryButton } from './history-button';

const LIST = 'What was done to it';

function OfEntry({ id }: { id: string }) {
  const pricer = usePricer();
  return pricer ? <HistoryButton pricer={pricer} table="entries" id={id} /> : null;
}

const lines = async () => {
  const list = await screen.findByRole('list', { name: LIST });
  return within(list)
    .getAllByRole('listitem')
    .map((line) => line.textContent);
};

describe('what was done to a row', () => {
  useComponents();

  it('says what became of it, by whom, and follows what is done meanwhile', async () => {
    const { show, user, executor, at } = await openStudio();
    const { id } = (await executor.run('entry.add', work(at.rig, 7200))).changes[0]!;
    await executor.run('entry.edit', { id, note: 'Cue list for the second half' });
    show(<OfEntry id={id} />);
    await user.click(await screen.findByRole('button', { name: 'History…' }));
    const [latest] = await lines();
    expect(latest).toMatch(/note .* → Cue list for the second half/);
    expect(latest).not.toContain('length');
    expect(latest).not.toContain(' on ');
    await act(() => executor.run('entry.edit', { id, seconds: 300 }));
    expect(await screen.findByText('length 2:00 → 0:05')).toBeTruthy();
    expect(await lines()).toHaveLength(3);
  });

  it('says on which device where there are several', async () => {
    const { show, user, executor, at, database } = await openStudio();
    const keys = { signing: 'ab'.repeat(32), agreement: 'cd'.repeat(32) };
    const [last] = await database.journal.toArray();
    await executor.run('device.meet', { id: last!.device, name: 'Laptop', keys });
    const { id } = (await executor.run('entry.add', work(at.rig, 7200))).changes[0]!;
    show(<OfEntry id={id} />);
    await user.click(await screen.findByRole('button', { name: 'History…' }));
    expect((await lines())[0]).toContain('on Laptop');
  });

  it('says plainly where nothing is kept of it', async () => {
    const { show, user } = await openStudio();
    show(<OfEntry id="00000000-0000-7000-8000-0000000000ff" />);
    await user.click(await screen.findByRole('button', { name: 'History…' }));
    expect(await screen.findByText(/from before the history begins/)).toBeTruthy();
  });
});
