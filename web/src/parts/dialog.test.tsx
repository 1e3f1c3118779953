// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useComponents } from '../testing/studio';
import { Button } from './button';
import { Dialog } from './dialog';
import { TextField } from './field';
import { SelectField } from './select';

const closed = vi.fn<() => void>();
const pressed = vi.fn<() => void>();

const show = (saves = false) =>
  render(
    <Dialog title="Move it" open onClose={closed}>
      <SelectField
        label="Where"
        value="here"
        options={[
          ['here', 'Here'],
          ['there', 'There'],
        ]}
        onPick={() => undefined}
        saves={saves}
      />
      <TextField label="Why" />
      <Button kind="main" onClick={pressed}>
        Move
      </Button>
    </Dialog>,
  );

describe('a window', () => {
  useComponents();
  beforeEach(() => void vi.clearAllMocks());

  it('begins at its first field, and closes on Escape while nothing was typed', async () => {
    const user = userEvent.setup();
    show();
    expect(document.activeElement).toBe(screen.getByRole('combobox', { name: 'Where' }));
    await user.keyboard('{Escape}');
    expect(closed).toHaveBeenCalledTimes(1);
  });

  it.each([
    ['typed', async (user: ReturnType<typeof userEvent.setup>) => user.type(screen.getByLabelText('Why'), 'Late')],
    [
      'chosen',
      async (user: ReturnType<typeof userEvent.setup>) => {
        await user.click(screen.getByRole('combobox', { name: 'Where' }));
        await user.click(await screen.findByRole('option', { name: 'There' }));
      },
    ],
  ])('asks before it closes over what was %s', async (_how, change) => {
    const user = userEvent.setup();
    show();
    await change(user);
    await user.keyboard('{Escape}');
    expect(closed).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).toContain('What you typed here is not saved.');
    await user.click(screen.getByText('Close without saving'));
    expect(closed).toHaveBeenCalledTimes(1);
  });

  it('does not ask about what saved itself', async () => {
    const user = userEvent.setup();
    show(true);
    await user.click(screen.getByRole('combobox', { name: 'Where' }));
    await user.click(await screen.findByRole('option', { name: 'There' }));
    await user.keyboard('{Escape}');
    expect(closed).toHaveBeenCalledTimes(1);
  });

  it('presses its main button on Enter in a field', async () => {
    const user = userEvent.setup();
    show();
    await user.type(screen.getByLabelText('Why'), 'Late{Enter}');
    expect(pressed).toHaveBeenCalledTimes(1);
  });
});
