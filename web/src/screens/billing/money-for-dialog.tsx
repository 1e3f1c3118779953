import { owedOn, type InvoiceBalance, type Pricer } from '@half-penny/core/billing';
import { readAll, type MoneyIn } from '@half-penny/core/model';
import { leftOfSum } from '@half-penny/core/money-in';
import { inStyle, plainAmount, readAmount, showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import type { MoneyInRow } from '../../data/money-in';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { CheckBox } from '../../parts/check';
import { showShortestDay } from '../../parts/days';
import { Dialog } from '../../parts/dialog';
import { inputLook } from '../../parts/field';
import { SelectField } from '../../parts/select';
import { useSubmit } from '../../parts/use-submit';

interface MoneyForProps {
  pricer: Pricer;
  invoices: readonly InvoiceBalance[];
  row: MoneyInRow;
  onClose: () => void;
}

/** What is written beside an invoice: what of it is paid, what was kept of that, and what arrived where it is in another currency. */
interface Written {
  amount: string;
  fee: string;
  arrived: string;
}
const nothing: Written = { amount: '', fee: '', arrived: '' };

/** A sum that came in, given out by hand over a client's open invoices; what is left may be paid ahead. */
export function MoneyForDialog({ pricer, invoices, row: { sum, offer }, onClose }: MoneyForProps) {
  const { run } = useChanges();
  const open = invoices.filter(
    (row) => row.invoice.frozen && !row.invoice.voided && row.invoice.kind === 'invoice' && owedOn(row) > 0,
  );
  const [clientId, setClientId] = useState(() => startingClient(open, offer));
  const [written, setWritten] = useState<Record<string, Written>>(() => startingWords(open, sum, offer));
  const [rest, setRest] = useState(offer?.ahead != null);
  const own = open.filter((row) => row.invoice.clientId === clientId);
  const of = (id: string): Written => written[id] ?? nothing;
  const parts = () =>
    own.filter(({ invoice }) => of(invoice.id).amount.trim() !== '').map((row) => partOf(row, of(row.invoice.id), sum));
  const left = leftOf(sum, parts);
  const { fault, faults, submit } = useSubmit(
    async () => {
      const read = parts().map((make) => make.read());
      const more = leftOfSum(sum, read);
      const ahead = rest && more > 0 && clientId !== '' ? { clientId, amount: more } : null;
      await run('money.match', { matches: [{ id: sum.id, parts: read, ahead }] });
      onClose();
    },
    open.map(({ invoice }) => invoice.id),
  );
  const write = (id: string, changed: Partial<Written>) =>
    setWritten((now) => ({ ...now, [id]: { ...(now[id] ?? nothing), ...changed } }));
  const clients = pricer.book.clients.filter(
    (client) => !client.archived || open.some((row) => row.invoice.clientId === client.id),
  );
  return (
    <Dialog
      open
      wide="widest"
      onClose={onClose}
      title={`${showAmount(sum.amount, sum.currency)} from ${sum.payer || 'nobody named'}`}
      about={[sum.reference, sum.text].filter(Boolean).join(' · ')}
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <SelectField
          label="It is from"
          value={clientId}
          options={[['', 'Choose a client'], ...clients.map(({ id, name }) => [id, name] as const)]}
          onPick={setClientId}
        />
        {clientId !== '' && own.length === 0 && (
          <p className="text-soft">Nothing is owed by this client: what came is paid ahead.</p>
        )}
        {own.length > 0 && (
          <table className="w-full">
            <thead>
              <tr className="border-b border-ink text-left text-xs text-soft">
                <th className="py-1 font-semibold">Invoice</th>
                <th className="py-1 text-right font-semibold">Owed</th>
                <th className="w-32 py-1 text-right font-semibold">Pays</th>
                <th className="w-32 py-1 text-right font-semibold">Kept on the way</th>
                {own.some(({ invoice }) => invoice.currency !== sum.currency) && (
                  <th className="w-36 py-1 text-right font-semibold">Arrived, {sum.currency}</th>
                )}
              </tr>
            </thead>
            <tbody>
              {own.map((row) => (
                <InvoiceRow
                  key={row.invoice.id}
                  {...{ row, sum }}
                  value={of(row.invoice.id)}
                  fault={faults[row.invoice.id]}
                  write={(changed) => write(row.invoice.id, changed)}
                />
              ))}
            </tbody>
          </table>
        )}
        <div className="flex flex-wrap items-center gap-4">
          {clientId !== '' && (
            <label className="flex items-center gap-2">
              <CheckBox checked={rest} onChange={setRest} />
              What is left is paid ahead, and deducted from a later invoice
            </label>
          )}
          <span className="ml-auto" role="status">
            {left === null ? '' : `${showAmount(left, sum.currency)} left`}
          </span>
          <Button type="submit" kind="main">
            Match
          </Button>
        </div>
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
      </form>
    </Dialog>
  );
}

interface InvoiceRowProps {
  row: InvoiceBalance;
  sum: MoneyIn;
  value: Written;
  fault: string | undefined;
  write: (changed: Partial<Written>) => void;
}

function InvoiceRow({ row, sum, value, fault, write }: InvoiceRowProps) {
  const { invoice } = row;
  const { number, dueDay } = invoice.frozen!;
  const foreign = invoice.currency !== sum.currency;
  const field = (name: keyof Written, label: string) => (
    <td className="py-1 pl-2">
      <input
        className={`${inputLook} text-right`}
        inputMode="decimal"
        aria-label={`${label} ${number}`}
        aria-invalid={fault ? true : undefined}
        value={value[name]}
        onChange={(event) => write({ [name]: event.target.value })}
      />
    </td>
  );
  return (
    <>
      <tr className={fault ? '' : 'border-b border-rule'}>
        <td className="py-1">
          <span className="font-mono text-sm font-semibold">{number}</span>{' '}
          <span className="text-soft">due {showShortestDay(dueDay)}</span>
        </td>
        <td className="py-1 text-right font-mono text-sm">{showAmount(owedOn(row), invoice.currency)}</td>
        {field('amount', 'Pays of')}
        {field('fee', 'Kept on the way of')}
        {foreign && field('arrived', 'Arrived for')}
      </tr>
      {fault && (
        <tr className="border-b border-rule">
          <td colSpan={5} role="alert" className="pb-1 text-sm text-fault">
            {fault}
          </td>
        </tr>
      )}
    </>
  );
}

/** A part as it is written, read when it is wanted. @throws Fault named after the invoice */
function partOf({ invoice }: InvoiceBalance, { amount, fee, arrived }: Written, sum: MoneyIn) {
  const foreign = invoice.currency !== sum.currency;
  const read = () => {
    const { [invoice.id]: paid } = readAll({ [invoice.id]: () => readAmount(amount, invoice.currency) });
    const { [invoice.id]: kept } = readAll({
      [invoice.id]: () => (fee.trim() === '' ? 0 : readAmount(fee, invoice.currency)),
    });
    const { [invoice.id]: came } = readAll({
      [invoice.id]: () => (foreign ? readAmount(arrived, sum.currency) : null),
    });
    return { invoiceId: invoice.id, amount: paid!, fee: kept!, arrived: came! };
  };
  return { read };
}

/** What of the sum is for nothing yet; null while something cannot be read. */
function leftOf(sum: MoneyIn, parts: () => ReturnType<typeof partOf>[]): number | null {
  try {
    const read = parts().map((part) => part.read());
    return leftOfSum(sum, read);
  } catch {
    return null;
  }
}

function startingClient(open: readonly InvoiceBalance[], offer: MoneyInRow['offer']): string {
  const first = open.find(({ invoice }) => invoice.id === offer?.parts[0]?.invoiceId);
  return first?.invoice.clientId ?? offer?.ahead?.clientId ?? '';
}

function startingWords(
  open: readonly InvoiceBalance[],
  sum: MoneyIn,
  offer: MoneyInRow['offer'],
): Record<string, Written> {
  const money = (minor: number, currency: string) => inStyle(plainAmount(minor, currency));
  return Object.fromEntries(
    (offer?.parts ?? []).flatMap(({ invoiceId, amount, fee, arrived }) => {
      const currency = open.find(({ invoice }) => invoice.id === invoiceId)?.invoice.currency;
      if (!currency) return [];
      const words = {
        amount: money(amount, currency),
        fee: fee > 0 ? money(fee, currency) : '',
        arrived: arrived === null ? '' : money(arrived, sum.currency),
      };
      return [[invoiceId, words] as const];
    }),
  );
}
