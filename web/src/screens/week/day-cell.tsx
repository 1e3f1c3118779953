import type { WeekCell } from '@half-penny/core/entries';
import { readLength, showLength, type Seconds } from '@half-penny/core/time';
import { useLayoutEffect, useRef, useState } from 'react';
import { Length } from '../../parts/figures';
import { inputLook } from '../../parts/field';
import { lengthForEditing } from '../../parts/editing';
import { isKey, runKey } from '../../parts/keys';

export interface Editing {
  mode: 'length' | 'plan';
  /** The key that began it, or what was typed before it was refused; null edits what is there. */
  begin: string | null;
  /** Why what was typed was refused. */
  fault: string | null;
}

interface DayCellProps {
  place: string;
  label: string;
  cell: WeekCell;
  active: boolean;
  selected: boolean;
  editing: Editing | null;
  onFocus: () => void;
  onPress: (extend: boolean) => void;
  onSweep: () => void;
  onEdit: () => void;
  onCommit: (text: string, move: 'down' | 'right' | 'left' | 'stay') => void;
  onCancel: () => void;
}

/** A job on a day: its length, what is planned, and a field while it is edited. */
export function DayCell(props: DayCellProps) {
  const { place, label, cell, active, selected, editing } = props;
  const notes = cell.entries.map((entry) => entry.note.trim()).filter(Boolean);
  const said = [
    cell.seconds > 0 ? showLength(cell.seconds) : 'nothing',
    cell.entries.length > 1 ? `${cell.entries.length} entries` : '',
    cell.openSeconds > 0 ? `${showLength(cell.openSeconds)} planned` : '',
  ].filter(Boolean);
  return (
    <div
      role="gridcell"
      tabIndex={active ? 0 : -1}
      data-place={place}
      aria-label={`${label}: ${said.join(', ')}`}
      aria-selected={selected || undefined}
      title={notes.join('; ').slice(0, 300) || undefined}
      onFocus={(event) => event.target === event.currentTarget && props.onFocus()}
      onPointerDown={(event) => {
        if (!editing) props.onPress(event.shiftKey);
      }}
      onPointerEnter={(event) => event.buttons === 1 && !editing && props.onSweep()}
      onDoubleClick={props.onEdit}
      className={`relative flex min-h-11 min-w-0 cursor-cell flex-col items-end justify-center border-l border-rule px-2 select-none ${selected ? 'bg-time-ground' : ''} ${active ? 'bg-time-ground' : ''}`}
    >
      {editing ? (
        <CellField
          label={editing.mode === 'plan' ? `Planned for ${label}` : label}
          start={editing.begin ?? (editing.mode === 'length' && cell.seconds > 0 ? lengthForEditing(cell.seconds) : '')}
          whole={editing.begin === null}
          was={editing.mode === 'length' && !editing.begin?.startsWith('+') ? cell.seconds : 0}
          fault={editing.fault}
          plan={editing.mode === 'plan'}
          onCommit={props.onCommit}
          onCancel={props.onCancel}
        />
      ) : (
        <>
          {cell.seconds > 0 && <Length seconds={cell.seconds} />}
          {cell.entries.length > 1 && (
            <span aria-hidden className="absolute top-0.5 left-1 font-mono text-[10px] text-soft">
              {cell.entries.length}
            </span>
          )}
          {cell.openSeconds > 0 && (
            <span className="font-mono text-xs whitespace-nowrap text-soft italic">
              {showLength(cell.openSeconds)}
              <span className="max-xl:sr-only"> planned</span>
            </span>
          )}
        </>
      )}
    </div>
  );
}

interface CellFieldProps {
  label: string;
  start: string;
  /** All of it is selected to be typed over. */
  whole: boolean;
  plan: boolean;
  /** Seconds that stand here and are typed over. */
  was: Seconds;
  fault: string | null;
  onCommit: DayCellProps['onCommit'];
  onCancel: () => void;
}

/** Keeps what is typed to itself until it is done, so that a key press touches nothing else on the screen. */
function CellField({ label, start, whole, plan, was, fault, onCommit, onCancel }: CellFieldProps) {
  const [text, setText] = useState(start);
  const [refused, setRefused] = useState(fault);
  const field = useRef<HTMLInputElement>(null);
  const done = useRef(false);
  useLayoutEffect(() => {
    field.current?.focus();
    if (whole) field.current?.select();
  }, [whole]);
  const commit = (move: 'down' | 'right' | 'left' | 'stay') => {
    if (done.current) return;
    done.current = true;
    if (text === start && whole && move === 'stay') onCancel();
    else onCommit(text, move);
  };
  return (
    <>
      <input
        ref={field}
        aria-label={label}
        aria-invalid={refused ? true : undefined}
        placeholder={plan ? 'planned' : ''}
        dir="auto"
        className={`${inputLook} relative z-10 text-right font-mono ${text.length > 8 ? 'w-60!' : ''}`}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setRefused(null);
        }}
        onBlur={() => !refused && commit('stay')}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (isKey(event, 'edit.leave')) {
            done.current = true;
            return onCancel();
          }
          runKey(event, {
            'edit.save': () => commit('down'),
            'edit.right': () => commit('right'),
            'edit.left': () => commit('left'),
          });
        }}
      />
      {was > 0 && !refused && (text !== start || !whole) && (
        <span
          role="status"
          className="absolute top-full right-0 z-20 rounded-b-md border border-strong bg-sheet px-2 py-0.5 font-mono text-xs whitespace-nowrap text-soft shadow-lg"
        >
          {lengthForEditing(was)} → <b className="font-semibold text-time">{lengthTyped(text)}</b>
        </span>
      )}
      {refused && (
        <p
          role="alert"
          className="absolute top-full right-0 z-20 w-60 rounded-md border border-fault bg-sheet p-2 text-left text-sm text-fault shadow-lg"
        >
          {refused}
        </p>
      )}
    </>
  );
}

/** What stands in a cell after what was typed so far: a length, or nothing. */
function lengthTyped(text: string): string {
  const length = text.trim().split(/\s+(?=\p{L}{3})/u)[0] ?? '';
  try {
    return length === '' || /^[-–0.,:]+$/.test(length) ? 'empty' : lengthForEditing(readLength(length).seconds);
  } catch {
    return '…';
  }
}
