import type { Pricer } from '../billing/pricer';
import type { Id } from '../model/ids';
import type { CostCode } from '../model/records';

/** Cost codes for a cost, and those that its project or client does not have, with the reason. */
export interface Headings {
  offered: CostCode[];
  hidden: { costCode: CostCode; why: string }[];
}

/** Which headings a cost on a project can fall under: the project's list, that of one around it, or the client's; never labour. */
export function headingsFor(pricer: Pricer, projectId: Id | null): Headings {
  const inOrder = (a: CostCode, b: CostCode) => a.code.localeCompare(b.code, 'en', { numeric: true });
  const costs = pricer.book.costCodes.filter((code) => code.costType !== 'labour').toSorted(inOrder);
  const around = projectId === null ? [] : pricer.tree.upFrom(projectId);
  const owner = around.find((project) => project.costCodeIds !== null);
  const client = pricer.clientOf(projectId);
  const list = owner?.costCodeIds ?? client?.costCodeIds ?? null;
  if (list === null) return { offered: costs, hidden: [] };
  const allowed = new Set(list);
  const why = `not for ${owner?.name ?? client!.name}`;
  return {
    offered: costs.filter((code) => allowed.has(code.id)),
    hidden: costs.filter((code) => !allowed.has(code.id)).map((costCode) => ({ costCode, why })),
  };
}
