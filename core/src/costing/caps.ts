import type { Draft } from '../billing/draft';
import { shareOfSources } from '../billing/draft-prices';
import { lineNets } from '../billing/paid';
import type { Pricer } from '../billing/pricer';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Budget } from '../model/records';
import { showAmount, type Minor } from '../money/amount';
import { sumExact } from '../money/rational';
import { shareSigned } from '../money/share';
import { fallsUnder, nameOf, projectsUnder, type Covered } from './budget';

/** A most that may be invoiced: of a contract, or of a budget that is a cap. */
export interface Cap {
  name: string;
  cap: Minor;
  covers: (source: Covered) => boolean;
  /** The projects whose sources it can cover. */
  projectIds: readonly Id[];
}

export interface SourceShare {
  source: Covered;
  share: Minor;
}

/** What stands on a draft, with its share of what its line earns: before tax, and after the discount on the whole. */
export function sharesOf(pricer: Pricer, draft: Draft): SourceShare[] {
  const { total, tax, taxes } = draft.totals;
  const bases = taxes.map((part) => ({ id: part.tax.id, basis: part.basis }));
  const nets = lineNets({ lines: draft.lines, taxes: bases, total, tax });
  return draft.lines.flatMap((line, place) => {
    const own = shareOfSources(pricer, line);
    const shares = nets[place] === line.amount || sumExact(own) === 0 ? own : shareSigned(nets[place]!, own);
    const sources: Covered[] = [
      ...line.sources.map(({ entry }) => entry),
      ...line.charges.map(({ projectId, costCodeId }) => ({ projectId, taskId: null, serviceId: null, costCodeId })),
    ];
    return sources.map((source, index) => ({ source, share: shares[index]! }));
  });
}

/** Every cap that something on a draft falls under. */
export function capsOf(pricer: Pricer, budgets: readonly Budget[], sources: readonly Covered[]): Cap[] {
  const ofBudgets = budgets
    .filter((budget) => budget.cap && budget.money !== null)
    .filter((budget) => sources.some((source) => fallsUnder(pricer, budget, source)))
    .map((budget) => ({
      name: nameOf(pricer, budget),
      cap: budget.money!,
      covers: (source: Covered) => fallsUnder(pricer, budget, source),
      projectIds: projectsUnder(pricer, budget),
    }));
  const contractOf = ({ projectId }: Covered) => (projectId === null ? null : pricer.tree.contractOf(projectId));
  const ofContracts = pricer.book.contracts
    .filter((contract) => contract.cap !== null && sources.some((source) => contractOf(source) === contract.id))
    .map((contract) => ({
      name: contract.name,
      cap: contract.cap!,
      covers: (source: Covered) => contractOf(source) === contract.id,
      projectIds: pricer.tree.under(contract.id),
    }));
  return [...ofContracts, ...ofBudgets];
}

/**
 * Refuses a draft that would take what is invoiced past a cap.
 *
 * @param shares what stands on the draft
 * @param before what stands of the covered sources on issued invoices
 * @throws Fault that names the cap, what is invoiced, and by how much it would be passed
 */
export function refusePastCap(cap: Cap, draft: Draft, shares: readonly SourceShare[], before: Minor): void {
  const now = shares.reduce((sum, { source, share }) => (cap.covers(source) ? sum + share : sum), 0);
  const over = before + now - cap.cap;
  if (over <= 0) return;
  const money = (minor: Minor) => showAmount(minor, draft.currency);
  throw new Fault(
    'over-the-cap',
    `${cap.name} is capped at ${money(cap.cap)} and ${money(before)} is invoiced; this draft of ${money(now)} would exceed it by ` +
      `${money(over)}. Take entries off, or agree on another cap.`,
    'lines',
    { cap: cap.cap, invoiced: before, over },
  );
}
