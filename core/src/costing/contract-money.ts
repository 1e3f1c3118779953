import { Charges } from '../billing/charges';
import type { Pricer } from '../billing/pricer';
import { sourceId } from '../billing/sources';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Project } from '../model/records';
import type { Minor } from '../money/amount';
import { sumExact } from '../money/rational';
import type { Seconds } from '../time/length';
import type { ProjectMoneyRows } from './project-money';
import { tallyEntries } from './tally';

/** What work under a contract came to so far, in the client's currency and before tax. */
export interface ContractSums {
  /** Worked. */
  seconds: Seconds;
  /** What the billable part of the hours is worth at its rates. */
  worth: Minor;
  /** On issued invoices, after discounts and credits: what a cap counts. */
  invoiced: Minor;
  paid: Minor;
  /** Hours, costs and agreed amounts that are on no issued invoice. */
  toBill: Minor;
}

/** A contract over all its projects as one. */
export interface ContractMoney {
  projects: { project: Project; sums: ContractSums }[];
  sum: ContractSums;
  /** What may still be invoiced; null where there is no cap, negative where it was set below what is invoiced. */
  left: Minor | null;
}

const none: ContractSums = { seconds: 0, worth: 0, invoiced: 0, paid: 0, toBill: 0 };

/**
 * What stands under a contract, project by project and as one. A project counts where {@link WorkTree.contractOf} puts it: its own contract,
 * or that of the nearest project around it.
 *
 * @param rows of at least every project under it; what others hold is left out
 * @throws Fault when there is no such contract
 */
export function contractMoney(
  pricer: Pricer,
  contractId: Id,
  rows: Pick<ProjectMoneyRows, 'entries' | 'costs' | 'costLines' | 'agreed' | 'milestones' | 'takings' | 'parts'>,
): ContractMoney {
  const contract = pricer.contract.get(contractId);
  if (!contract) throw new Fault('unknown', 'There is no such contract.', 'contractId');
  const byProject = new Map(pricer.tree.under(contractId).map((id) => [id, { ...none }]));
  const projectOf = new Map<Id, Id>();
  for (const row of [...rows.entries, ...rows.costLines, ...rows.agreed]) {
    if (row.projectId !== null && byProject.has(row.projectId)) projectOf.set(row.id, row.projectId);
  }
  const sumsOf = (source: Id): ContractSums | undefined => byProject.get(projectOf.get(source) ?? '');
  // What stands on a draft is still to bill here.
  const settled = rows.takings.filter((taking) => taking.amount !== null);
  const under = rows.entries.filter((entry) => projectOf.has(entry.id));
  for (const { entry, tally } of tallyEntries(pricer, under, settled)) {
    const sums = sumsOf(entry.id)!;
    sums.seconds += tally.seconds;
    sums.worth += tally.worth;
    sums.toBill += tally.toBill;
  }
  for (const charge of new Charges(pricer, rows).toBill(settled)) {
    const sums = byProject.get(charge.projectId);
    if (sums) sums.toBill += charge.amount;
  }
  for (const taking of settled) {
    const sums = sumsOf(sourceId(taking));
    if (!sums || taking.amount === undefined || taking.amount === null) continue;
    const part = rows.parts.get((taking as { id?: Id }).id ?? '');
    sums.invoiced += part?.net ?? taking.amount;
    sums.paid += part?.paid ?? 0;
  }
  const projects = [...byProject]
    .map(([id, sums]) => ({ project: pricer.project.get(id)!, sums }))
    .sort((a, b) => pricer.tree.pathOf(a.project.id).localeCompare(pricer.tree.pathOf(b.project.id)));
  const total = (of: (sums: ContractSums) => number) => sumExact(projects.map((row) => of(row.sums)));
  const sum: ContractSums = {
    seconds: total((row) => row.seconds),
    worth: total((row) => row.worth),
    invoiced: total((row) => row.invoiced),
    paid: total((row) => row.paid),
    toBill: total((row) => row.toBill),
  };
  return { projects, sum, left: contract.cap === null ? null : contract.cap - sum.invoiced };
}
