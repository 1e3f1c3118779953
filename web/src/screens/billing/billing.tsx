import { useInvoices, useToBill } from '../../data/billing';
import { usePricer } from '../../data/book';
import { Loading, Page } from '../../parts/page';
import { MoneyPath } from './money-path';
import { Register } from './register';
import { ToBillSection } from './to-bill-section';

/** What is to bill, and every invoice. */
export default function Billing() {
  const pricer = usePricer();
  const open = useToBill(pricer, 'every client');
  const invoices = useInvoices();
  if (!pricer || !open || !invoices)
    return (
      <Page title="Billing">
        <Loading />
      </Page>
    );
  return (
    <Page title="Billing">
      {(open.length > 0 || invoices.length > 0) && <MoneyPath {...{ pricer, invoices }} toBill={open} />}
      <ToBillSection pricer={pricer} rows={open} />
      <Register pricer={pricer} rows={invoices} />
    </Page>
  );
}
