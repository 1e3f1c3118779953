// @vitest-environment jsdom
import { openTeam } from '../../testing/team';
import { useComponents } from '../../testing/studio';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { usePricer } from '../../data/book';
import { People } from './people';
import { RightsPart } from './rights';

function Here() {
  const pricer = usePricer();
  return pricer ? <RightsPart pricer={pricer} /> : null;
}

function Everybody() {
  const pricer = usePricer();
  return pricer ? <People pricer={pricer} /> : null;
}

async function withUsual() {
  const team = await openTeam();
  await team.executor.run('rightSet.usual', {});
  const sets = await team.reader.all('rightSets');
  return { ...team, setNamed: (name: string) => sets.find((set) => set.name === name)! };
}

describe('rights', () => {
  useComponents();

  it('begin with everybody allowed everything, and the usual five are one press away', async () => {
    const { show, user, reader } = await openTeam();
    show(<Here />);
    await screen.findByText(/Everybody may see and do everything/);
    await user.click(screen.getByRole('button', { name: 'Start with the usual five' }));
    await screen.findByRole('checkbox', { name: 'Bookkeeper may invoice and book payments' });
    expect(await reader.all('rightSets')).toHaveLength(5);
    expect(screen.queryByRole('button', { name: /usual/ })).toBeNull();
  });

  it('are given and taken by a press, and stand in their order', async () => {
    const { show, user, reader, setNamed } = await withUsual();
    show(<Here />);
    await user.click(await screen.findByRole('checkbox', { name: 'Member may see rates and what work is worth' }));
    await user.click(screen.getByRole('checkbox', { name: 'Checker may change clients, projects and tasks' }));
    await waitFor(async () => {
      const rows = await reader.many('rightSets', [setNamed('Member').id, setNamed('Checker').id]);
      expect(rows[0]!.grants.map(({ right }) => right)).toEqual(['record own', 'see rates']);
      expect(rows[1]!.grants.map(({ right }) => right)).not.toContain('work');
    });
  });

  it('hold for named work, or for all again', async () => {
    const { show, user, reader, at, setNamed } = await withUsual();
    show(<Here />);
    const limit = { name: /^For which work Checker may change clients, projects and tasks/ };
    await user.click(await screen.findByRole('button', limit));
    const dialog = await screen.findByRole('dialog', { name: 'Checker: for which work' });
    await user.type(within(dialog).getByLabelText('Find'), 'quay');
    expect(within(dialog).getAllByRole('checkbox')).toHaveLength(1);
    await user.click(within(dialog).getByRole('checkbox', { name: 'Quayside Playhouse' }));
    await user.click(within(dialog).getByRole('button', { name: 'Only for this' }));
    await waitFor(async () => {
      const set = await reader.get('rightSets', setNamed('Checker').id);
      expect(set!.grants.find(({ right }) => right === 'work')!.only).toEqual({
        clientIds: [at.playhouse],
        projectIds: [],
      });
    });
    const named = await screen.findByRole('button', { name: /Checker may change clients.*: Quayside Playhouse$/ });
    await user.click(named);
    await user.click(await screen.findByRole('button', { name: 'All work' }));
    await user.click(screen.getByRole('button', { name: 'For all work' }));
    await screen.findByRole('button', { name: /Checker may change clients.*: all work$/ });
  });

  it('of a set that somebody has are not removed, and others are', async () => {
    const { show, user, executor, wren, setNamed } = await withUsual();
    await executor.run('member.edit', { id: wren, rightSetId: setNamed('Member').id });
    show(<Here />);
    await screen.findByText('Wren Okafor');
    expect(screen.queryByRole('button', { name: 'Remove the rights Member' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Remove the rights Finance reader' }));
    await waitFor(() => expect(screen.queryByDisplayValue('Finance reader')).toBeNull());
  });

  it('are set by those who set the studio up: others see who there is, and who they are', async () => {
    const { show, executor, wren, setNamed } = await withUsual();
    await executor.run('member.edit', { id: wren, rightSetId: setNamed('Member').id });
    show(<Everybody />, wren);
    await screen.findByText('works here');
    expect(screen.queryByRole('region', { name: 'Rights' })).toBeNull();
    expect(screen.queryByText('What members cost')).toBeNull();
    expect(screen.queryByRole('form', { name: 'Add a member' })).toBeNull();
    expect(screen.getByText('Imogen Vale')).toBeTruthy();
  });
});
