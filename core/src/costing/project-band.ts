import type { Minor } from '../money/amount';
import type { Id } from '../model/ids';
import type { HeadingMoney } from './project-money';

/** A sum and what each heading adds to it. */
export interface HeadingSum {
  amount: Minor;
  by: { costCodeId: Id | null; amount: Minor }[];
}

/**
 * A project's money as three bars over one scale: what was agreed, what it costs, what was asked for. In minor units of
 * the client's currency and before tax.
 */
export interface ProjectBand {
  agreed: HeadingSum;
  worked: HeadingSum;
  bought: HeadingSum;
  /** Ordered and not billed by the supplier yet. */
  ordered: HeadingSum;
  /** What it will have cost in the end, heading by heading. */
  expected: HeadingSum;
  invoiced: HeadingSum;
  /** Of what was invoiced. */
  paid: Minor;
  toBill: HeadingSum;
  /** The length of the whole scale. */
  widest: Minor;
}

/** The bars of a project, of its money by heading. */
export function bandOf(headings: readonly HeadingMoney[]): ProjectBand {
  const sum = (of: (heading: HeadingMoney) => Minor): HeadingSum => {
    const by = headings.map((heading) => ({ costCodeId: heading.costCodeId, amount: of(heading) }));
    return { amount: by.reduce((all, { amount }) => all + amount, 0), by: by.filter(({ amount }) => amount !== 0) };
  };
  const band = {
    agreed: sum(({ agreed }) => agreed.estimate.amount + agreed.allowances.amount + agreed.extras.amount),
    worked: sum(({ happened }) => happened.worked.amount),
    bought: sum(({ happened }) => happened.spent.amount),
    ordered: sum(({ happened }) => happened.committed.amount),
    expected: sum(({ forecastCost }) => forecastCost),
    invoiced: sum(({ asked }) => asked.invoiced.amount),
    paid: headings.reduce((all, { asked }) => all + asked.paid, 0),
    toBill: sum(({ asked }) => asked.toBill.amount),
  };
  const cost = band.worked.amount + band.bought.amount + band.ordered.amount;
  const billed = band.invoiced.amount + band.toBill.amount;
  return { ...band, widest: Math.max(0, band.agreed.amount, cost, band.expected.amount, billed) };
}

/** How much of the scale an amount takes, 0 to 1; nothing of a refund, and nothing where there is no scale. */
export const shareOfBand = (amount: Minor, { widest }: Pick<ProjectBand, 'widest'>): number =>
  widest <= 0 ? 0 : Math.min(1, Math.max(0, amount) / widest);
