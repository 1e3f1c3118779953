// @vitest-environment jsdom
import { fireEvent, render, screen } from '@testing-library/react';
import { act } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { useComponents } from '../testing/studio';
import { Check, CheckBox, checkedOf } from './check';
import { Checks } from './checks';

describe('a check box', () => {
  useComponents();

  it('is named and pressed by the label around it, and says what it is to be', () => {
    const onChange = vi.fn();
    render(
      <label>
        <CheckBox checked={false} onChange={onChange} /> Print it
      </label>,
    );
    fireEvent.click(screen.getByText('Print it'));
    expect(onChange).toHaveBeenCalledExactlyOnceWith(true);
    expect(screen.getByRole('checkbox', { name: 'Print it' }).getAttribute('aria-checked')).toBe('false');
  });

  it('that stands for some of many is mixed, and becomes checked', () => {
    const onChange = vi.fn();
    render(<CheckBox aria-label="All" checked={checkedOf([true, false])} onChange={onChange} />);
    const box = screen.getByRole('checkbox', { name: 'All' });
    expect(box.getAttribute('aria-checked')).toBe('mixed');
    fireEvent.click(box);
    expect(onChange).toHaveBeenCalledExactlyOnceWith(true);
  });

  it.each([
    [[], false],
    [[false, false], false],
    [[true, false], 'indeterminate'],
    [[true, true], true],
  ] as const)('for %j shows %s', (boxes, shown) => expect(checkedOf(boxes)).toBe(shown));

  it('shows what it was set to before that is written, and what is stored when saving was refused', async () => {
    let refuse: (result: null) => void = () => undefined;
    const save = vi.fn(() => new Promise((resolve) => (refuse = resolve)));
    render(<Check aria-label="In use" checked={false} save={save} />);
    const box = screen.getByRole('checkbox', { name: 'In use' });
    fireEvent.click(box);
    expect(save).toHaveBeenCalledExactlyOnceWith(true);
    expect(box.getAttribute('aria-checked')).toBe('true');
    await act(async () => refuse(null));
    expect(box.getAttribute('aria-checked')).toBe('false');
  });
});

describe('several check boxes', () => {
  useComponents();
  const options = [
    { id: 'a', name: 'Amber' },
    { id: 'b', name: 'Birch' },
    { id: 'c', name: 'Chalk', fixed: true },
  ] as const;
  type Id = (typeof options)[number]['id'];

  it('build on what the press before left, in the order of what is offered', () => {
    const save = vi.fn((_: Id[]) => Promise.resolve({}));
    render(<Checks<Id> options={options} chosen={['c']} save={save} />);
    fireEvent.click(screen.getByLabelText('Birch'));
    fireEvent.click(screen.getByLabelText('Amber'));
    expect(save.mock.calls.map(([chosen]) => chosen.join(''))).toEqual(['bc', 'abc']);
  });

  it('keep the order in which they were chosen where that counts', () => {
    const save = vi.fn((_: Id[]) => Promise.resolve({}));
    render(<Checks<Id> options={options} chosen={['c', 'a']} save={save} ordered />);
    fireEvent.click(screen.getByLabelText('Birch'));
    expect(save).toHaveBeenCalledExactlyOnceWith(['c', 'a', 'b']);
  });

  it('leave alone what cannot be changed', () => {
    const save = vi.fn((_: Id[]) => Promise.resolve({}));
    render(<Checks<Id> options={options} chosen={['c']} save={save} />);
    fireEvent.click(screen.getByLabelText('Chalk'));
    expect(save).not.toHaveBeenCalled();
  });
});
