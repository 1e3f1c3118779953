// @vitest-environment jsdom
import { openStudio, useComponents } from '../../testing/studio';
import { beginning, LOG_START, type Refused } from '@half-penny/core/shared-log';
import { work } from '@half-penny/core/testing';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { useShare } from '../../data/sharing/book';
import { RefusedList } from './refused-list';

function Here() {
  const share = useShare();
  return share ? <RefusedList refused={share.refused} zone="Europe/London" /> : null;
}

/** A shared studio whose change to an entry, and one to an entry that is gone, did not fit. */
async function withRefused() {
  const studio = await openStudio();
  const { executor, database, at, test } = studio;
  const row = await executor.run('entry.add', work(at.rig, 3600, { note: 'Focus session' }));
  const entryId = row.changes[0]!.id;
  const { device, newId } = test.context();
  const refusedOf = (id: string, why: string): Refused => ({
    ...{ op: newId(), at: test.now, memberId: at.member, title: 'Entry changed', why, refusedAt: test.now },
    done: { command: 'entry.edit', input: { id, note: 'Focus with the new gels' } },
  });
  const refused = [refusedOf(entryId, 'It was on 0001.'), refusedOf(newId(), 'It is not there any more.')];
  await database.share.put({ ...beginning(newId(), device, LOG_START), refused });
  return { ...studio, refused };
}

describe('what did not fit', () => {
  useComponents();

  it('says what it was, what was typed and why; it is done again where it fits now', async () => {
    const { show, user, reader, database } = await withRefused();
    show(<Here />);
    await screen.findByText('Focus session: Focus with the new gels');
    screen.getByText('It was on 0001.');
    await user.click(screen.getAllByRole('button', { name: 'Do again: Entry changed' })[0]!);
    await waitFor(() => expect(screen.queryByText('It was on 0001.')).toBeNull());
    expect((await reader.all('entries')).map(({ note }) => note)).toEqual(['Focus with the new gels']);
    expect((await database.share.toCollection().first())!.waiting).toHaveLength(1);
  });

  it('says again why where it still does not fit, and is let go', async () => {
    const { show, user, database } = await withRefused();
    show(<Here />);
    await screen.findByText('It is not there any more.');
    await user.click(screen.getAllByRole('button', { name: 'Do again: Entry changed' })[1]!);
    await screen.findByText('This entry is not there any more.');
    await user.click(screen.getAllByRole('button', { name: 'Let go: Entry changed' })[1]!);
    await waitFor(() => expect(screen.queryByText('This entry is not there any more.')).toBeNull());
    expect((await database.share.toCollection().first())!.refused).toHaveLength(1);
  });
});
