// @vitest-environment jsdom
import { openStudio, useComponents } from '../../testing/studio';
import { work } from '@half-penny/core/testing';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { usePricer } from '../../data/book';
import type { EndedTimer } from '../../data/database';
import EndedTimers from './ended-timers';

function Shown({ ended }: { ended: readonly EndedTimer[] }) {
  const pricer = usePricer();
  return pricer ? <EndedTimers {...{ ended, pricer }} member={pricer.book.members[0]!} /> : <p>not yet</p>;
}

describe('timers that a later start elsewhere ended', () => {
  useComponents();

  it('are told by what they left, each with the device where it was gone on', async () => {
    const { show, executor, at } = await openStudio();
    const added = async (note: string) =>
      (await executor.run('entry.add', work(at.rig, 5400, { note }))).changes[0]!.id;
    const keys = { signing: 'ab'.repeat(32), agreement: 'cd'.repeat(32) };
    const phone = '00000000-0000-7000-8000-0000000000a1';
    await executor.run('device.meet', { id: phone, name: 'Phone', keys });
    const ended = [
      { entryId: await added('Plot the upper rig'), device: phone },
      { entryId: await added(''), device: '00000000-0000-7000-8000-0000000000a2' },
    ];
    show(<Shown ended={ended} />);
    const [first, second] = await screen.findAllByRole('listitem');
    expect(first!.textContent).toMatch(/^Plot the upper rig ended on .*, when a timer was started on Phone\.$/);
    // Without a note by its job; a device that nobody knows here has no name.
    expect(second!.textContent).toMatch(
      /^Winter season rig · Quayside Playhouse ended on .*, when a timer was started on another device\.$/,
    );
  });

  it('are not told of where what they left is gone', async () => {
    const { show, at } = await openStudio();
    show(<Shown ended={[{ entryId: '00000000-0000-7000-8000-0000000000ff', device: at.member }]} />);
    await waitFor(() => expect(screen.queryByText('not yet')).toBeNull());
    expect(screen.queryByRole('button', { name: 'All right' })).toBeNull();
  });
});
