import type { InvoiceBalance, Pricer } from '@half-penny/core/billing';
import { useParams } from 'react-router';
import { useInvoices, useToBill } from '../../data/billing';
import { usePricer } from '../../data/book';
import { useTold } from '../../data/online';
import { Loading, Page } from '../../parts/page';
import { PartsNav } from '../../parts/parts-nav';
import { CashAheadPart } from './cash-ahead';
import { MoneyIn } from './money-in';
import { MoneyPath } from './money-path';
import { Outbox } from './outbox';
import { Reminders } from './reminders';
import { Quotes } from './quotes';
import { Register } from './register';
import { Run } from './run';
import { ToBillSection } from './to-bill-section';

const parts = [
  { path: 'invoices', name: 'Invoices', of: Invoices },
  { path: 'quotes', name: 'Quotes', of: Quotes },
  { path: 'run', name: 'Run', of: Run },
  { path: 'reminders', name: 'Reminders', of: Reminders },
  { path: 'outbox', name: 'Outbox', of: Outbox },
  { path: 'money', name: 'Money in', of: MoneyIn },
  { path: 'ahead', name: 'Cash ahead', of: CashAheadPart },
] as const;

/** What is to bill, every invoice, and what was paid on them. */
export default function Billing() {
  const { part } = useParams();
  const pricer = usePricer();
  const invoices = useInvoices();
  const answers = useTold();
  const { of: Part } = parts.find((each) => each.path === part) ?? parts[0];
  return (
    <Page title="Billing">
      <PartsNav label="Parts of Billing" base="/billing" parts={parts} current={part} />
      {pricer && invoices ? <Part {...{ pricer, invoices, answers }} /> : <Loading />}
    </Page>
  );
}

function Invoices({ pricer, invoices }: { pricer: Pricer; invoices: readonly InvoiceBalance[] }) {
  const open = useToBill(pricer, 'every client');
  if (!open) return <Loading />;
  return (
    <>
      {(open.length > 0 || invoices.length > 0) && <MoneyPath {...{ pricer, invoices }} toBill={open} />}
      <ToBillSection pricer={pricer} rows={open} />
      <Register pricer={pricer} rows={invoices} />
    </>
  );
}
