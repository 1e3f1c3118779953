// @vitest-environment jsdom
import { useComponents } from '../../testing/studio';
import { openTeam } from '../../testing/team';
import { DAY, ZONE } from '@half-penny/core/testing';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { usePricer } from '../../data/book';
import { useMemberPeriods } from '../../data/checking';
import { useMember } from '../../data/queries';
import { Capacity } from './capacity';
import { ClosedDays } from './closed-days';
import { Periods } from './periods';
import { ToCheckPart } from './to-check';

function Check() {
  const pricer = usePricer();
  const self = useMember(pricer);
  return pricer ? <ToCheckPart {...{ pricer, self }} today={DAY} /> : null;
}

function Weeks() {
  const pricer = usePricer();
  const self = useMember(pricer);
  const found = useMemberPeriods(pricer, pricer?.book.members ?? [], DAY, '2026-11-18');
  return pricer ? <Periods {...{ pricer, self, found }} day={DAY} /> : null;
}

function Closed() {
  const pricer = usePricer();
  return pricer ? <ClosedDays {...{ pricer }} self={undefined} today={DAY} /> : null;
}

function Ahead() {
  const pricer = usePricer();
  return pricer ? <Capacity {...{ pricer }} today={DAY} /> : null;
}

describe('what is to check', () => {
  useComponents();

  it('is approved line by line or all of it, and put right where it stands', async () => {
    const { record, handIn, show, user, reader } = await openTeam();
    const [first, second] = [await record(7200, { note: 'Focus' }), await record(3600, { note: 'Travel' })];
    await handIn();
    show(<Check />);
    const list = within(await screen.findByRole('grid', { name: 'To check' }));
    await screen.findByRole('button', { name: 'Approve 2, 3:00' });
    await user.dblClick(within(list.getByRole('row', { name: /Focus/ })).getAllByText('2:00')[0]!);
    await user.clear(screen.getByRole('textbox'));
    await user.type(screen.getByRole('textbox'), '1:30{Enter}');
    await screen.findByRole('button', { name: 'Approve 2, 2:30' });
    expect(await reader.all('corrections')).toMatchObject([{ entryId: first, before: { seconds: 7200 } }]);
    await user.click(within(list.getByRole('row', { name: /Travel/ })).getByRole('checkbox'));
    await user.click(await screen.findByRole('button', { name: 'Approve 1, 1:30' }));
    await waitFor(() => expect(list.queryByRole('row', { name: /Focus/ })).toBeNull());
    expect((await reader.get('entries', first))?.approval?.looks).toHaveLength(1);
    expect((await reader.get('entries', second))?.approval).toBeUndefined();
  });

  it('goes back with a reason, which has to be given', async () => {
    const { record, handIn, show, user, reader } = await openTeam();
    const id = await record(7200, { note: 'Focus' });
    await handIn();
    show(<Check />);
    await user.click(await screen.findByRole('button', { name: 'Send back…' }));
    const dialog = within(await screen.findByRole('dialog', { name: 'Send back' }));
    await user.click(dialog.getByRole('button', { name: 'Send back' }));
    await dialog.findByText('Say why, in a few words.');
    await user.type(dialog.getByLabelText('Why'), 'Which room?');
    await user.click(dialog.getByRole('button', { name: 'Send back' }));
    await screen.findByText(/Nothing waits for you/);
    expect((await reader.get('entries', id))?.sentBack?.reason).toBe('Which room?');
  });

  it('is nothing for who may not check: nobody else sees the lines', async () => {
    const { record, handIn, show, executor, wren } = await openTeam();
    const other = (
      await executor.run('member.add', { name: 'Ilka', role: '', zone: ZONE, owed: [0, 0, 0, 0, 0, 0, 0] })
    ).changes[0]!.id;
    await record(7200, { note: 'Focus' });
    await handIn();
    await executor.run('member.edit', { id: wren, checkerId: other });
    show(<Check />);
    await screen.findByText(/Nothing waits for you/);
  });
});

describe('who is how far', () => {
  useComponents();

  it('says what is missing and late, and approves a week that is handed in', async () => {
    const { record, handIn, show, user, reader } = await openTeam();
    await record(7200, { unlisted: 'Chapel roof', projectId: null });
    show(<Weeks />);
    const list = within(await screen.findByRole('grid', { name: 'Members' }));
    const wren = () => list.getByRole('row', { name: /Wren/ });
    expect(wren().textContent).toMatch(/checked by you.*3 days late.*open.*1 day short, 1 job not set up/);
    await handIn();
    await user.click(await screen.findByRole('button', { name: /Approve Week 46.* of Wren/ }));
    await waitFor(() => expect(wren().textContent).toContain('approved'));
    expect((await reader.all('timesheets'))[0]!.steps.map(({ kind }) => kind)).toEqual(['handed in', 'approved']);
  });
});

describe('closed days', () => {
  useComponents();

  it('are offered up to the last period that is over; what is not approved is asked about', async () => {
    const { record, show, user, reader } = await openTeam();
    await record(3600, { day: '2026-10-20' });
    show(<Closed />);
    await user.click(await screen.findByRole('button', { name: 'Close days…' }));
    const dialog = within(await screen.findByRole('dialog', { name: 'Close days' }));
    expect(dialog.getByLabelText<HTMLInputElement>('From').value).toBe('1 Oct 2026');
    await user.click(dialog.getByRole('button', { name: 'Close them' }));
    await dialog.findByText(/1 entry of these days is not approved/);
    await user.click(dialog.getByRole('checkbox'));
    await user.click(dialog.getByRole('button', { name: 'Close them' }));
    await waitFor(async () => expect(await reader.all('closings')).toMatchObject([{ to: '2026-10-31' }]));
    await user.click(await screen.findByRole('button', { name: 'Reopen…' }));
    await user.type(await screen.findByLabelText('Why'), 'A late slip');
    await user.click(screen.getByRole('button', { name: 'Reopen them' }));
    await screen.findByText('“A late slip”');
  });
});

describe('the weeks ahead', () => {
  useComponents();

  it('show what is planned in what is owed; keys move it to another week, and to another member', async () => {
    const { show, user, executor, at, wren, reader } = await openTeam();
    const planned = { projectId: at.rig, serviceId: null, note: 'Focus', seconds: 7200 };
    await executor.run('plan.add', { memberId: at.member, days: [DAY, '2026-11-13'], ...planned });
    show(<Ahead />);
    const block = await screen.findByRole('button', { name: /4:00 planned, week of 9 Nov/ });
    block.focus();
    await user.keyboard('{Alt>}{ArrowRight}{/Alt}');
    await screen.findByRole('button', { name: /week of 16 Nov/ });
    screen.getByRole('button', { name: /week of 16 Nov/ }).focus();
    await user.keyboard('{Alt>}{ArrowDown}{/Alt}');
    await waitFor(async () =>
      expect((await reader.all('plans')).map(({ memberId, day }) => [memberId, day]).sort()).toEqual([
        [wren, '2026-11-19'],
        [wren, '2026-11-20'],
      ]),
    );
  });
});

describe('a reminder', () => {
  useComponents();

  it('says what is missing, and goes to the member; several go to the outbox at once', async () => {
    const { record, show, user, executor, at, wren, reader } = await openTeam();
    await executor.run('member.edit', { id: wren, email: 'wren@saltmere-lighting.example' });
    const late = { role: '', zone: ZONE, owed: [0, 0, 0, 0, 3600, 0, 0], owesFrom: '2026-11-01', checkerId: at.member };
    await executor.run('member.add', { name: 'Ilka Brandt', ...late });
    await record(7200);
    show(<Weeks />);
    await user.click(await screen.findByRole('button', { name: 'Remind Wren Okafor…' }));
    const dialog = within(await screen.findByRole('dialog', { name: 'Send a reminder' }));
    expect(dialog.getByLabelText<HTMLInputElement>('To').value).toBe('wren@saltmere-lighting.example');
    expect(dialog.getByLabelText<HTMLTextAreaElement>('Letter text').value).toContain('is still open: 1 day short');
    await user.click(dialog.getByRole('button', { name: 'Close' }));
    await user.click(await screen.findByRole('button', { name: 'Put reminders for 2 in the outbox' }));
    await waitFor(async () => expect(await reader.all('letters')).toHaveLength(2));
    const letters = await reader.all('letters');
    expect(letters.map(({ kind, clientId }) => [kind, clientId])).toEqual([
      ['hand in', null],
      ['hand in', null],
    ]);
    await expect(
      executor.run('letter.write', { letters: [{ ...letters[0]!, memberId: null } as never] }),
    ).rejects.toThrow();
  });
});
