import type { Allocation, FrozenInvoice, Payment } from '../model/records';
import { bareAmount, type Minor } from '../money/amount';
import { minorPerMajor, type CurrencyCode } from '../money/currency';
import { SCALE, toScaled } from '../money/decimal';
import { divideRounded } from '../money/rational';
import { amountFigure, lengthFigure, textFigure, type Step, type Working } from '../rates/working';
import { showDayShort } from '../time/day';
import { showPolicy } from '../time/rounding';
import type { Charge } from './charges';
import type { Draft } from './draft';
import type { DraftLine } from './draft-line';
import { byLongDivision, estimateStep, rateSteps, timesStep } from './explain';
import { chargeText } from './lines';
import { projectName, type Pricer } from './pricer';
import { showMarkup, showPrice } from './format';
import { owedOn, releasedOn, type InvoiceBalance } from './standing';

/** What is charged for one cost or agreed amount: what it cost, the markup and where it was agreed, the price. */
export function explainCharge(pricer: Pricer, charge: Charge): Working {
  const { cost, line, currency } = charge;
  const title = chargeText(charge);
  const result = { label: 'Price', figure: amountFigure(charge.amount, currency) };
  if (!cost || !line) {
    const agreed = charge.agreed!;
    const who = [agreed.agreedBy && `agreed by ${agreed.agreedBy}`, agreed.agreedOn && showDayShort(agreed.agreedOn)];
    const remark = who.filter(Boolean).join(', ');
    const all = { label: 'Agreed', figure: amountFigure(agreed.amount, currency), ...(remark ? { remark } : {}) };
    const steps: Step[] = [all];
    if (agreed.kind === 'estimate') steps.push(estimateStep(pricer, agreed.projectId, agreed.costCodeId));
    if (charge.part !== agreed.amount)
      steps.push({ label: 'Of that now', figure: amountFigure(charge.part, currency) });
    return { title, steps, result };
  }
  const steps: Step[] = [];
  if (line.price !== null) {
    steps.push({
      label: `${line.quantity} ${line.unit || 'pieces'} at ${line.price} ${cost.currency}`,
      remark: cost.supplier || undefined,
    } as Step);
  }
  const own = bareAmount(charge.part, cost.currency);
  steps.push({
    label: 'Cost',
    figure: textFigure(`${own} ${cost.currency}`),
    remark: [cost.supplier, showDayShort(cost.day), cost.taxReclaimed ? 'without tax' : 'with tax']
      .filter(Boolean)
      .join(', '),
  });
  if (charge.costAmount === null) {
    return { title, steps: [...steps, { label: 'No exchange rate', remark: charge.fault! }], result };
  }
  if (cost.currency !== currency)
    steps.push({ label: `In ${currency}`, figure: amountFigure(charge.costAmount, currency) });
  const from = charge.markupId === null ? undefined : pricer.markup.get(charge.markupId);
  steps.push({
    label: 'Markup',
    figure: textFigure(showMarkup(charge.markup!)),
    remark: from
      ? `${charge.costType}, ${placeOf(pricer, from)}, from ${showDayShort(from.from)}`
      : 'for this invoice, or none agreed',
  });
  if (pricer.estimateOver(line.projectId, line.costCodeId))
    steps.push(estimateStep(pricer, line.projectId, line.costCodeId));
  return {
    title,
    steps,
    result: { label: 'Price', figure: amountFigure(marked(pricer, charge.costAmount, charge.markup!), currency) },
  };
}

function placeOf(
  pricer: Pricer,
  row: { projectId: string | null; contractId: string | null; clientId: string | null },
): string {
  if (row.projectId !== null) return projectName(pricer, row.projectId);
  if (row.contractId !== null) return `${pricer.contract.get(row.contractId)?.name} contract`;
  if (row.clientId !== null) return `${pricer.client.get(row.clientId)?.name}`;
  return pricer.book.workspace.name;
}

/** Cost with markup by another route than the calculation takes: the markup apart, as one fraction over the whole. */
function marked(pricer: Pricer, cost: Minor, markup: string): Minor {
  const whole = 100n * BigInt(SCALE);
  return divideRounded(
    BigInt(cost) * whole + BigInt(cost) * BigInt(toScaled(markup)),
    whole,
    pricer.book.workspace.amountRounding,
  );
}

/** A draft line: all it holds, the price or markup, the product. */
export function explainLine(pricer: Pricer, line: DraftLine, currency: CurrencyCode): Working {
  const steps: Step[] = [...listedTime(pricer, line), ...listedCharges(line, currency)];
  let minor = 0;
  if (line.byHand) {
    steps.push({
      label: `${line.quantity} ${line.unitName} × ${line.unitPrice}`.replace('  ', ' '),
      remark: 'written by hand',
    });
    const per = BigInt(SCALE) * BigInt(SCALE);
    const exact = BigInt(toScaled(line.quantity)) * BigInt(toScaled(line.unitPrice)) * BigInt(minorPerMajor(currency));
    minor = divideRounded(exact, per, pricer.book.workspace.amountRounding);
  } else if (line.key.startsWith('deal ') && !line.price) {
    steps.push({ label: 'Agreed for these hours', figure: amountFigure(line.gross, currency), ruled: true });
    minor = line.gross;
  } else if (line.price) {
    if (line.key.startsWith('deal ')) steps.push({ label: 'Agreed for these hours', remark: 'whatever their rates' });
    else steps.push(...rateSteps(pricer, line.sources[0]!.entry, line.price));
    if (line.price.costPrice !== null && line.cost !== null)
      steps.push({
        label: 'Cost of these hours',
        figure: amountFigure(line.cost, currency),
        remark:
          'For information. The markup is on the cost of an hour, so this amount with the markup may come to a penny more or less than the line.',
      });
    steps.push({ ...timesStep(line.billed, line.price), ruled: true });
    minor = byLongDivision(line.billed, line.price, pricer);
  } else {
    const hours = line.sources.reduce((sum, each) => sum + byLongDivision(each.billed, each.price!, pricer), 0);
    if (line.sources.length > 0)
      steps.push({ label: 'Hours, each at its rate', figure: amountFigure(hours, currency) });
    minor = hours + chargesOf(pricer, line, steps, currency);
  }
  if (line.discount !== null) {
    const off = line.gross - line.amount;
    steps.push({ label: `Less ${line.discount} %`, figure: amountFigure(-off, currency), ruled: true });
    minor -= off;
  }
  return { title: line.text, steps, result: { label: 'Line', figure: amountFigure(minor, currency) } };
}

function chargesOf(pricer: Pricer, line: DraftLine, steps: Step[], currency: CurrencyCode): Minor {
  if (line.charges.length === 0) return 0;
  const markups = new Set(line.charges.map((charge) => charge.markup));
  const [only = null] = markups;
  if (markups.size > 1 || only === null) {
    const sum = line.charges.reduce((total, charge) => total + charge.amount, 0);
    steps.push({
      label: only === null && markups.size === 1 ? 'As agreed' : 'Costs, each with its markup',
      figure: amountFigure(sum, currency),
    });
    return sum;
  }
  const cost = line.charges.reduce((sum, charge) => sum + charge.costAmount!, 0);
  steps.push({ label: 'Cost', figure: amountFigure(cost, currency), ruled: true });
  steps.push({ label: 'Markup', figure: textFigure(showMarkup(only)) });
  return marked(pricer, cost, only);
}

const MOST_LISTED = 200;

function listedTime(pricer: Pricer, line: DraftLine): Step[] {
  if (line.sources.length === 0) return [];
  const shown = line.sources.length > MOST_LISTED + 1 ? line.sources.slice(0, MOST_LISTED) : line.sources;
  const rest = line.sources.slice(shown.length);
  const steps: Step[] = shown.map(({ entry, billed }) => ({
    label: `${showDayShort(entry.day)} ${pricer.member.get(entry.memberId)?.name ?? ''}`.trim(),
    figure: lengthFigure(billed),
  }));
  const sum = rest.reduce((total, each) => total + each.billed, 0);
  if (rest.length > 0) steps.push({ label: `and ${rest.length} more`, figure: lengthFigure(sum) });
  const policies = [...new Set(line.sources.map(({ entry }) => showPolicy(pricer.policyOf(entry.projectId))))].join(
    '; ',
  );
  const billed = line.sources.reduce((total, source) => total + source.billed, 0);
  steps.push({ label: 'Recorded', figure: lengthFigure(line.seconds), ruled: true });
  steps.push({ label: 'Rounded', figure: lengthFigure(billed), remark: policies });
  return steps;
}

function listedCharges({ charges }: DraftLine, currency: CurrencyCode): Step[] {
  const shown = charges.length > MOST_LISTED + 1 ? charges.slice(0, MOST_LISTED) : charges;
  const rest = charges.slice(shown.length);
  const worth = (charge: Charge) => charge.costAmount ?? charge.amount;
  const steps: Step[] = shown.map((charge) => ({
    label: [charge.day && showDayShort(charge.day), chargeText(charge)].filter(Boolean).join(' '),
    figure: amountFigure(worth(charge), currency),
  }));
  const sum = rest.reduce((total, charge) => total + worth(charge), 0);
  if (rest.length > 0) steps.push({ label: `and ${rest.length} more`, figure: amountFigure(sum, currency) });
  return steps;
}

/** A draft's total from its lines, discount, taxes and deductions. */
export function explainDraft(pricer: Pricer, draft: Draft, inclusive: boolean, title: string): Working {
  return explainTotals(title, {
    lines: draft.lines,
    allowance: draft.totals.allowance,
    rounding: draft.totals.rounding,
    taxes: draft.totals.taxes.map((part) => ({ ...part.tax, basis: part.basis, amount: part.amount })),
    deductions: draft.deductions,
    currency: draft.currency,
    method: pricer.book.workspace.taxMethod,
    inclusive,
  });
}

/** An issued invoice's total from what is frozen in it. */
export const explainFrozen = (frozen: FrozenInvoice): Working =>
  explainTotals(frozen.number, {
    lines: frozen.lines,
    allowance: frozen.allowance?.amount ?? 0,
    rounding: frozen.rounding,
    taxes: frozen.taxes,
    deductions: frozen.deductions,
    currency: frozen.currency,
    method: frozen.taxMethod,
    inclusive: frozen.inclusive,
  });

interface Totalled {
  lines: readonly { amount: Minor }[];
  allowance: Minor;
  rounding: Minor;
  taxes: readonly { name: string; percent: string; basis: Minor; amount: Minor }[];
  deductions: readonly { text: string; amount: Minor }[];
  currency: CurrencyCode;
  method: FrozenInvoice['taxMethod'];
  inclusive: boolean;
}

function explainTotals(title: string, of: Totalled): Working {
  const { lines, taxes, currency } = of;
  const net = lines.reduce((sum, line) => sum + line.amount, 0);
  const steps: Step[] = [
    {
      label: `${lines.length} ${lines.length === 1 ? 'line' : 'lines'}, ${of.inclusive ? 'with tax' : 'net'}`,
      figure: amountFigure(net, currency),
    },
  ];
  if (of.allowance !== 0) steps.push({ label: 'Discount', figure: amountFigure(-of.allowance, currency) });
  const how = of.method === 'invoice' ? 'rounded once' : 'rounded line by line';
  for (const tax of taxes) {
    steps.push({
      label: `${of.inclusive ? 'of that ' : ''}${tax.name} ${tax.percent} %`,
      figure: amountFigure(tax.amount, currency),
      remark: `on ${bareAmount(tax.basis, currency)}, ${how}`,
    });
  }
  if (of.rounding !== 0) {
    steps.push({
      label: 'Rounding',
      figure: amountFigure(of.rounding, currency),
      remark: 'between net + tax and the prices that include tax',
    });
  }
  let left = net - of.allowance + (of.inclusive ? 0 : taxes.reduce((sum, tax) => sum + tax.amount, 0));
  if (of.deductions.length === 0)
    return { title, steps, result: { label: 'Total', figure: amountFigure(left, currency) } };
  steps.push({ label: 'Total', figure: amountFigure(left, currency), ruled: true });
  for (const each of of.deductions) {
    steps.push({ label: each.text, figure: amountFigure(-each.amount, currency) });
    left -= each.amount;
  }
  return { title, steps, result: { label: 'To pay', figure: amountFigure(left, currency) } };
}

/** A source's part of an issued line: the line's amount shared over what stands on it, as it was frozen. */
export function explainShare(frozen: FrozenInvoice, allocation: Allocation, among: number): Working {
  const line = frozen.lines.find((each) => each.key === allocation.line)!;
  const { unit } = line;
  const timed = unit !== 'lump' && unit !== 'piece';
  const first: Step = timed
    ? {
        label: 'Line',
        figure: lengthFigure(line.seconds),
        remark: `at ${showPrice({ price: line.price, unit, currency: frozen.currency })}, as issued`,
      }
    : { label: 'Line', remark: 'one sum, as issued' };
  const own: Step =
    allocation.entryId === null
      ? { label: 'Its part', remark: shared(among, 'sources', 'what each is worth') }
      : {
          label: 'This entry, recorded',
          figure: lengthFigure(allocation.seconds),
          remark: shared(among, 'entries', timed ? 'billed length' : 'what each is worth'),
        };
  return {
    title: line.text,
    steps: [
      first,
      { label: 'Amount of the line', figure: amountFigure(line.amount, frozen.currency), ruled: true },
      own,
    ],
    result: { label: 'Its share', figure: amountFigure(allocation.amount ?? 0, frozen.currency) },
  };
}

const shared = (among: number, what: string, by: string): string =>
  among === 1
    ? 'all of the line'
    : `shared over ${among} ${what} by ${by}, left-over pennies to the largest remainders`;

const paymentWords: Record<Payment['kind'], readonly [title: string, recorded: string, result: string]> = {
  payment: ['Payment', 'Recorded as paid', 'Paid'],
  'write-off': ['Written off', 'Written off', 'Given up'],
  refund: ['Paid back', 'Recorded as paid back', 'Paid back'],
};

/** A payment as it was recorded. */
export const explainPayment = (payment: Payment): Working => ({
  title: payment.note.trim() || paymentWords[payment.kind][0],
  steps: [{ label: paymentWords[payment.kind][1], figure: textFigure(showDayShort(payment.day)) }],
  result: {
    label: paymentWords[payment.kind][2],
    figure: amountFigure(payment.amount, payment.currency),
  },
});

/** What is still owed on an issued invoice. */
export function explainOwed(owing: InvoiceBalance): Working {
  const { invoice, payments, credits } = owing;
  const frozen = invoice.frozen!;
  const amount = (minor: Minor) => amountFigure(minor, frozen.currency);
  const steps: Step[] = [{ label: `${frozen.number}, to pay`, figure: amount(frozen.payable) }];
  const released = releasedOn(owing);
  if (released !== 0) steps.push({ label: 'Retention, due now', figure: amount(released) });
  for (const note of credits)
    steps.push({ label: `Credited, ${note.frozen!.number}`, figure: amount(note.frozen!.payable) });
  for (const payment of payments) {
    const label = `${paymentWords[payment.kind][2]} ${showDayShort(payment.day)}`;
    steps.push({ label, figure: amount(payment.kind === 'refund' ? payment.amount : -payment.amount) });
  }
  const left = owedOn(owing);
  return {
    title: `Owed on ${frozen.number}`,
    steps,
    result: { label: left < 0 ? 'Overpaid' : 'Still owed', figure: amount(left) },
  };
}
