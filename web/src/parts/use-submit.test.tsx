// @vitest-environment jsdom
import { Fault } from '@half-penny/core/model';
import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { openStudio, useComponents } from '../testing/studio';
import { useSubmit } from './use-submit';

const task = vi.fn<() => Promise<unknown>>();

function Form() {
  const { fault, faults, submit } = useSubmit(task, ['amount']);
  return (
    <form onSubmit={submit}>
      <button type="submit">Pay</button>
      <p title="whole">{fault}</p>
      <p title="amount">{faults.amount}</p>
    </form>
  );
}

describe('a form that is sent', () => {
  useComponents();

  it('does its one thing once, however often it is pressed before that is done, and again afterwards', async () => {
    let done = (): void => undefined;
    task.mockImplementation(() => new Promise<void>((resolve) => (done = resolve)));
    const { show, user } = await openStudio();
    show(<Form />);
    const button = await screen.findByRole('button', { name: 'Pay' });
    await user.dblClick(button);
    expect(task).toHaveBeenCalledTimes(1);
    done();
    await vi.waitFor(async () => {
      await user.click(button);
      expect(task).toHaveBeenCalledTimes(2);
    });
  });

  it('can be sent again after it was refused; what is wrong stands at its field or with the whole', async () => {
    task.mockReset();
    task.mockRejectedValueOnce(new Fault('too-late', 'More than is owed.', 'amount'));
    task.mockRejectedValueOnce(new Fault('closed', 'That day is closed.', 'day'));
    const { show, user } = await openStudio();
    show(<Form />);
    const button = await screen.findByRole('button', { name: 'Pay' });
    await user.click(button);
    await vi.waitFor(() => expect(screen.getByTitle('amount').textContent).toBe('More than is owed.'));
    await user.click(button);
    await vi.waitFor(() => expect(screen.getByTitle('whole').textContent).toBe('That day is closed.'));
    expect(screen.getByTitle('amount').textContent).toBe('');
  });
});
