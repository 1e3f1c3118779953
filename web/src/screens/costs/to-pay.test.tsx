// @vitest-environment jsdom
import { openStudio, useComponents } from '../../testing/studio';
import type { CommandInput } from '@half-penny/core/commands';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { usePricer } from '../../data/book';
import { ToPay } from './to-pay';

const save = vi.hoisted(() => vi.fn<(blob: Blob, name: string) => void>());
vi.mock('../../data/workspaces', async (original) => ({ ...(await original<object>()), save }));

function Here() {
  const pricer = usePricer();
  return pricer ? <ToPay pricer={pricer} /> : null;
}

async function studio() {
  const made = await openStudio();
  const { executor } = made;
  const bill = async (supplier: string, amount: number, more: Partial<CommandInput<'cost.add'>> = {}) =>
    (
      await executor.run('cost.add', {
        kind: 'bill',
        day: '2026-11-02',
        supplier,
        currency: 'GBP',
        dueDay: '2026-11-10',
        lines: [{ text: 'Hire', amount }],
        ...more,
      })
    ).changes[0]!.id;
  const account = { id: '00000000-0000-7000-8000-0000000000a1', currency: 'GBP', holder: '', bic: '', ledger: '' };
  await executor.run('workspace.edit', { bankAccounts: [{ ...account, number: '20-00-00 55779911' }] });
  return { ...made, bill };
}

const list = () => screen.findByRole('grid', { name: 'Owed to suppliers and members' });
const rowOf = async (name: RegExp) => within(await list()).findByRole('row', { name });

describe('what is to be paid', () => {
  useComponents();

  it('says until when, to whom, and what speaks against it; nothing can be done before something is picked', async () => {
    const { bill, show } = await studio();
    await bill('Fresnel Hire', 12_000, { reference: '4214' });
    await bill('Fresnel Hire', 12_000, { reference: '4214', dueDay: '2026-12-24' });
    await bill('Gel Shop', -500, { reference: 'C1' });
    show(<Here />);
    expect(await screen.findAllByText('another bill of theirs has the number 4214 and this sum too')).toHaveLength(2);
    await screen.findByText(/a credit note/);
    for (const name of ['Paid…', 'Payment file…'])
      expect(screen.getByRole<HTMLButtonElement>('button', { name }).disabled).toBe(true);
  });

  it('is picked where it is late, and paid whole in one go', async () => {
    const { bill, show, user, reader } = await studio();
    const ids = [await bill('Fresnel Hire', 12_000), await bill('Gel Shop', 700)];
    await bill('Cable Yard', 900, { dueDay: '2026-12-24' });
    show(<Here />);
    await user.click(await screen.findByRole('button', { name: 'Pick the late bills 2' }));
    await user.click(screen.getByRole('button', { name: 'Paid…' }));
    const dialog = await screen.findByRole('dialog', { name: '2 paid in full' });
    expect(dialog.textContent).toContain('Fresnel Hire, Gel Shop');
    await user.click(within(dialog).getByRole('button', { name: 'Record 2 payments' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    const payouts = await reader.all('payouts');
    expect(payouts.map(({ costId, amount, standing }) => [costId, amount, standing]).sort()).toEqual(
      [
        [ids[0], 12_000, 'paid'],
        [ids[1], 700, 'paid'],
      ].sort(),
    );
    await waitFor(async () => expect(within(await list()).getAllByRole('row')).toHaveLength(3));
  });

  it('asks for the account where none is known, and goes into a file once it is', async () => {
    const { bill, show, user, reader } = await studio();
    await bill('Fresnel Hire', 12_000, { reference: '4214', payTo: 'GB82 WEST 1234 5698 7654 32' });
    await bill('Gel Shop', 700);
    show(<Here />);
    await user.click(within(await rowOf(/Fresnel/)).getByRole('button', { name: 'Write the account down' }));
    const account = await screen.findByRole('dialog', { name: 'Account of Fresnel Hire' });
    expect(within(account).getByLabelText<HTMLInputElement>('IBAN, or sort code and number').value).toContain('WEST');
    await user.click(within(account).getByRole('button', { name: 'Keep the account' }));
    await waitFor(async () => expect((await rowOf(/Fresnel/)).textContent).toContain('GB82 WEST'));
    for (const name of [/Fresnel/, /Gel/]) await user.click(within(await rowOf(name)).getByRole('checkbox'));
    await user.click(screen.getByRole('button', { name: 'Payment file…' }));
    const file = await screen.findByRole('dialog', { name: 'Payment file' });
    expect(within(file).getByRole('list', { name: 'Stays out of the file' }).textContent).toContain('Gel Shop');
    await user.click(within(file).getByRole('button', { name: 'Save the payment file' }));
    await waitFor(() => expect(save).toHaveBeenCalledTimes(1));
    const [blob, name] = save.mock.calls[0]!;
    expect(name).toBe('payments-2026-11-12-gbp.xml');
    expect(await blob.text()).toContain('<IBAN>GB82WEST12345698765432</IBAN>');
    expect(await reader.all('payouts')).toMatchObject([{ standing: 'asked', amount: 12_000 }]);
    const asked = await screen.findByRole('grid', { name: 'Asked of the bank' });
    await user.click(within(asked).getByRole('button', { name: 'Withdraw' }));
    await waitFor(async () => expect(await reader.all('payouts')).toEqual([]));
  });
});
