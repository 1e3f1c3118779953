// @vitest-environment jsdom
import { openStudio, useComponents } from '../testing/studio';
import { fireEvent, screen } from '@testing-library/react';
import { dayOf } from '@half-penny/core/time';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { usePricer } from '../data/book';
import AddTime from './add-time';

// What is half written stays in the tab: each test begins without it.
beforeEach(() => sessionStorage.clear());

async function openLine() {
  const studio = await openStudio();
  const onClose = vi.fn();
  function Line() {
    const pricer = usePricer();
    if (!pricer) return null;
    const [member] = pricer.book.members;
    return <AddTime {...{ pricer, onClose }} member={member!} day={dayOf(studio.test.now, member!.zone)} />;
  }
  studio.show(<Line />);
  const length = await screen.findByLabelText<HTMLInputElement>('Length or from–to');
  const note = screen.getByLabelText<HTMLInputElement>('What was done');
  const entries = () => studio.reader.all('entries');
  return { ...studio, onClose, length, note, entries };
}

describe('the line to write time down', () => {
  useComponents();

  it('adds what was typed, once however often Enter is pressed, and is empty for the next at once', async () => {
    const { user, length, note, entries } = await openLine();
    await user.type(length, '1:30');
    await user.type(note, 'Plot sheet 4{Enter}{Enter}');
    expect(note.value).toBe('');
    await vi.waitFor(async () => expect(await entries()).toHaveLength(1), { timeout: 15_000 });
    expect((await entries())[0]).toMatchObject({ seconds: 5400, note: 'Plot sheet 4' });
    // The second Enter was for a line without a length.
    await vi.waitFor(() => expect(length.getAttribute('aria-invalid')).toBe('true'));
    expect(await entries()).toHaveLength(1);
  });

  it('every field that cannot be read says so, and nothing is sent', async () => {
    const { user, executor, length, note } = await openLine();
    const run = vi.spyOn(executor, 'run');
    await user.type(length, 'some time');
    await user.type(note, 'Plot sheet 4{Enter}');
    expect(length.getAttribute('aria-invalid')).toBe('true');
    expect(note.value).toBe('Plot sheet 4');
    expect(run).not.toHaveBeenCalled();
  });

  it('what was refused comes back, unless the next was begun meanwhile', async () => {
    const { user, executor, length, note } = await openLine();
    const refused = new Error('The disk is full.');
    const run = vi.spyOn(executor, 'run').mockRejectedValueOnce(refused);
    await user.type(length, '1:30');
    await user.type(note, 'Plot sheet 4{Enter}');
    await vi.waitFor(() => expect(note.value).toBe('Plot sheet 4'));
    expect(length.value).toBe('1:30');
    expect(document.activeElement).toBe(note);
    let refuse = (): void => undefined;
    run.mockImplementationOnce(() => new Promise((_, reject) => (refuse = () => reject(refused))));
    await user.type(note, '{Enter}');
    fireEvent.change(note, { target: { value: 'Focus' } });
    refuse();
    await screen.findByRole('alert');
    expect(note.value).toBe('Focus');
  });

  it('keeps what is half written until it is sent, and Escape closes it', async () => {
    const { user, note, onClose } = await openLine();
    await user.type(note, 'Half a sen{Escape}');
    expect(onClose).toHaveBeenCalledOnce();
    expect(JSON.stringify({ ...sessionStorage })).toContain('Half a sen');
  });
});
