import type { Id } from '../model/ids';
import type { FrozenInvoice, FrozenLine } from '../model/records';
import type { Minor } from '../money/amount';
import { minorPerMajor, type CurrencyCode } from '../money/currency';
import { fromScaled, SCALE, toScaled, type Decimal } from '../money/decimal';
import { unitSeconds } from '../money/price';
import { divideRounded, lessExact } from '../money/rational';
import { invoiceItems, type InvoiceItem, type InvoiceMakings } from './invoice-items';
import type { Pricer } from './pricer';

/** How a line of a billing by task is of work, of a cost, or of the invoice as a whole. */
export type TaskLineKind = 'fee' | 'expense' | 'invoice adjustment';

/** One line of a billing by task and activity, as the billing systems of large clients read it. */
export interface TaskLine {
  kind: TaskLineKind;
  day: string;
  /** Hours, or pieces. */
  units: Decimal;
  /** Of one unit. */
  unitCost: Minor;
  /** What units × unitCost lacks to the amount: rounding and discounts. */
  adjustment: Minor;
  amount: Minor;
  projectId: Id | null;
  memberId: Id | null;
  /** The code of the budget heading that the work falls under. */
  taskCode: string;
  /** The code of the kind of work, else of the service. */
  activityCode: string;
  /** The code of the heading that a cost falls under. */
  expenseCode: string;
  text: string;
}

const HALF = 'half away from zero';

/**
 * An issued invoice as lines of entries and costs, each with its share; what was written by hand follows, and a discount on the whole comes
 * last. The amounts sum to its net less that discount.
 */
export function taskLines(pricer: Pricer, makings: InvoiceMakings, frozen: FrozenInvoice): TaskLine[] {
  const items = invoiceItems(pricer, makings);
  const lineOf = new Map(frozen.lines.map((line) => [line.key, line]));
  const made = new Set(items.map((item) => item.allocation.line));
  const lines = items.map((item) => ofItem(pricer, frozen, item, lineOf.get(item.allocation.line)));
  const byHand = frozen.lines.filter((line) => !made.has(line.key)).map((line) => ofLine(frozen, line));
  const { allowance } = frozen;
  return [
    ...lines,
    ...byHand,
    ...(allowance && allowance.amount !== 0
      ? [line({ kind: 'invoice adjustment', day: frozen.day, text: allowance.text }, lessExact(0, allowance.amount))]
      : []),
  ];
}

const line = (own: Pick<TaskLine, 'kind' | 'day' | 'text'> & Partial<TaskLine>, amount: Minor): TaskLine => ({
  units: '1',
  unitCost: own.kind === 'invoice adjustment' ? 0 : amount,
  adjustment: own.kind === 'invoice adjustment' ? amount : 0,
  amount,
  projectId: null,
  memberId: null,
  taskCode: '',
  activityCode: '',
  expenseCode: '',
  ...own,
});

function ofItem(
  pricer: Pricer,
  frozen: FrozenInvoice,
  { allocation, day, text, entry, charge }: InvoiceItem,
  on: FrozenLine | undefined,
): TaskLine {
  const amount = allocation.amount ?? 0;
  const codeOf = (id: Id | null | undefined) => pricer.costCode.get(id ?? '')?.code ?? '';
  if (!entry) {
    const own = { kind: 'expense' as const, day: day || frozen.day, text, projectId: charge?.projectId ?? null };
    return line({ ...own, expenseCode: codeOf(charge?.costCodeId) }, amount);
  }
  const service = pricer.service.get(entry.serviceId ?? '');
  const own = {
    kind: 'fee' as const,
    day,
    text: text || on?.text || '',
    projectId: entry.projectId,
    memberId: entry.memberId,
    taskCode: codeOf(service?.costCodeId),
    activityCode: pricer.kindOfWork.get(entry.kindOfWorkId ?? '')?.code || (service?.code ?? ''),
  };
  return line({ ...own, ...hoursAt(frozen, allocation.billed ?? allocation.seconds, amount, on) }, amount);
}

/** Hours with four places at the line's price of an hour, and what that lacks to the amount. */
function hoursAt(
  frozen: FrozenInvoice,
  seconds: number,
  amount: Minor,
  on: FrozenLine | undefined,
): Pick<TaskLine, 'units' | 'unitCost' | 'adjustment'> {
  const hours = divideRounded(BigInt(seconds) * BigInt(SCALE), 3600, HALF);
  if (!on || on.unit === 'piece' || on.unit === 'lump' || hours === 0)
    return { units: fromScaled(hours), unitCost: 0, adjustment: amount };
  const per = unitSeconds(on.unit, frozen.daySeconds);
  const unitCost = priceIn(frozen.currency, on.price, 3600, per);
  const product = divideRounded(BigInt(hours) * BigInt(unitCost), SCALE, HALF);
  return { units: fromScaled(hours), unitCost, adjustment: lessExact(amount, product) };
}

/** A price in minor units, for so many seconds where it is for `per` of them. */
const priceIn = (currency: CurrencyCode, price: Decimal, seconds: number, per: number): Minor =>
  divideRounded(
    BigInt(toScaled(price)) * BigInt(minorPerMajor(currency)) * BigInt(seconds),
    BigInt(SCALE) * BigInt(per),
    HALF,
  );

/** A line that was written by hand: its quantity at its price. */
function ofLine({ currency, day }: FrozenInvoice, { quantity, price, amount, text, unit }: FrozenLine): TaskLine {
  const own = { kind: 'fee' as const, day, text };
  if (unit === 'lump') return line(own, amount);
  const unitCost = priceIn(currency, price, 1, 1);
  const product = divideRounded(BigInt(toScaled(quantity)) * BigInt(unitCost), SCALE, HALF);
  return line({ ...own, units: quantity, unitCost, adjustment: lessExact(amount, product) }, amount);
}
