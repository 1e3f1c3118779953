// @vitest-environment jsdom
import { openStudio, useComponents } from '../../testing/studio';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { usePricer } from '../../data/book';
import { StatementIn } from './statement-in';

function Here() {
  const pricer = usePricer();
  return pricer ? <StatementIn pricer={pricer} /> : null;
}

/** A studio with a bill of 120.00, what a client paid too much, and a statement to be read. */
async function studio() {
  const made = await openStudio();
  const { executor, at } = made;
  const bill = await executor.run('cost.add', {
    kind: 'bill',
    day: '2026-11-02',
    supplier: 'Fresnel Hire Ltd',
    reference: '4214',
    currency: 'GBP',
    dueDay: '2026-11-30',
    lines: [{ text: 'Lanterns', amount: 12_000 }],
  });
  await executor.run('deposit.add', { clientId: at.museum, day: '2026-11-03', amount: 40_000, currency: 'GBP' });
  const read = async (...lines: string[]) => {
    made.show(<Here />);
    const file = new File([['Date,Payee,Details,Amount', ...lines].join('\r\n')], 'bank.csv', { type: 'text/csv' });
    await made.user.upload(await screen.findByLabelText('Choose a file'), file);
    return screen.findByRole('grid', { name: 'Lines of the statement' });
  };
  return { ...made, bill: bill.changes[0]!.id, read };
}

const rowOf = (grid: HTMLElement, name: RegExp) => within(grid).findByRole('row', { name });

describe('a statement', () => {
  useComponents();

  it('tells what pays something from what is bought, and takes it so', async () => {
    const { read, user, reader, bill } = await studio();
    const lines = await read(
      '2026-11-10,FRESNEL HIRE,Inv 4214,-120.00',
      '2026-11-10,Gel Shop,Two rolls,-18.00',
      '2026-11-11,Fernhill Folk Museum,Returned,-400.00',
    );
    expect((await rowOf(lines, /FRESNEL/)).textContent).toContain('pays 4214 of Fresnel Hire Ltd');
    expect((await rowOf(lines, /Gel Shop/)).textContent).toContain('a cost');
    expect((await rowOf(lines, /Fernhill/)).textContent).toContain('back what was paid ahead');
    await user.click(screen.getByRole('button', { name: 'Import 3 lines' }));
    await waitFor(async () => expect(await reader.all('payouts')).toHaveLength(1));
    expect(await reader.all('payouts')).toMatchObject([
      { costId: bill, amount: 12_000, standing: 'paid', day: '2026-11-10' },
    ]);
    expect((await reader.all('costs')).filter((cost) => cost.kind === 'ledger').map((cost) => cost.supplier)).toEqual([
      'Gel Shop',
    ]);
    expect((await reader.all('deposits'))[0]!.paidBack).toMatchObject([{ amount: 40_000, day: '2026-11-11' }]);
  });

  it('lets somebody say that a line is a cost all the same', async () => {
    const { read, user, reader } = await studio();
    const lines = await read('2026-11-10,FRESNEL HIRE,Inv 4214,-120.00');
    const row = await rowOf(lines, /FRESNEL/);
    await user.click(within(row).getByRole('combobox'));
    await user.click(await screen.findByRole('option', { name: 'is a cost' }));
    await user.click(screen.getByRole('button', { name: 'Import 1 line' }));
    await waitFor(async () => expect(await reader.all('costs')).toHaveLength(2));
    expect(await reader.all('payouts')).toEqual([]);
  });

  it('chooses nothing by itself that it is not sure of', async () => {
    const { read, user, reader } = await studio();
    const lines = await read('2026-11-10,FRESNEL HIRE,part of 4214,-50.00');
    const row = await rowOf(lines, /FRESNEL/);
    expect(within(row).getByRole('combobox').textContent).toContain('is a cost');
    expect(row.textContent).toContain('a part of the £120.00 left to pay');
    await user.click(within(row).getByRole('combobox'));
    await user.click(await screen.findByRole('option', { name: 'pays 4214 of Fresnel Hire Ltd, in part' }));
    await user.click(screen.getByRole('button', { name: 'Import 1 line' }));
    await waitFor(async () => expect(await reader.all('payouts')).toMatchObject([{ amount: 5_000 }]));
  });
});
