// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import { Fault } from '@half-penny/core/model';
import { describe, expect, it, vi } from 'vitest';
import { openStudio, useComponents } from '../testing/studio';
import { AddLine } from './add-line';

const add = vi.fn<(typed: Readonly<Record<string, string>>) => Promise<unknown>>();

const line = (folded: boolean) => (
  <AddLine
    label="Add a task"
    button="Add the task"
    folded={folded}
    fields={[
      { key: 'name', label: 'New task' },
      { key: 'estimate', label: 'Estimate' },
    ]}
    add={add}
  />
);

describe('the line that adds a row', () => {
  useComponents();

  it('folded is one word; pressed it has the focus, adds row after row, and Escape folds it away', async () => {
    add.mockResolvedValue(undefined);
    const { show, user } = await openStudio();
    show(line(true));
    await user.click(await screen.findByRole('button', { name: 'Add a task' }));
    const name = screen.getByLabelText<HTMLInputElement>('New task');
    expect(document.activeElement).toBe(name);
    await user.type(name, 'Plot sheets{Enter}');
    expect(add).toHaveBeenLastCalledWith({ name: 'Plot sheets', estimate: '' });
    await vi.waitFor(() => expect(name.value).toBe(''));
    expect(document.activeElement).toBe(name);
    await user.keyboard('{Escape}');
    expect(screen.queryByLabelText('New task')).toBeNull();
    expect(screen.getByRole('button', { name: 'Add a task' })).toBeTruthy();
  });

  it('below an empty list it is open, stays so once there is a row, and Escape leaves it', async () => {
    const { show, user } = await openStudio();
    show(line(false));
    const name = await screen.findByLabelText('New task');
    await user.click(name);
    await user.keyboard('{Escape}');
    expect(screen.getByLabelText('New task')).toBe(name);
  });

  it('a fault stands at the field that it names, and nothing typed is lost', async () => {
    add.mockRejectedValueOnce(new Fault('not-a-length', 'An estimate is a length.', 'estimate'));
    const { show, user } = await openStudio();
    show(line(false));
    const name = await screen.findByLabelText<HTMLInputElement>('New task');
    await user.type(name, 'Focus{Enter}');
    const alert = await screen.findByRole('alert');
    expect(alert.textContent).toBe('An estimate is a length.');
    expect(screen.getByLabelText('Estimate').getAttribute('aria-describedby')).toBe(alert.id);
    expect(name.value).toBe('Focus');
  });

  it('is empty at once: Enter twice adds one, and what is typed before the row is there belongs to the next', async () => {
    add.mockClear();
    let written = (): void => undefined;
    add.mockReturnValueOnce(new Promise<void>((resolve) => (written = resolve)));
    add.mockRejectedValueOnce(new Fault('lacking', 'Say what it is.', 'name'));
    const { show, user } = await openStudio();
    show(line(false));
    const name = await screen.findByLabelText<HTMLInputElement>('New task');
    await user.type(name, 'Focus{Enter}{Enter}Plot');
    expect(add.mock.calls.map(([typed]) => typed.name)).toEqual(['Focus', '']);
    written();
    await user.type(name, ' sheets');
    expect(name.value).toBe('Plot sheets');
  });

  it('what was refused late does not overwrite what was begun meanwhile', async () => {
    let refuse = (): void => undefined;
    add.mockReturnValueOnce(
      new Promise<void>(
        (_, reject) => (refuse = () => reject(new Fault('lacking', 'There is one of that name.', 'name'))),
      ),
    );
    const { show, user } = await openStudio();
    show(line(false));
    const name = await screen.findByLabelText<HTMLInputElement>('New task');
    await user.type(name, 'Focus{Enter}Plot');
    refuse();
    expect((await screen.findByRole('alert')).textContent).toBe('There is one of that name.');
    expect(name.value).toBe('Plot');
  });
});
