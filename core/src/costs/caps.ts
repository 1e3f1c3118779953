import type { Draft } from '../billing/draft';
import { projectName, type Pricer } from '../billing/pricer';
import { Fault } from '../model/fault';
import type { Id } from '../model/ids';
import type { Allocation, Budget, Entry } from '../model/records';
import { showAmount, type Minor } from '../money/amount';
import { shareOfSources } from '../billing/draft';
import { fallsUnder, projectsUnder } from './budget';

/** A most that may be invoiced: of a contract, or of a budget that is a cap. */
export interface Cap {
  name: string;
  cap: Minor;
  covers: (entry: Entry) => boolean;
  /** The projects whose entries it can cover. */
  projectIds: readonly Id[];
}

/** Every cap that something on a draft falls under. */
export function capsOf(pricer: Pricer, budgets: readonly Budget[], entries: readonly Entry[]): Cap[] {
  const ofBudgets = budgets
    .filter((budget) => budget.cap && budget.money !== null)
    .filter((budget) => entries.some((entry) => fallsUnder(pricer, budget, entry)))
    .map((budget) => ({
      name: nameOf(pricer, budget),
      cap: budget.money!,
      covers: (entry: Entry) => fallsUnder(pricer, budget, entry),
      projectIds: projectsUnder(pricer, budget),
    }));
  const contractOf = (entry: Entry) => (entry.projectId === null ? null : pricer.tree.contractOf(entry.projectId));
  const ofContracts = pricer.book.contracts
    .filter((contract) => contract.cap !== null && entries.some((entry) => contractOf(entry) === contract.id))
    .map((contract) => ({
      name: contract.name,
      cap: contract.cap!,
      covers: (entry: Entry) => contractOf(entry) === contract.id,
      projectIds: pricer.tree.under(contract.id),
    }));
  return [...ofContracts, ...ofBudgets];
}

/** What a budget is for, in words. */
export function nameOf(pricer: Pricer, budget: Budget): string {
  const code = budget.costCodeId === null ? '' : `, ${pricer.costCode.get(budget.costCodeId)?.name}`;
  if (budget.taskId !== null) return `${pricer.task.get(budget.taskId)?.name}${code}`;
  if (budget.contractId !== null) return `${pricer.contract.get(budget.contractId)?.name}${code}`;
  return `${projectName(pricer, budget.projectId!)}${code}`;
}

/**
 * Refuses a draft that would take what is invoiced past a cap.
 *
 * @param invoiced what stands on issued invoices of the covered projects
 * @throws Fault that names the cap, what is invoiced, and by how much it would be passed
 */
export function refusePastCap(
  cap: Cap,
  draft: Draft,
  invoiced: { entries: readonly Entry[]; allocations: readonly Allocation[] },
): void {
  const covered = new Set(invoiced.entries.filter(cap.covers).map((entry) => entry.id));
  const before = invoiced.allocations
    .filter((each) => each.amount !== null && covered.has(each.entryId))
    .reduce((sum, each) => sum + each.amount!, 0);
  let now = 0;
  for (const line of draft.lines) {
    const shares = shareOfSources(line);
    line.sources.forEach((source, index) => {
      if (cap.covers(source.entry)) now += shares[index]!;
    });
  }
  const over = before + now - cap.cap;
  if (over <= 0) return;
  const money = (minor: Minor) => showAmount(minor, draft.currency);
  throw new Fault(
    `${cap.name} is capped at ${money(cap.cap)} and ${money(before)} of it is invoiced; this draft of ${money(now)} would pass it by ` +
      `${money(over)}. Take entries off, or agree on another cap.`,
    'lines',
    { cap: cap.cap, invoiced: before, over },
  );
}
