import type { Allocation, Client, Entry, FrozenInvoice, Payment, RateLine } from '../model/records';
import { bareAmount, type Minor } from '../money/amount';
import { currencyDigits, type CurrencyCode } from '../money/currency';
import { SCALE, showDecimal } from '../money/decimal';
import { divideRounded, product } from '../money/rational';
import type { TaxMethod } from '../money/tax';
import { amountFigure, lengthFigure, textFigure, type Step, type Working } from '../rates/working';
import { showDayShort } from '../time/day';
import { showExactly } from '../time/length';
import { showPolicy } from '../time/rounding';
import type { Draft, DraftLine } from './draft';
import { jobName, type Price, type Pricer } from './pricer';
import { showMarkup, showPrice, showRate } from './show';
import type { Priced } from './to-bill';

// Explaining is apart from calculating: it goes the long way round, step by step, and must arrive at the same amount.

/** Where a rate line stands, in words: "Winter season rig card". */
function cardOf(pricer: Pricer, line: Pick<RateLine, 'taskId' | 'projectId' | 'contractId' | 'clientId'>): string {
  if (line.taskId !== null) return `${pricer.task.get(line.taskId)?.name} card`;
  if (line.projectId !== null) return `${pricer.project.get(line.projectId)?.name} card`;
  if (line.contractId !== null) return `${pricer.contract.get(line.contractId)?.name} contract`;
  if (line.clientId !== null) return `${pricer.client.get(line.clientId)?.name} card`;
  return `${pricer.book.workspace.name} card`;
}

/** Which card a rate line stands on, in words: "Winter season rig card, from 1 Apr 2026". */
export function describeRate(pricer: Pricer, line: RateLine): string {
  const person = line.memberId !== null ? pricer.member.get(line.memberId)?.name : line.role;
  const service = line.serviceId !== null ? pricer.service.get(line.serviceId)?.name : null;
  return [cardOf(pricer, line), person, service, `from ${showDayShort(line.from)}`].filter(Boolean).join(', ');
}

/** Why an entry is worth what it is worth: its lengths, the rate and what it beat, the product. */
export function explainPriced(pricer: Pricer, priced: Priced): Working {
  const { entry } = priced;
  const title = entry.note.trim() || jobName(pricer, entry.projectId, entry.unlisted);
  const client = pricer.clientOf(entry.projectId);
  const currency = client?.currency ?? pricer.book.workspace.currency;
  const steps: Step[] = lengthSteps(pricer, priced);
  if (!client || pricer.project.get(entry.projectId!)?.kind === 'internal') {
    const why =
      entry.projectId === null
        ? entry.unlisted
          ? 'The job is not set up yet, so nobody to bill'
          : 'No job yet, so nobody to bill'
        : 'Internal work is not billed';
    return nothing(title, [...steps, { label: why }], currency);
  }
  if (!priced.price) return nothing(title, [...steps, whyNoPrice(pricer, entry, client, currency)], currency);
  steps.push(...rateSteps(pricer, entry, priced.price));
  if (!pricer.billsHours(entry.projectId)) {
    steps.push({
      label: 'Fixed price',
      remark: 'The price is agreed for the whole; this is what the hours would be worth.',
    });
  }
  steps.push({ ...timesStep(priced.billed, priced.price), ruled: true });
  const minor = byLongDivision(priced.billed, priced.price, pricer);
  return { title, steps, result: { label: 'Worth', figure: amountFigure(minor, currency) } };
}

function nothing(title: string, steps: Step[], currency: CurrencyCode): Working {
  return { title, steps, result: { label: 'Worth', figure: amountFigure(0, currency) } };
}

function lengthSteps(pricer: Pricer, { entry, seconds, billed }: Priced): Step[] {
  const steps: Step[] = [{ label: 'Recorded', figure: lengthFigure(entry.seconds) }];
  if (seconds !== entry.seconds) steps.push({ label: 'Of that to bill', figure: lengthFigure(seconds) });
  const policy = showPolicy(pricer.policyOf(entry.projectId));
  steps.push({ label: 'Rounded', figure: lengthFigure(billed), remark: policy });
  return steps;
}

/** Why nothing prices a piece of work, and what to do about it. */
function whyNoPrice(pricer: Pricer, entry: Entry, client: Client, currency: CurrencyCode): Step {
  const { projectId, taskId, memberId, serviceId, day } = entry;
  const decided = pricer.rates.resolveAt(projectId, taskId, memberId, serviceId, day);
  if (!decided) return { label: 'No rate fits', remark: `Give ${client.name} or the project a rate in ${currency}.` };
  const who = pricer.member.get(memberId)?.name ?? 'the member';
  const rate = `${showRate(decided.line)} on ${describeRate(pricer, decided.line)}`;
  if (!decided.cost)
    return {
      label: 'No cost rate',
      remark: `${rate} holds, but what ${who} costs is not set. Give a cost rate in Setup.`,
    };
  return {
    label: 'No exchange rate',
    remark: `${rate} holds, but nothing says what ${decided.cost.currency} is in ${currency} on ${showDayShort(day)}. Add a rate in Setup.`,
  };
}

function rateSteps(pricer: Pricer, entry: Entry, price: Price): Step[] {
  const figure = textFigure(showPrice(price));
  if (!price.decided) return [{ label: 'Rate', figure, remark: 'agreed for this entry alone' }];
  const { line, cost, exchanged } = price.decided;
  const { beaten } = pricer.rates.explain(entry);
  const inForce = beaten.filter(
    (each) => (each.line.currency ?? price.currency) === price.currency && each.line.from <= entry.day,
  );
  const second = inForce[0];
  const beats = second ? `; beats ${showRate(second.line)} on ${describeRate(pricer, second.line)}: ${second.why}` : '';
  const why = `${describeRate(pricer, line)}${beats}`;
  if (!cost) return [{ label: 'Rate', figure, remark: why }];
  const whose = cost.memberId !== null ? pricer.member.get(cost.memberId)?.name : (cost.role ?? 'anybody');
  const steps: Step[] = [
    {
      label: 'Cost',
      figure: textFigure(showPrice(cost)),
      remark: `${whose}, from ${showDayShort(cost.from)}`,
    },
    { label: 'Markup', figure: textFigure(showMarkup(line.markup!)), remark: why },
    ...(exchanged?.used ?? []).map((row) => ({
      label: `1 ${row.base}`,
      figure: textFigure(`${row.rate} ${row.currency}`),
      remark: [`from ${showDayShort(row.from)}`, row.source].filter(Boolean).join(', '),
    })),
  ];
  return [...steps, { label: 'Rate', figure, ruled: true }];
}

/** "1 h 18 min × 85.00 ÷ 60 min": the product in words, before it is rounded to minor units. */
function timesStep(seconds: number, price: Price): Step {
  const rate = showDecimal(price.price, currencyDigits(price.currency));
  return { label: `${showExactly(seconds)} × ${rate} ÷ ${showExactly(price.perSeconds)}` };
}

/** The amount again by another route: whole units first, then the rest, one fraction at the end. */
function byLongDivision(seconds: number, price: Price, pricer: Pricer): Minor {
  const numerator = BigInt(product(price.scaled, price.minorUnits)) * BigInt(seconds);
  return divideRounded(numerator, BigInt(price.perSeconds) * BigInt(SCALE), pricer.book.workspace.amountRounding);
}

/** A draft line: all it holds, the price, the product. */
export function explainLine(pricer: Pricer, line: DraftLine): Working {
  const steps: Step[] = listed(
    line.sources.map((source) => ({
      label: `${showDayShort(source.entry.day)} ${pricer.member.get(source.entry.memberId)?.name ?? ''}`.trim(),
      figure: lengthFigure(source.billed),
      seconds: source.billed,
    })),
  );
  steps.push({ label: 'Recorded', figure: lengthFigure(line.seconds), ruled: true });
  const billed = line.sources.reduce((sum, source) => sum + source.billed, 0);
  steps.push({ label: 'Rounded', figure: lengthFigure(billed), remark: policiesOf(pricer, line) });
  steps.push(...rateSteps(pricer, line.sources[0]!.entry, line.price));
  steps.push({ ...timesStep(billed, line.price), ruled: true });
  const minor = byLongDivision(billed, line.price, pricer);
  return { title: line.text, steps, result: { label: 'Line', figure: amountFigure(minor, line.price.currency) } };
}

/** How a line's sources were rounded, in words. */
const policiesOf = (pricer: Pricer, line: DraftLine): string =>
  [...new Set(line.sources.map(({ entry }) => showPolicy(pricer.policyOf(entry.projectId))))].join('; ');

const MOST_LISTED = 10;

function listed(parts: { label: string; figure: Step['figure'] & object; seconds: number }[]): Step[] {
  const shown = parts.length > MOST_LISTED + 1 ? parts.slice(0, MOST_LISTED) : parts;
  const rest = parts.slice(shown.length);
  const steps: Step[] = shown.map(({ label, figure }) => ({ label, figure }));
  if (rest.length > 0) {
    steps.push({
      label: `and ${rest.length} more`,
      figure: lengthFigure(rest.reduce((sum, each) => sum + each.seconds, 0)),
    });
  }
  return steps;
}

/** A draft's total from its lines and taxes. */
export function explainDraft(draft: Draft, method: TaxMethod, title: string): Working {
  return explainTotals(
    title,
    draft.lines.map((line) => ({ label: line.text, minor: line.amount })),
    draft.totals.taxes.map((part) => ({ ...part.tax, basis: part.basis, amount: part.amount })),
    draft.currency,
    method,
  );
}

/** An issued invoice's total from what is frozen in it. */
export function explainFrozen(frozen: FrozenInvoice): Working {
  return explainTotals(
    frozen.number,
    frozen.lines.map((line) => ({ label: line.text, minor: line.amount })),
    frozen.taxes,
    frozen.currency,
    frozen.taxMethod,
  );
}

function explainTotals(
  title: string,
  lines: readonly { label: string; minor: Minor }[],
  taxes: readonly { name: string; percent: string; basis: Minor; amount: Minor }[],
  currency: CurrencyCode,
  method: TaxMethod,
): Working {
  const net = lines.reduce((sum, line) => sum + line.minor, 0);
  const steps: Step[] = [
    { label: `${lines.length} ${lines.length === 1 ? 'line' : 'lines'}, net`, figure: amountFigure(net, currency) },
    ...taxes.map((tax) => ({
      label: `${tax.name} ${tax.percent} %`,
      figure: amountFigure(tax.amount, currency),
      remark:
        method === 'invoice'
          ? `on ${bareAmount(tax.basis, currency)}, rounded once`
          : `on ${bareAmount(tax.basis, currency)}, rounded line by line`,
    })),
  ];
  const total = taxes.reduce((sum, tax) => sum + tax.amount, net);
  return { title, steps, result: { label: 'Total', figure: amountFigure(total, currency) } };
}

/** An entry's part of an issued line: the line's amount shared over its entries, as it was frozen. */
export function explainShare(frozen: FrozenInvoice, allocation: Allocation, among: number): Working {
  const line = frozen.lines.find((each) => each.key === allocation.line)!;
  const price = { price: line.price, unit: line.unit, currency: frozen.currency };
  return {
    title: line.text,
    steps: [
      { label: 'Line', figure: lengthFigure(line.seconds), remark: `at ${showPrice(price)}, as issued` },
      { label: 'Amount of the line', figure: amountFigure(line.amount, frozen.currency), ruled: true },
      {
        label: 'This entry, recorded',
        figure: lengthFigure(allocation.seconds),
        remark:
          among === 1
            ? 'all of the line'
            : `shared over ${among} entries by billed length, left-over pennies to the largest remainders`,
      },
    ],
    result: { label: 'Its share', figure: amountFigure(allocation.amount ?? 0, frozen.currency) },
  };
}

/** A payment as it was recorded. */
export const explainPayment = (payment: Payment): Working => ({
  title: payment.note.trim() || 'Payment',
  steps: [{ label: 'Recorded as paid', figure: textFigure(payment.day) }],
  result: { label: 'Paid', figure: amountFigure(payment.amount, payment.currency) },
});

/** What is still owed on an issued invoice. */
export function explainOwed(frozen: FrozenInvoice, payments: readonly Payment[]): Working {
  const steps: Step[] = [
    { label: `${frozen.number}, total`, figure: amountFigure(frozen.total, frozen.currency) },
    ...payments.map((payment) => ({
      label: `Paid ${payment.day}`,
      figure: amountFigure(-payment.amount, frozen.currency),
    })),
  ];
  const left = payments.reduce((sum, payment) => sum - payment.amount, frozen.total);
  return {
    title: `Owed on ${frozen.number}`,
    steps,
    result: { label: left < 0 ? 'Overpaid' : 'Still owed', figure: amountFigure(left, frozen.currency) },
  };
}
