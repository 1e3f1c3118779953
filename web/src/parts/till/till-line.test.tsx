// @vitest-environment jsdom
import { openStudio, useComponents } from '../../testing/studio';
import { Fault } from '@half-penny/core/model';
import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { usePricer } from '../../data/book';
import { TillLine } from './till-line';

function Line() {
  const pricer = usePricer();
  return pricer ? <TillLine {...{ pricer }} member={pricer.book.members[0]!} timer={null} /> : null;
}

/** The line in a studio whose next command waits until it is let go or refused. */
async function slowLine() {
  const { show, user, executor } = await openStudio();
  let refuse = (_: Fault): void => undefined;
  const run = vi.spyOn(executor, 'run').mockImplementation(
    () =>
      new Promise((_, reject) => {
        refuse = reject;
      }),
  );
  show(<Line />);
  const field = await screen.findByRole<HTMLInputElement>('combobox');
  return { field, user, run, refuse: (message: string) => refuse(new Fault('lacking', message)) };
}

describe('the line of the Till', () => {
  useComponents();

  it('is empty as soon as it is taken: the next keys are not typed into what is still being written', async () => {
    const { field, user, run } = await slowLine();
    await user.type(field, '1:30 yesterday for rig, plot sheet 4{Enter}');
    await vi.waitFor(() => expect(run).toHaveBeenCalledTimes(1));
    expect(field.value).toBe('');
    expect(document.activeElement).not.toBe(field);
    await user.type(field, '0:15 for rig{Enter}');
    await vi.waitFor(() => expect(run).toHaveBeenCalledTimes(2));
  });

  it('what was refused comes back to be put right', async () => {
    const { field, user, run, refuse } = await slowLine();
    await user.type(field, 'rig{Enter}');
    await vi.waitFor(() => expect(run).toHaveBeenCalledTimes(1));
    refuse('Say a note first.');
    expect((await screen.findByRole('alert')).textContent).toBe('Say a note first.');
    expect(field.value).toBe('rig');
    expect(document.activeElement).toBe(field);
  });

  it('and leaves alone what was begun meanwhile, saying what it was', async () => {
    const { field, user, run, refuse } = await slowLine();
    await user.type(field, 'rig{Enter}');
    await vi.waitFor(() => expect(run).toHaveBeenCalledTimes(1));
    await user.type(field, '0:15');
    refuse('Say a note first.');
    expect((await screen.findByRole('alert')).textContent).toBe('“rig”: Say a note first.');
    expect(field.value).toBe('0:15');
  });
});
