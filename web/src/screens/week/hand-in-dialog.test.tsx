// @vitest-environment jsdom
import { useComponents } from '../../testing/studio';
import { openTeam } from '../../testing/team';
import type { Id } from '@half-penny/core/model';
import { DAY } from '@half-penny/core/testing';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { usePricer } from '../../data/book';
import HandInDialog from './hand-in-dialog';

function Dialog({ memberId }: { memberId: Id }) {
  const pricer = usePricer();
  const member = pricer?.member.get(memberId);
  return pricer && member ? (
    <HandInDialog {...{ pricer, member }} day={DAY} today={DAY} onClose={() => undefined} />
  ) : null;
}

describe('handing in', () => {
  useComponents();

  it('shows first what is missing or odd: owed hours, overlaps, long days, jobs in words', async () => {
    const { record, show, user, wren, reader, test } = await openTeam();
    const at = (hour: number) => Date.parse(`${DAY}T${String(hour).padStart(2, '0')}:00:00Z`);
    await record(7200, { spans: [{ start: at(8), end: at(10) }], note: 'Focus' });
    await record(7200, { spans: [{ start: at(9), end: at(11) }], note: 'Call' });
    await record(7200, { unlisted: 'Chapel roof', projectId: null });
    await record(90_000, { day: '2026-11-11', note: 'A slip' });
    test.memberId = wren;
    show(<Dialog memberId={wren} />);
    const dialog = within(await screen.findByRole('dialog'));
    await dialog.findByText('Look at these first');
    const said = dialog.getAllByRole('listitem').map(({ textContent }) => textContent);
    for (const words of [/2:00 missing of 8:00/, /“Chapel roof”/, /2 entries overlap/, /more than a day has/])
      expect(said.filter((each) => words.test(each))).toHaveLength(1);
    await user.click(dialog.getByRole('button', { name: 'Hand in all the same' }));
    await waitFor(async () => expect(await reader.all('timesheets')).toHaveLength(1));
    expect((await reader.all('handIns'))[0]!.entries).toHaveLength(4);
  });

  it('is refused in words where an entry lacks what the member has to say', async () => {
    const { record, show, user, wren, executor, reader, test } = await openTeam();
    await record(28_800, { note: '' });
    await executor.run('member.edit', { id: wren, asked: ['note'] });
    test.memberId = wren;
    show(<Dialog memberId={wren} />);
    await user.click(await screen.findByRole('button', { name: 'Hand in all the same' }));
    await screen.findByText(/still needs a note/);
    expect(await reader.all('timesheets')).toEqual([]);
  });
});
