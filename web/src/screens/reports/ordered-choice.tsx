import {
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { ArrowDown, ArrowUp, GripVertical, X } from 'lucide-react';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { dragSpeech } from '../../parts/drag-speech';
import { inputLook } from '../../parts/field';
import { ariaKey, isKey, runKey } from '../../parts/keys';

interface OrderedChoiceProps<T extends string> {
  label: string;
  chosen: readonly T[];
  offered: readonly T[];
  nameOf: (each: T) => string;
  hintOf?: (each: T) => string;
  /** How many there must be. */
  least: number;
  onChange: (chosen: T[]) => void;
}

/** A few of many, in an order of one's own: dragged, or moved with Alt and the arrows. */
export function OrderedChoice<T extends string>(props: OrderedChoiceProps<T>) {
  const { label, chosen, offered, nameOf, hintOf, least } = props;
  // Keys come faster than the sentence is written again: each builds on the one before.
  const latest = useRef(chosen);
  useEffect(() => {
    latest.current = chosen;
  }, [chosen]);
  const onChange = (next: T[]) => {
    latest.current = next;
    props.onChange(next);
  };
  const [find, setFind] = useState('');
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const move = (from: number, to: number) => {
    if (from < 0 || to < 0 || to >= latest.current.length || from === to) return;
    const next = [...latest.current];
    next.splice(to, 0, ...next.splice(from, 1));
    onChange(next);
  };
  const drop = ({ active, over }: DragEndEvent) =>
    over && move(chosen.indexOf(active.id as T), chosen.indexOf(over.id as T));
  const words = find.trim().toLowerCase();
  const left = offered.filter((each) => !chosen.includes(each) && nameOf(each).toLowerCase().includes(words));
  return (
    <div>
      <DndContext
        sensors={sensors}
        onDragEnd={drop}
        accessibility={{ announcements: dragSpeech((id) => nameOf(id as T)) }}
      >
        <ol aria-label={`${label} chosen`} className="mb-2">
          {chosen.map((each, index) => (
            <ChosenRow
              key={each}
              id={each}
              name={nameOf(each)}
              first={index === 0}
              last={index === chosen.length - 1}
              removable={chosen.length > least}
              onMove={(by) => move(latest.current.indexOf(each), latest.current.indexOf(each) + by)}
              onRemove={() => onChange(chosen.filter((other) => other !== each))}
            />
          ))}
          {chosen.length === 0 && <li className="text-soft">Nothing yet: all in one.</li>}
        </ol>
      </DndContext>
      <input
        aria-label={`Find among ${label.toLowerCase()}`}
        placeholder="Find…"
        className={inputLook}
        value={find}
        onChange={(event) => setFind(event.target.value)}
        onKeyDown={(event) => {
          if (isKey(event, 'choose.first') && left[0]) {
            onChange([...latest.current, left[0]]);
            setFind('');
          }
        }}
      />
      <ul aria-label={`${label} to add`} className="mt-2">
        {left.map((each) => (
          <li key={each}>
            <button
              type="button"
              className="w-full rounded-sm px-1 py-0.5 text-left hover:bg-time-ground"
              onClick={() => onChange([...latest.current, each])}
            >
              {nameOf(each)}
              {hintOf && <span className="block text-xs text-soft">{hintOf(each)}</span>}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

interface ChosenRowProps {
  id: string;
  name: string;
  first: boolean;
  last: boolean;
  removable: boolean;
  onMove: (by: number) => void;
  onRemove: () => void;
}

function ChosenRow({ id, name, first, last, removable, onMove, onRemove }: ChosenRowProps) {
  const { setNodeRef: dragRef, listeners, isDragging } = useDraggable({ id });
  const { setNodeRef: dropRef, isOver } = useDroppable({ id });
  const onKeyDown = (event: KeyboardEvent) =>
    runKey(event, { 'order.up': () => onMove(-1), 'order.down': () => onMove(1) });
  const press = 'rounded-sm p-1 text-soft hover:text-ink disabled:opacity-30 aria-disabled:opacity-30';
  return (
    <li
      ref={dropRef}
      onKeyDown={onKeyDown}
      className={`flex items-center gap-1 border-b border-rule py-0.5 ${isOver ? 'bg-time-ground' : ''} ${isDragging ? 'opacity-50' : ''}`}
    >
      <span ref={dragRef} {...listeners} aria-hidden title="Drag to move" className="cursor-grab touch-none text-soft">
        <GripVertical size={14} />
      </span>
      <span className="min-w-0 flex-1 font-semibold">{name}</span>
      <button
        type="button"
        className={press}
        aria-label={`Move ${name} up`}
        aria-keyshortcuts={ariaKey('order.up')}
        aria-disabled={first}
        onClick={() => onMove(-1)}
      >
        <ArrowUp size={14} />
      </button>
      <button
        type="button"
        className={press}
        aria-label={`Move ${name} down`}
        aria-keyshortcuts={ariaKey('order.down')}
        aria-disabled={last}
        onClick={() => onMove(1)}
      >
        <ArrowDown size={14} />
      </button>
      <button type="button" className={press} aria-label={`Leave out ${name}`} disabled={!removable} onClick={onRemove}>
        <X size={14} />
      </button>
    </li>
  );
}
