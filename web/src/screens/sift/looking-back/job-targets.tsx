import type { Pricer } from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import { useDroppable } from '@dnd-kit/core';
import { Swatch } from '../../../parts/swatch';
import { minutesOf } from '../evidence';

interface JobTargetsProps {
  pricer: Pricer;
  projectIds: readonly Id[];
  /** Milliseconds by project. */
  seen: ReadonlyMap<Id, number>;
  /** Something is being dragged. */
  dragging: boolean;
}

/** Jobs to drop things on; each with its time in what is shown. */
export function JobTargets({ pricer, projectIds, seen, dragging }: JobTargetsProps) {
  if (projectIds.length === 0) return null;
  return (
    <section aria-label="Jobs to drop on" className="max-lg:hidden">
      <h2 className="border-b border-ink pb-1 text-xs text-soft">Drag a row or a hatched piece onto its job</h2>
      <ul>
        {projectIds.map((id) => (
          <Target key={id} {...{ pricer, id, dragging }} seen={seen.get(id) ?? 0} />
        ))}
      </ul>
    </section>
  );
}

function Target({ pricer, id, seen, dragging }: { pricer: Pricer; id: Id; seen: number; dragging: boolean }) {
  const { setNodeRef, isOver } = useDroppable({ id: `job ${id}`, data: { projectId: id } });
  const project = pricer.project.get(id)!;
  return (
    <li
      ref={setNodeRef}
      className={`flex items-baseline gap-2 border-b border-rule px-2 py-2 ${isOver ? 'bg-time-ground outline-2 -outline-offset-2 outline-time' : dragging ? 'bg-side' : ''}`}
    >
      <Swatch colour={project.colour} />
      <span className="written clamp-2 min-w-0 flex-1">{project.name}</span>
      <span className="font-mono text-sm text-time">{seen > 0 ? minutesOf(seen) : ''}</span>
    </li>
  );
}
