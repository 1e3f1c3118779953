import type { Pricer } from '@half-penny/core/billing';
import type { Id, Project } from '@half-penny/core/model';

/** A project as a row of the tree. */
export interface TreeRow {
  project: Project;
  depth: number;
  /** Whether it has parts, shown or folded. */
  hasParts: boolean;
}

/** The projects below one, or a client's top-level ones, each followed by its parts unless it is folded. */
export function treeRows(
  pricer: Pricer,
  under: { clientId: Id | null; parentId: Id | null },
  folded: ReadonlySet<Id>,
): TreeRow[] {
  const rows: TreeRow[] = [];
  const walk = (parentId: Id | null, depth: number) => {
    for (const project of pricer.tree.partsOf(parentId)) {
      if (depth === 0 && project.clientId !== under.clientId) continue;
      const hasParts = pricer.tree.partsOf(project.id).length > 0;
      rows.push({ project, depth, hasParts });
      if (hasParts && !folded.has(project.id)) walk(project.id, depth + 1);
    }
  };
  walk(under.parentId, 0);
  return rows;
}

/** Where a project goes: what it becomes a part of, and what it stands before there. */
export interface Destination {
  parentId: Id | null;
  before: Id | null;
}

export type Step = 'up' | 'down' | 'in' | 'out';

/** One step in the tree, or null where there is nowhere to go: past a sibling, into the one above, or out of the one around it. */
export function stepOf(pricer: Pricer, project: Project, step: Step, root: Id | null): Destination | null {
  const siblings = pricer.tree.partsOf(project.parentId).filter((each) => each.clientId === project.clientId);
  const at = siblings.findIndex((each) => each.id === project.id);
  switch (step) {
    case 'up':
      return at > 0 ? { parentId: project.parentId, before: siblings[at - 1]!.id } : null;
    case 'down':
      return at < siblings.length - 1 ? { parentId: project.parentId, before: siblings[at + 2]?.id ?? null } : null;
    case 'in':
      return at > 0 ? { parentId: siblings[at - 1]!.id, before: null } : null;
    case 'out': {
      if (project.parentId === root || project.parentId === null) return null;
      const parent = pricer.tree.project.get(project.parentId)!;
      const around = pricer.tree.partsOf(parent.parentId).filter((each) => each.clientId === parent.clientId);
      const after = around[around.findIndex((each) => each.id === parent.id) + 1];
      return { parentId: parent.parentId, before: after?.id ?? null };
    }
  }
}

/** Where a row that is dropped on another goes: before it, after it, or, dropped towards the right, into it. */
export function destinationOf(pricer: Pricer, over: Project, where: 'before' | 'after' | 'into'): Destination {
  if (where === 'into') return { parentId: over.id, before: null };
  if (where === 'before') return { parentId: over.parentId, before: over.id };
  const siblings = pricer.tree.partsOf(over.parentId).filter((each) => each.clientId === over.clientId);
  return {
    parentId: over.parentId,
    before: siblings[siblings.findIndex((each) => each.id === over.id) + 1]?.id ?? null,
  };
}
