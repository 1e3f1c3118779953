import type { Pricer } from '@half-penny/core/billing';
import { projectMoney, type HeadingMoney, type ProjectMoneyRows } from '@half-penny/core/costing';
import type { Project } from '@half-penny/core/model';
import { useMemo } from 'react';
import { useClientMoney } from './billing';
import { useRead } from './read';

/** What a project's money is made of, and its money by heading, with all its parts. */
export interface ProjectMoneyRead {
  rows: ProjectMoneyRows;
  headings: HeadingMoney[];
}

/** A project's money; undefined while it is read, and of a project without a client. */
export function useProjectMoney(pricer: Pricer, project: Project): ProjectMoneyRead | undefined {
  const client = pricer.clientOf(project.id);
  const rows = useClientMoney(pricer, client ? { clientId: client.id } : 'nobody');
  const orders = useRead(
    (reader) =>
      reader.by(
        'orders',
        'projectId',
        pricer.tree.downFrom(project.id).map((each) => each.id),
      ),
    [pricer, project.id],
  );
  return useMemo(() => {
    if (!client || !rows || !orders) return undefined;
    const all = { ...rows, orders };
    return { rows: all, headings: projectMoney(pricer, project.id, all) };
  }, [client, pricer, project.id, rows, orders]);
}
