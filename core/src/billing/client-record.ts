import type { Id } from '../model/ids';
import type { FrozenInvoice } from '../model/records';
import type { Minor } from '../money/amount';
import { addExact, divideRounded, product } from '../money/rational';
import { daysBetween, firstOfMonth, type Day } from '../time/day';
import type { Seconds } from '../time/length';
import { lineNets, netOf } from './paid';
import { owedOn, paidOf, standingOf, type InvoiceBalance } from './standing';

/** How many months back a client is judged by. */
export const RECORD_MONTHS = 12;

/** What a client was worth and how it paid, in its own currency: over the last twelve months, but for what it owes. */
export interface ClientRecord {
  owed: Minor;
  /** Of that, what is past its due day. */
  late: Minor;
  /** Net of tax by month, credit notes taken off, oldest first. */
  months: readonly Minor[];
  /** Days from an invoice to the last money for it, in the middle of what was paid in full; null where nothing was. */
  daysToPay: number | null;
  /** What an invoiced hour brought, net of tax and discounts; null where no hours were invoiced. */
  perHour: Minor | null;
}

interface Sums extends Pick<ClientRecord, 'owed' | 'late'> {
  months: Minor[];
  days: number[];
  earned: Minor;
  seconds: Seconds;
}

/**
 * What each client was worth and how it paid.
 *
 * @param invoices all invoices and credit notes with what came in on them
 */
export function clientRecords(invoices: readonly InvoiceBalance[], today: Day): Map<Id, ClientRecord> {
  const starts = Array.from({ length: RECORD_MONTHS }, (_, at) => firstOfMonth(today, at + 1 - RECORD_MONTHS));
  const sums = new Map<Id, Sums>();
  for (const balance of invoices) {
    const { clientId, frozen, voided } = balance.invoice;
    if (!frozen || voided) continue;
    let own = sums.get(clientId);
    if (!own) {
      own = { owed: 0, late: 0, months: starts.map(() => 0), days: [], earned: 0, seconds: 0 };
      sums.set(clientId, own);
    }
    const owed = Math.max(0, owedOn(balance));
    own.owed = addExact(own.owed, owed);
    if (standingOf(balance, today) === 'overdue') own.late = addExact(own.late, owed);
    const month = starts.findLastIndex((start) => start <= frozen.day);
    if (month < 0 || frozen.day > today) continue;
    own.months[month] = addExact(own.months[month]!, netOf(frozen));
    const time = timeOn(frozen);
    own.earned = addExact(own.earned, time.earned);
    own.seconds += time.seconds;
    const paidOn = paidInFullOn(balance);
    if (paidOn !== null) own.days.push(daysBetween(frozen.day, paidOn));
  }
  return new Map([...sums].map(([clientId, own]) => [clientId, recordOf(own)]));
}

const recordOf = ({ owed, late, months, days, earned, seconds }: Sums): ClientRecord => ({
  owed,
  late,
  months,
  daysToPay: days.length === 0 ? null : middleOf(days),
  perHour: seconds <= 0 ? null : divideRounded(product(earned, 3600), seconds, 'half away from zero'),
});

/** The lower of the two in the middle where they are even in number: a day that really passed. */
const middleOf = (days: readonly number[]): number => days.toSorted((a, b) => a - b)[(days.length - 1) >> 1]!;

/** What the hours on a paper earned. */
function timeOn(frozen: FrozenInvoice): { earned: Minor; seconds: Seconds } {
  const nets = lineNets(frozen);
  return frozen.lines.reduce(
    (sum, { seconds }, at) =>
      seconds === 0 ? sum : { earned: addExact(sum.earned, nets[at]!), seconds: sum.seconds + seconds },
    { earned: 0, seconds: 0 },
  );
}

/** The day of the last payment on an invoice that nothing is owed on and something was paid. */
function paidInFullOn(balance: InvoiceBalance): Day | null {
  const { invoice, payments } = balance;
  if (invoice.kind === 'credit note' || owedOn(balance) > 0 || paidOf(payments) <= 0) return null;
  return payments.reduce<Day>((last, { kind, day }) => (kind === 'payment' && day > last ? day : last), '');
}
