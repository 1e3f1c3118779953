// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { openStudio, useComponents } from '../testing/studio';
import { DayField } from './day-field';

// What reads days is slow to come, as over a slow network.
vi.mock('@half-penny/core/entries/quick-entry', async (original) => {
  await new Promise((resolve) => setTimeout(resolve, 300));
  return original();
});

const sent = vi.fn<(day: string) => void>();

function Form() {
  const [day, setDay] = useState('2026-10-01');
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        sent(day);
      }}
    >
      <DayField label="Day" value={day} onPick={setDay} />
      <button type="submit">Send</button>
    </form>
  );
}

describe('a day whose reader is slow to come', () => {
  useComponents();

  it('a form that is sent before its day is read goes once it is, with the day that was typed', async () => {
    const { show } = await openStudio();
    show(<Form />);
    const field = await screen.findByLabelText<HTMLInputElement>('Day');
    fireEvent.change(field, { target: { value: '12 nov' } });
    fireEvent.blur(field);
    fireEvent.click(screen.getByText('Send'));
    expect(sent).not.toHaveBeenCalled();
    await waitFor(() => expect(sent).toHaveBeenCalledWith('2026-11-12'));
    expect(sent).toHaveBeenCalledTimes(1);
  });
});
