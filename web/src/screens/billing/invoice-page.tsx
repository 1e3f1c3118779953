import { Link, useParams } from 'react-router';
import { useInvoice } from '../../data/billing';
import { usePricer } from '../../data/book';
import { Loading, Page } from '../../parts/page';
import { DraftPage } from './draft-page';
import { IssuedPage } from './issued-page';

/** One invoice: a draft to be worked on, or as it was sent. */
export default function InvoicePage() {
  const { invoiceId = '' } = useParams();
  const pricer = usePricer();
  const records = useInvoice(invoiceId, pricer);
  if (!pricer || records === undefined)
    return (
      <Page title="Invoice">
        <Loading />
      </Page>
    );
  if (records === null) {
    return (
      <Page title="Invoice">
        <p className="text-soft">
          There is no such invoice; a draft that was discarded is gone from here.{' '}
          <Link to="/billing" className="text-time underline">
            Back to Billing
          </Link>
        </p>
      </Page>
    );
  }
  return records.invoice.frozen ? (
    <IssuedPage pricer={pricer} records={records} frozen={records.invoice.frozen} />
  ) : (
    <DraftPage pricer={pricer} records={records} />
  );
}
