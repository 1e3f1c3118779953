import { invoicedParts, type Pricer } from '@half-penny/core/billing';
import { projectMoney, type HeadingMoney, type ProjectMoneyRows } from '@half-penny/core/costing';
import type { Reader } from '@half-penny/core/engine';
import type { Allocation, Id, Project } from '@half-penny/core/model';
import { useMemo } from 'react';
import { readChargeRows } from './billing';
import { useRead } from './read';
import type { WorkRows } from './work';

/** What a project's money is made of, and its money by heading, with all its parts. */
export interface ProjectMoneyRead {
  rows: ProjectMoneyRows;
  headings: HeadingMoney[];
}

/**
 * A project's money; undefined while it is read, and of a project without a client.
 *
 * @param work what was recorded on the project and its parts
 */
export function useProjectMoney(
  pricer: Pricer,
  project: Project,
  work: WorkRows | undefined,
): ProjectMoneyRead | undefined {
  const hasClient = pricer.clientOf(project.id) !== undefined;
  const rows = useRead(
    (reader) => (hasClient && work ? readProjectMoney(reader, pricer, project.id, work) : undefined),
    [hasClient, work, pricer, project.id],
  );
  return useMemo(() => rows && { rows, headings: projectMoney(pricer, project.id, rows) }, [pricer, project.id, rows]);
}

/** @param work what was recorded on the project and its parts */
export async function readProjectMoney(
  reader: Reader,
  pricer: Pricer,
  projectId: Id,
  work: Pick<WorkRows, 'entries' | 'allocations'>,
): Promise<ProjectMoneyRows> {
  const projectIds = pricer.tree.downFrom(projectId).map((each) => each.id);
  const { rows: charges, takings } = await readChargeRows(reader, projectIds);
  const orders = await reader.by('orders', 'projectId', projectIds);
  const all = [...work.allocations, ...takings];
  // An invoice is shared out over everything that stands on it, of whatever project.
  const invoiceIds = [...new Set(all.flatMap((row) => ('invoiceId' in row ? (row as Allocation).invoiceId : [])))];
  const [invoices, payments, onThem] = await Promise.all([
    reader.many('invoices', invoiceIds),
    reader.by('payments', 'invoiceId', invoiceIds),
    reader.by('allocations', 'invoiceId', invoiceIds),
  ]);
  const parts = invoicedParts(
    invoices.filter((row) => row !== undefined),
    payments,
    onThem,
  );
  return { ...charges, orders, entries: work.entries, takings: all, parts };
}
