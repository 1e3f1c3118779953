// @vitest-environment jsdom
import { openTeam } from '../testing/team';
import { useComponents } from '../testing/studio';
import { screen, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { Right } from '@half-penny/core/model';
import { Allowed, First } from './allowed';

const place = (path: string) => (
  <Routes>
    <Route path="/" element={<First />} />
    <Route element={<Allowed path={path} />}>
      <Route path="*" element={<p>Here it is</p>} />
    </Route>
  </Routes>
);

/** The team, Wren with these rights at work. */
async function asWrenWith(...rights: Right[]) {
  const team = await openTeam();
  const { executor, wren, show } = team;
  const set = await executor.run('rightSet.add', {
    name: 'Some',
    grants: rights.map((right) => ({ right, only: null })),
  });
  await executor.run('member.edit', { id: wren, rightSetId: set.changes[0]!.id });
  return { ...team, open: (path: string) => show(place(path), wren) };
}

describe('a place', () => {
  useComponents();

  it('opens for those who have one of its rights', async () => {
    const { open } = await asWrenWith('billing');
    open('/billing');
    await screen.findByText('Here it is');
  });

  it('says to the others what it would take, and where they can go', async () => {
    const { open } = await asWrenWith('record own');
    open('/billing');
    await screen.findByText(/This is for those who may invoice and book payments/);
    await screen.findByText(/Wren Okafor has the rights “Some”/);
    const ways = within(screen.getByRole('navigation', { name: 'Where you can go' }));
    expect(ways.getAllByRole('link').map((link) => link.textContent)).toEqual([
      'Today',
      'Sift',
      'Week',
      'Costs',
      'Reports',
      'Setup',
    ]);
  });

  it('that comes first is the first that is for whoever works here', async () => {
    const { executor, wren, show } = await asWrenWith('reports');
    show(
      <Routes>
        <Route path="/" element={<First />} />
        <Route path="/reports" element={<p>Reports here</p>} />
      </Routes>,
      wren,
    );
    await screen.findByText('Reports here');
    expect((await executor.standing()).undo).not.toBeNull();
  });

  it('is open to everybody where nobody limited anything', async () => {
    const { show } = await openTeam();
    show(place('/billing'));
    await screen.findByText('Here it is');
  });
});
