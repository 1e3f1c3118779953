// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio, useComponents } from '../testing/studio';
import { DayField } from './day-field';

const picked = vi.fn<(day: string) => void>();
const sent = vi.fn<() => void>();

function Form({ from, clear = false }: { from: string; clear?: boolean }) {
  const [day, setDay] = useState(from);
  const pick = (next: string) => {
    picked(next);
    setDay(next);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        sent();
      }}
    >
      <DayField label="Day" value={day} onPick={pick} {...(clear ? { onClear: () => pick('') } : {})} />
      <button type="submit">Send</button>
    </form>
  );
}

describe('a field for a day', () => {
  useComponents();
  beforeEach(() => void vi.clearAllMocks());
  const field = () => screen.findByLabelText<HTMLInputElement>('Day');

  it.each([
    ['12 nov', '2026-11-12'],
    ['2026-02-03', '2026-02-03'],
    ['yesterday', '2026-11-11'],
  ])('reads %s as %s when it is left', async (typed, day) => {
    const { show, user } = await openStudio();
    show(<Form from="2026-10-01" />);
    await user.clear(await field());
    await user.type(await field(), typed);
    await user.tab();
    await waitFor(() => expect(picked).toHaveBeenCalledWith(day));
    expect(picked).toHaveBeenCalledTimes(1);
  });

  it('says at the field what cannot be read, and keeps the form from being sent with the day from before', async () => {
    const { show, user } = await openStudio();
    show(<Form from="2026-10-01" />);
    await user.clear(await field());
    await user.type(await field(), 'someday');
    await user.tab();
    expect(await screen.findByRole('alert')).toHaveProperty(
      'textContent',
      '“someday” cannot be read as a day. Write 12 nov, mon, yesterday or 2026-11-12.',
    );
    await user.click(screen.getByText('Send'));
    expect(sent).not.toHaveBeenCalled();
    expect(picked).not.toHaveBeenCalled();
    await user.clear(await field());
    await user.type(await field(), '5 oct');
    await user.click(screen.getByText('Send'));
    await waitFor(() => expect(sent).toHaveBeenCalledTimes(1));
    expect(picked).toHaveBeenCalledWith('2026-10-05');
  });

  it('takes back what it had on Escape, and when it is emptied where a day is needed', async () => {
    const { show, user } = await openStudio();
    show(<Form from="2026-10-01" />);
    await user.type(await field(), '9');
    await user.keyboard('{Escape}');
    expect((await field()).value).toBe('1 Oct 2026');
    await user.clear(await field());
    await user.tab();
    await waitFor(async () => expect((await field()).value).toBe('1 Oct 2026'));
    expect(picked).not.toHaveBeenCalled();
  });

  it('is emptied where none may be said', async () => {
    const { show, user } = await openStudio();
    show(<Form from="2026-10-01" clear />);
    await user.clear(await field());
    await user.tab();
    await waitFor(() => expect(picked).toHaveBeenCalledWith(''));
  });

  it('picks from a month that opens with the day it has, by keys alone', async () => {
    const { show, user } = await openStudio();
    show(<Form from="2026-10-01" />);
    await user.click(await field());
    await user.keyboard('{Alt>}{ArrowDown}{/Alt}');
    expect(await screen.findByText('October 2026')).toBeTruthy();
    await user.keyboard('{ArrowDown}{ArrowRight}{Enter}');
    await waitFor(() => expect(picked).toHaveBeenCalledWith('2026-10-09'));
    await waitFor(async () => expect(document.activeElement).toBe(await field()));
  });
});
