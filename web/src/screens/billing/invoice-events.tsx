import { invoiceEvents, type InvoiceEvent, type InvoiceEventKind } from '@half-penny/core/billing';
import { showAmount } from '@half-penny/core/money';
import { dayOf } from '@half-penny/core/time';
import { Link } from 'react-router';
import type { InvoiceRecords } from '../../data/invoice-records';
import { showMoment, showShortDay } from '../../parts/days';

const words: Record<InvoiceEventKind, string> = {
  drafted: 'Drafted',
  issued: 'Issued',
  sent: 'Sent',
  opened: 'Page opened on this machine',
  reminded: 'Reminded',
  'not sent': 'Not sent',
  'retention due': 'Retention is due',
  credited: 'Credited',
  void: 'Made void',
  payment: 'Paid',
  'write-off': 'Written off',
  refund: 'Paid back',
};

interface InvoiceEventsProps {
  records: InvoiceRecords;
  /** Of who reads it. */
  zone: string;
}

/** What happened to an invoice, one below the other on a thread, in the order in which it was written down. */
export function InvoiceEvents({ records, zone }: InvoiceEventsProps) {
  const { currency } = records.invoice;
  return (
    <section aria-label="What happened" className="mt-8">
      <h2 className="border-b border-ink pb-2 font-semibold">What happened</h2>
      <ol className="ml-1.5 border-l border-strong pt-3">
        {invoiceEvents(records, records.letters).map((event) => (
          <li key={event.key} className="relative pb-3 pl-4">
            <span
              aria-hidden
              className={`absolute top-1.5 -left-[5px] size-[9px] rounded-full border-2 border-sheet ${isMoney(event.kind) ? 'bg-money' : 'bg-ink'}`}
            />
            <span className="flex items-baseline justify-between gap-3">
              {event.invoiceId === null ? (
                <span>{words[event.kind]}</span>
              ) : (
                <Link to={`/billing/invoice/${event.invoiceId}`} className="hover:underline">
                  {words[event.kind]} by {event.number}
                </Link>
              )}
              {event.amount !== null && (
                <span className="font-mono text-sm whitespace-nowrap text-money">
                  {showAmount(event.amount, currency)}
                </span>
              )}
            </span>
            <span className="block text-xs text-soft">{whenOf(event, zone)}</span>
            {event.note && <span className="written clamp-2 text-xs text-soft">{event.note}</span>}
          </li>
        ))}
      </ol>
    </section>
  );
}

const isMoney = (kind: InvoiceEventKind): boolean => kind === 'payment' || kind === 'refund' || kind === 'write-off';

/** "4 Nov 2026, 14:05"; a payment's own day first, where it was written down on another. */
function whenOf({ at, day }: InvoiceEvent, zone: string): string {
  if (at === null) return day === null ? '' : showShortDay(day);
  const on = dayOf(at, zone);
  const written = showMoment(at, zone);
  return day === null || day === on ? written : `${showShortDay(day)}, written down ${written}`;
}
