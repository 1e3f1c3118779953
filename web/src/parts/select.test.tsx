// @vitest-environment jsdom
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useComponents } from '../testing/studio';
import { SavedSelect, SelectField } from './select';

const picked = vi.fn<(value: string) => void>();
const changed = vi.fn<() => void>();

function Field({ from }: { from: string }) {
  const [value, setValue] = useState(from);
  return (
    <div onInput={changed}>
      <SelectField
        label="Service"
        value={value}
        options={[
          ['', 'Any'],
          ['design', 'Lighting design'],
          ['focus', 'Site and focus, hidden in Setup', 'not offered'],
          ['cues', 'Programming'],
        ]}
        onPick={(next) => {
          picked(next);
          setValue(next);
        }}
      />
    </div>
  );
}

describe('a list to choose one of', () => {
  useComponents();
  beforeEach(() => void vi.clearAllMocks());
  const field = () => screen.getByRole('combobox', { name: 'Service' });

  it('shows what is chosen, and is opened and chosen from by keys', async () => {
    const user = userEvent.setup();
    render(<Field from="design" />);
    expect(field().textContent).toBe('Lighting design');
    await user.tab();
    await user.keyboard('{Enter}');
    expect((await screen.findByRole('option', { name: 'Lighting design' })).dataset.state).toBe('checked');
    // What is not offered is passed over.
    await user.keyboard('{ArrowDown}{Enter}');
    expect(picked).toHaveBeenCalledWith('cues');
    expect(field().textContent).toBe('Programming');
  });

  it('says none as an empty text, and tells the window around it that something was chosen', async () => {
    const user = userEvent.setup();
    render(<Field from="design" />);
    await user.click(field());
    await user.click(await screen.findByRole('option', { name: 'Any' }));
    expect(picked).toHaveBeenCalledWith('');
    expect(changed).toHaveBeenCalledTimes(1);
  });

  it('does not take what is not offered', async () => {
    const user = userEvent.setup();
    render(<Field from="" />);
    await user.click(field());
    const refused = await screen.findByRole('option', { name: /hidden in Setup/ });
    expect(refused.getAttribute('aria-disabled')).toBe('true');
    await user.click(refused);
    expect(picked).not.toHaveBeenCalled();
  });

  it('says at the field why a choice could not be saved', async () => {
    const user = userEvent.setup();
    const save = vi.fn<(value: string) => Promise<unknown>>().mockRejectedValue(new Error('No room.'));
    render(
      <SavedSelect
        label="Paper"
        value="A4"
        options={[
          ['A4', 'A4'],
          ['letter', 'US Letter'],
        ]}
        save={save}
      />,
    );
    await user.click(screen.getByRole('combobox', { name: 'Paper' }));
    await user.click(await screen.findByRole('option', { name: 'US Letter' }));
    expect(save).toHaveBeenCalledWith('letter');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('No room.'));
  });
});
