import type { Pricer } from '@half-penny/core/billing';
import type { Id, Project } from '@half-penny/core/model';
import {
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragMoveEvent,
} from '@dnd-kit/core';
import { GripVertical } from 'lucide-react';
import { createContext, useContext, useState, type ReactNode } from 'react';
import { dragSpeech } from '../../parts/drag-speech';
import { destinationOf, type Destination } from './project-tree';

/** How far to the right a row is dragged to become a part of the one it is dropped on. */
const INTO_FROM = 28;

interface Over {
  id: Id;
  where: 'before' | 'after' | 'into';
}
const OverContext = createContext<Over | null>(null);

/** Lets the rows of a tree be dragged before or after one another, and into one another when dragged towards the right. */
export function DragRows({
  pricer,
  onMove,
  children,
}: {
  pricer: Pricer;
  onMove: (id: Id, destination: Destination | null) => void;
  children: ReactNode;
}) {
  const [over, setOver] = useState<Over | null>(null);
  // A press is no drag: a few pixels tell them apart.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const end = (event: DragEndEvent) => {
    const target = overOf(event);
    setOver(null);
    const project = target && pricer.project.get(target.id);
    if (target && project) onMove(event.active.id as Id, destinationOf(pricer, project, target.where));
  };
  return (
    <DndContext
      sensors={sensors}
      accessibility={{ announcements: dragSpeech((id) => pricer.project.get(id)?.name ?? 'a project') }}
      onDragMove={(event) => setOver(overOf(event))}
      onDragEnd={end}
      onDragCancel={() => setOver(null)}
    >
      <OverContext value={over}>{children}</OverContext>
    </DndContext>
  );
}

function overOf({ active, over, delta }: DragMoveEvent | DragEndEvent): Over | null {
  if (!over || over.id === active.id) return null;
  if (delta.x >= INTO_FROM) return { id: over.id as Id, where: 'into' };
  const dragged = active.rect.current.translated;
  const middle = over.rect.top + over.rect.height / 2;
  return { id: over.id as Id, where: dragged && dragged.top + dragged.height / 2 > middle ? 'after' : 'before' };
}

/** What a row is dragged by. Its keyboard counterpart is Alt and the arrows on the row. */
export function Handle({ project }: { project: Project }) {
  const over = useContext(OverContext);
  const { setNodeRef: dragRef, listeners, isDragging } = useDraggable({ id: project.id });
  const { setNodeRef: dropRef } = useDroppable({ id: project.id });
  const here = over?.id === project.id ? over.where : null;
  return (
    <>
      <span ref={dropRef} aria-hidden className="pointer-events-none absolute inset-0">
        {here && <span className={`absolute inset-x-0 ${MARK[here]}`} />}
      </span>
      <span
        ref={dragRef}
        {...listeners}
        aria-hidden
        title="Drag to move"
        className={`relative max-md:hidden cursor-grab touch-none mt-[3px] text-soft opacity-40 group-hover:opacity-100 ${isDragging ? 'cursor-grabbing text-time opacity-100' : ''}`}
      >
        <GripVertical size={14} />
      </span>
    </>
  );
}

const MARK = {
  before: 'top-0 border-t-2 border-time',
  after: 'bottom-0 border-b-2 border-time',
  into: 'inset-y-0 ml-6 border-2 border-time',
};
