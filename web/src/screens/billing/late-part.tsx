import { explainLate, lateClaim, type Pricer } from '@half-penny/core/billing';
import type { FrozenInvoice } from '@half-penny/core/model';
import { sumExact } from '@half-penny/core/money';
import { Link } from 'react-router';
import type { InvoiceRecords } from '../../data/invoice-records';
import { showShortDay } from '../../parts/days';
import { Worth } from '../../parts/figures';
import type { SettingSought } from '../../parts/sought';

interface LatePartProps {
  pricer: Pricer;
  records: InvoiceRecords;
  frozen: FrozenInvoice;
  today: string;
}

/** What may be claimed by law of an invoice that is, or was, paid late; nothing where it was not, or no law was chosen. */
export function LatePart({ pricer, records, frozen, today }: LatePartProps) {
  const { latePayment } = pricer.book.workspace;
  const client = pricer.client.get(records.invoice.clientId);
  const claim = latePayment && !client?.consumer ? lateClaim(records, latePayment, today) : null;
  if (!claim) return null;
  const { currency, number } = frozen;
  const whole = sumExact([claim.interest, claim.fixed]);
  const row = 'flex items-baseline justify-between gap-3 border-b border-rule py-2';
  return (
    <section aria-label="Late payment" className="mt-8">
      <h2 className="border-b border-ink pb-2 font-semibold">
        {claim.daysLate} {claim.daysLate === 1 ? 'day' : 'days'} late
      </h2>
      <div className={row}>
        <span>
          Interest by law
          <span className="block text-xs text-soft">
            {claim.spans.length > 0 && `${claim.spans.at(-1)!.percent} % a year`}
          </span>
        </span>
        <Worth
          amount={claim.interest}
          currency={currency}
          of={`the interest on ${number}`}
          working={() => explainLate(claim, currency, number)}
        />
      </div>
      {claim.fixed !== 0 && (
        <div className={row}>
          <span>Fixed sum</span>
          <Worth
            amount={claim.fixed}
            currency={currency}
            of={`the fixed sum on ${number}`}
            working={() => explainLate(claim, currency, number)}
          />
        </div>
      )}
      <div className="flex items-baseline justify-between gap-3 py-2 font-bold">
        <span>May be claimed</span>
        <Worth
          amount={whole}
          currency={currency}
          of={`what may be claimed for ${number}`}
          working={() => explainLate(claim, currency, number)}
        />
      </div>
      {claim.lacking && (
        <p className="text-sm text-attention">
          No base rate is known for {showShortDay(claim.lacking)}, so interest is left out from there.{' '}
          <Link
            to="/setup/invoicing"
            state={{ sought: 'Late payment' } satisfies SettingSought}
            className="underline underline-offset-2"
          >
            To Late payment
          </Link>
        </p>
      )}
    </section>
  );
}
