import type { Pricer } from '@half-penny/core/billing';
import { isIban, slipAccount } from '@half-penny/core/e-invoice';
import { Fault, type BankAccount } from '@half-penny/core/model';
import { currencyCodes } from '@half-penny/core/money';
import { newId } from '../../data/registry';
import { useChanges } from '../../data/session';
import { useSettingChange } from '../../data/setting-change';
import { AddLine } from '../../parts/add-line';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { SavedSelect } from '../../parts/select';

/** Accounts that clients pay into, one a currency: printed on invoices in that currency. */
export function BankAccounts({ pricer }: { pricer: Pricer }) {
  const { attempt } = useChanges();
  const { bankAccounts } = pricer.book.workspace;
  const changed = useSettingChange();
  const change = (id: string, fields: Partial<BankAccount>) =>
    changed('bankAccounts', (now) => now.map((each) => (each.id === id ? { ...each, ...fields } : each)));
  const text = (
    key: 'holder' | 'number' | 'bic' | 'ledger',
    head: string,
    width: string,
    tidy = (typed: string) => typed.trim(),
  ): Column<BankAccount> => ({
    key,
    head,
    width,
    wideOnly: key === 'bic' || key === 'ledger',
    cell: (row) => (row[key] ? <span className="clamp-2">{row[key]}</span> : <span className="text-soft">–</span>),
    edit: { text: (row) => row[key], save: (row, typed) => change(row.id, { [key]: tidy(typed) }) },
  });
  const columns: Column<BankAccount>[] = [
    { key: 'currency', head: 'Currency', width: '84px', cell: (row) => row.currency },
    text('holder', 'Account name', 'minmax(0,1fr)'),
    text('number', 'IBAN, or sort code and number', 'minmax(0,1.4fr)'),
    text('bic', 'BIC', '120px', (typed) => typed.replace(/\s/g, '').toUpperCase()),
    text('ledger', 'Account in the books', '130px'),
  ];
  return (
    <Section title="Accounts to pay into">
      <Ledger
        label="Accounts to pay into"
        rows={bankAccounts}
        rowId={(row) => row.id}
        rowName={(row) => `${row.currency}, ${row.number}`}
        columns={columns}
        onDelete={(row) => void changed('bankAccounts', (now) => now.filter((each) => each.id !== row.id), attempt)}
        empty="None yet: invoices print the words under “How to pay” in Setup → Studio alone."
      />
      <AddLine
        label="Add an account"
        button="Add the account"
        fields={[
          { key: 'currency', label: 'Currency', placeholder: pricer.book.workspace.currency, className: 'w-24' },
          { key: 'holder', label: 'Account name', className: 'w-48' },
          { key: 'number', label: 'IBAN, or sort code and number', className: 'w-72' },
          { key: 'bic', label: 'BIC', className: 'w-32' },
        ]}
        add={({ currency = '', holder = '', number = '', bic = '' }) => {
          const code = currency.trim().toUpperCase() || pricer.book.workspace.currency;
          if (!currencyCodes.includes(code))
            throw new Fault('not-a-currency', `“${code.slice(0, 10)}” is no currency.`, 'currency');
          if (bankAccounts.some((each) => each.currency === code))
            throw new Fault('already', `There is an account for ${code} already; change that one.`, 'currency');
          if (!number.trim()) throw new Fault('empty', 'Write the number of the account.', 'number');
          const row = { id: newId(), currency: code, holder: holder.trim(), number: number.trim(), ledger: '' };
          const added = { ...row, bic: bic.replace(/\s/g, '').toUpperCase() };
          return changed('bankAccounts', (now) => [...now, added]);
        }}
      />
      <CodeToPayBy pricer={pricer} />
    </Section>
  );
}

/** Whether invoices in euro bear a code, and why they would not where the account is none that a code can name. */
function CodeToPayBy({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const { bankAccounts, payCode, asSeller: seller } = pricer.book.workspace;
  const euro = bankAccounts.find((each) => each.currency === 'EUR');
  const swiss = bankAccounts.filter((each) => slipAccount(each.number) !== 'not Swiss');
  return (
    <div className="mt-5 max-w-sm px-2">
      <SavedSelect
        label="Code to pay by"
        value={payCode ? 'on' : 'off'}
        save={(picked) => run('workspace.edit', { payCode: picked === 'on' })}
        options={[
          ['off', 'None'],
          ['on', 'On invoices from now on: in euro, and of Swiss accounts'],
        ]}
        hint={hintOf(euro?.number)}
      />
      {swiss.map(({ id, currency, number }) => (
        <p key={id} className={`mt-2 text-xs ${slipAccount(number) === 'fits' ? 'text-soft' : 'text-attention'}`}>
          {currency}: {swissHint(slipAccount(number) === 'fits', Boolean(seller?.city && seller.postCode))}
        </p>
      ))}
    </div>
  );
}

function swissHint(isPlain: boolean, hasPlace: boolean): string {
  if (!isPlain)
    return 'this number is a QR-IBAN, which wants references of the bank’s own. With the ordinary IBAN of the account invoices get a Swiss payment part.';
  return hasPlace
    ? 'invoices get a page with the Swiss payment part and its code.'
    : 'for the Swiss payment part, write town and post code of the studio under Setup → Studio, For e-invoices.';
}

function hintOf(number: string | undefined): string {
  if (number === undefined)
    return 'The client scans it with the bank’s application. It needs an account for EUR above.';
  if (!isIban(number)) return 'It needs an IBAN: the check digits of the one for EUR do not hold.';
  return 'The client scans it with the bank’s application: account, amount and reference are filled in (EPC069-12).';
}
