import { DayField } from '../../parts/day-field';
import { postingsOf, type Pricer } from '@half-penny/core/billing';
import type { Accounts, ReceiptPolicy, Workspace } from '@half-penny/core/model';
import { inStyle, plainAmount, readAmount } from '@half-penny/core/money';
import { useState } from 'react';
import { useToday } from '../../data/queries';
import { useChanges, useSession } from '../../data/session';
import { save as saveFile } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { SavedField } from '../../parts/field';
import { SavedSelect } from '../../parts/select';
import { Section } from '../../parts/page';

const names: Record<keyof Accounts, { name: string; hint: string }> = {
  sales: { name: 'Sales', hint: 'Income where the service has no account of its own.' },
  reimbursables: { name: 'Reimbursables', hint: 'Income from costs that are charged on.' },
  tax: { name: 'Tax', hint: 'Tax on invoices, owed to the state.' },
  receivables: { name: 'Receivables', hint: 'What clients owe.' },
  bank: { name: 'Bank', hint: 'Where payments arrive.' },
  deposits: { name: 'Deposits', hint: 'Money that clients paid ahead.' },
  retention: { name: 'Retention', hint: 'Money that clients hold back.' },
  writeOffs: { name: 'Write-offs', hint: 'What will never be paid.' },
  purchases: { name: 'Purchases', hint: 'What bills and expenses were for.' },
  inputTax: { name: 'Input tax', hint: 'Tax on those, claimed back.' },
  payables: { name: 'Payables', hint: 'What suppliers are owed.' },
  members: { name: 'Owed to members', hint: 'Expenses they paid.' },
  charges: { name: 'Charges', hint: 'What banks and payment services keep.' },
  exchange: { name: 'Exchange', hint: 'Gained or lost on other currencies.' },
};

/** Which account takes what, the journal for a bookkeeping, and which costs need a receipt. */
export function Bookkeeping({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const { workspace } = pricer.book;
  const save = (fields: Partial<Omit<Workspace, 'id'>>) => run('workspace.edit', fields);
  return (
    <>
      <Section title="Accounts">
        <div className="grid max-w-3xl gap-4 border-t border-ink px-2 pt-3 md:grid-cols-4">
          {(Object.keys(names) as (keyof Accounts)[]).map((field) => (
            <SavedField
              key={field}
              label={names[field].name}
              hint={names[field].hint}
              value={workspace.accounts[field]}
              save={(account) => save({ accounts: { ...workspace.accounts, [field]: account.trim() } })}
            />
          ))}
        </div>
      </Section>
      <JournalOut pricer={pricer} />
      <Section title="Receipts">
        <div className="max-w-xs border-t border-ink px-2 pt-3">
          <SavedField
            label={`Costs of more than this need a receipt, ${workspace.currency}`}
            inputMode="decimal"
            value={
              workspace.receiptOver === null ? '' : inStyle(plainAmount(workspace.receiptOver, workspace.currency))
            }
            save={async (typed) =>
              save({ receiptOver: typed.trim() === '' ? null : readAmount(typed, workspace.currency) })
            }
            hint="Expenses and ledger lines without one are listed under Costs. Empty: none is asked for."
          />
          {workspace.receiptOver !== null && (
            <SavedSelect
              label="A receipt that is missing"
              className="mt-3"
              value={workspace.receiptPolicy ?? 'warn'}
              options={[
                ['note', 'is noted in the lists'],
                ['warn', 'is warned of before invoicing'],
                ['require', 'keeps the cost from being invoiced'],
              ]}
              save={(policy) => save({ receiptPolicy: policy as ReceiptPolicy })}
              hint="A reason on the cost's page stands for the receipt."
            />
          )}
        </div>
      </Section>
    </>
  );
}

/** Every invoice, credit note, payment, supplier bill and expense of a time as balanced postings. */
function JournalOut({ pricer }: { pricer: Pricer }) {
  const { workspace } = pricer.book;
  const { reader } = useSession();
  const today = useToday();
  const [from, setFrom] = useState(`${today.slice(0, 4)}-01-01`);
  const [to, setTo] = useState(today);
  const [said, setSaid] = useState('');
  const takeOut = async () => {
    const { journalCsv } = await import('@half-penny/formats/billing');
    const [invoices, payments, deposits, costs, costLines, payouts] = await Promise.all([
      reader.all('invoices'),
      reader.all('payments'),
      reader.all('deposits'),
      reader.all('costs'),
      reader.all('costLines'),
      reader.all('payouts'),
    ]);
    const postings = postingsOf(pricer, { invoices, payments, deposits, costs, costLines, payouts }).filter(
      (posting) => posting.day >= from && posting.day <= to,
    );
    if (postings.length === 0) return setSaid('Nothing was posted in that time.');
    setSaid(`${postings.length} postings, each in balance.`);
    saveFile(
      new Blob([`\ufeff${journalCsv(postings, workspace.currency)}`], { type: 'text/csv;charset=utf-8' }),
      `journal-${from}-${to}.csv`,
    );
  };
  return (
    <Section title="Journal">
      <form
        aria-label="Journal"
        className="flex flex-wrap items-end gap-3 border-t border-ink px-2 pt-3"
        onSubmit={(event) => {
          event.preventDefault();
          void takeOut();
        }}
      >
        <DayField label="From" value={from} onPick={setFrom} className="w-40" />
        <DayField label="To" value={to} onPick={setTo} className="w-40" />
        <Button type="submit">Journal as CSV</Button>
        <span role="status" className="text-sm text-soft">
          {said}
        </span>
      </form>
    </Section>
  );
}
