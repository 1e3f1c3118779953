import type { LateLaw, LatePayment } from '../model/records';
import { showAmount, type Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { fromScaled, SCALE, toScaled, type Decimal } from '../money/decimal';
import { divideRounded, sumExact } from '../money/rational';
import { amountFigure, type Step, type Working } from '../rates/working';
import { addDays, daysBetween, showDayShort, type Day } from '../time/day';
import { dueDayOf, owedOn, type InvoiceBalance } from './standing';

// Interest that the law gives on what one business owes another too long. UK: Late Payment of Commercial Debts (Interest) Act 1998 and the
// Rate of Interest (No. 3) Order 2002; EU: directive 2011/7 (all as remembered). Simple interest by the day, a year having 365.

/** What both laws add to the base rate, in percent a year. */
const ABOVE = 8;
const YEAR = 365;

/** Days over which the same sum was owed at the same rate. */
export interface LateSpan {
  /** Interest runs from the day after this one … */
  after: Day;
  /** … to this one. */
  to: Day;
  days: number;
  owed: Minor;
  /** A year: base rate and what is added. */
  percent: Decimal;
  interest: Minor;
}

/** What may be claimed of an invoice that is late. */
export interface LateClaim {
  law: LateLaw;
  daysLate: number;
  spans: LateSpan[];
  interest: Minor;
  /** The fixed sum for the trouble of recovering it; 0 in a currency that the law names none for. */
  fixed: Minor;
  /** The first day that a base rate is wanted of and none is known; the interest is without what follows then. */
  lacking: Day | null;
}

/**
 * The interest and the fixed sum by law on an invoice, as of a day; null where it is not late. Who pays a part lowers what bears interest
 * from the day after.
 *
 * @param terms the law, and the base rates as they changed
 * @param to the last day that interest is worked out for
 * For example £1,000 of which nothing came for 50 days, at a base rate of 0.5 %: 8.5 % of it is £85 a year, and £11.64 of that is due
 */
export function lateClaim(owing: InvoiceBalance, terms: LatePayment, to: Day): LateClaim | null {
  const { invoice } = owing;
  if (!invoice.frozen || invoice.voided || invoice.kind !== 'invoice') return null;
  const due = dueDayOf(invoice);
  const first = owedAt(owing, due);
  if (to <= due || first <= 0) return null;
  const spans: LateSpan[] = [];
  let lacking: Day | null = null;
  const ends = endsOf(owing, terms.law, due, to);
  let after = due;
  for (const end of ends) {
    const owed = owedAt(owing, after);
    const wanted = baseDayFor(terms.law, terms.law === 'UK' ? addDays(due, 1) : addDays(after, 1));
    const base = rateOn(terms, wanted);
    if (base === null) lacking ??= wanted;
    else if (owed > 0) {
      const percent = fromScaled(toScaled(base) + ABOVE * SCALE);
      const days = daysBetween(after, end);
      spans.push({ after, to: end, days, owed, percent, interest: interestOf(owed, percent, days) });
    }
    after = end;
  }
  const last = spans.at(-1);
  return {
    law: terms.law,
    daysLate: daysBetween(due, last?.to ?? to),
    spans,
    interest: sumExact(spans.map((span) => span.interest)),
    fixed: fixedSum(terms.law, first, invoice.currency),
    lacking,
  };
}

/** What was owed at the end of a day. */
const owedAt = ({ invoice, payments, credits }: InvoiceBalance, day: Day): Minor =>
  owedOn({
    invoice,
    payments: payments.filter((payment) => payment.day <= day),
    credits: credits.filter((note) => note.frozen !== null && note.frozen.day <= day),
  });

/** Where what is owed or its rate may change, up to the day: money that came, credit notes, and in the EU each half-year. */
function endsOf({ payments, credits }: InvoiceBalance, law: LateLaw, due: Day, to: Day): Day[] {
  const days = new Set<Day>([to]);
  for (const { day } of payments) days.add(day);
  for (const { frozen } of credits) if (frozen) days.add(frozen.day);
  if (law === 'EU') {
    for (let year = Number(due.slice(0, 4)); year <= Number(to.slice(0, 4)); year++) {
      days.add(`${year}-06-30`);
      days.add(`${year}-12-31`);
    }
  }
  return [...days].filter((day) => day > due && day <= to).sort();
}

/**
 * The day whose base rate holds for a day: in the UK that of the last 30 June or 31 December before interest began to run; in the EU the first
 * of the half-year.
 */
function baseDayFor(law: LateLaw, day: Day): Day {
  const first = `${day.slice(0, 4)}-${day.slice(5) < '07-01' ? '01' : '07'}-01`;
  return law === 'UK' ? addDays(first, -1) : first;
}

/** The base rate in force on a day; null where none is known. */
function rateOn({ baseRates }: LatePayment, day: Day): Decimal | null {
  let held: LatePayment['baseRates'][number] | null = null;
  for (const rate of baseRates) if (rate.from <= day && (!held || rate.from >= held.from)) held = rate;
  return held?.percent ?? null;
}

const interestOf = (owed: Minor, percent: Decimal, days: number): Minor =>
  divideRounded(
    BigInt(owed) * BigInt(toScaled(percent)) * BigInt(days),
    BigInt(100 * SCALE * YEAR),
    'half away from zero',
  );

/** UK: £40, £70 from £1,000, £100 from £10,000; EU: €40. */
function fixedSum(law: LateLaw, owed: Minor, currency: CurrencyCode): Minor {
  if (law === 'EU') return currency === 'EUR' ? 4000 : 0;
  if (currency !== 'GBP') return 0;
  return owed < 100_000 ? 4000 : owed < 1_000_000 ? 7000 : 10_000;
}

/** How the claim is worked out. */
export function explainLate(claim: LateClaim, currency: CurrencyCode, number: string): Working {
  const steps: Step[] = claim.spans.map((span) => ({
    label: `${span.days} ${span.days === 1 ? 'day' : 'days'} to ${showDayShort(span.to)}, ${span.percent} % a year`,
    remark: `of ${showAmount(span.owed, currency)}`,
    figure: amountFigure(span.interest, currency),
  }));
  if (claim.fixed !== 0) steps.push({ label: 'Fixed sum', figure: amountFigure(claim.fixed, currency) });
  return {
    title: `Late payment of ${number}`,
    steps,
    result: { label: 'May be claimed', figure: amountFigure(sumExact([claim.interest, claim.fixed]), currency) },
  };
}
