import {
  lazy,
  Suspense,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
import { clipped, Reading } from './figures';
import { inputLook } from './field';
import type { LongRowsHandle } from './long-rows';
import { useTextEdit } from './use-text-edit';
import { runKey, type KeyName } from './keys';
import { CheckBox, checkedOf } from './check';

export interface Column<Row> {
  key: string;
  head: string;
  /** The head is for assistive technology only: the cells speak for themselves. */
  quietHead?: boolean;
  /** A track of the grid: "80px", "minmax(0,2fr)". */
  width: string;
  align?: 'end' | 'center';
  cell: (row: Row) => ReactNode;
  /** Editing in place: what stands in the field, and saving what was typed. */
  edit?: {
    text: (row: Row) => string;
    save: (row: Row, text: string) => Promise<unknown>;
    when?: (row: Row) => boolean;
  };
  foot?: ReactNode;
  /** Left out where the window is narrow. */
  wideOnly?: boolean;
  /** Stands in a line of its own there, above the row's figures. */
  ownLine?: boolean;
}

export /** Handlers by the names that keys have in the table of keys. */
type RowKeys<Row> = { readonly [Name in KeyName]?: (row: Row) => unknown };

interface LedgerProps<Row> {
  /** What the table holds, for assistive technology. */
  label: string;
  rows: readonly Row[];
  rowId: (row: Row) => string;
  /** What a row is called: "Plot sheet 4, 09:14". */
  rowName: (row: Row) => string;
  columns: readonly Column<Row>[];
  /** Rows can be selected where this is given. */
  selection?: {
    selected: ReadonlySet<string>;
    onChange: (selected: ReadonlySet<string>) => void;
    /** Rows that cannot be chosen have no box. */
    selectable?: (row: Row) => boolean;
  };
  /** What keys of the table of keys do with the row that has the focus. */
  keys?: RowKeys<Row>;
  /** Enter on a row that has nothing to edit or press in that cell. */
  onOpen?: (row: Row) => void;
  onActive?: (row: Row) => void;
  /** A row chosen elsewhere, such as in a picture: it gets the focus. */
  chosen?: string | null;
  onDelete?: (row: Row) => void;
  /** Shown where there are no rows. */
  empty: ReactNode;
  /** The rows are still being read: nothing is said of there being none. */
  reading?: boolean;
  /** Marks rows that want attention. */
  marked?: (row: Row) => boolean;
  /** Another ground for rows of another kind. */
  tone?: (row: Row) => string;
  footLabel?: ReactNode;
  /** Rows of two lines that many are to be seen of. */
  dense?: boolean;
}

// Only long ledgers need what renders them in part.
const LongRows = lazy(() => import('./long-rows'));
const LONG_FROM = 80;

interface Place {
  row: number;
  column: number;
}

/** The table: sticky head, keyboard rows, selection, editing in place, footer totals; virtual when long. */
export function Ledger<Row>(props: LedgerProps<Row>) {
  const { label, rows, rowId, columns, selection, empty } = props;
  const [active, setActive] = useState<Place & { id?: string }>({ row: 0, column: 0 });
  const [editing, setEditing] = useState<Place | null>(null);
  const anchor = useRef<number | null>(null);
  const grid = useRef<HTMLDivElement>(null);
  const longRows = useRef<LongRowsHandle>(null);
  const long = rows.length > LONG_FROM;

  // The focus stays with its row, wherever that goes.
  const moved = active.id !== undefined && rows[active.row] !== undefined && rowId(rows[active.row]!) !== active.id;
  const follows = moved ? rows.findIndex((row) => rowId(row) === active.id) : -1;
  const current: Place = {
    row: follows >= 0 ? follows : Math.min(active.row, Math.max(0, rows.length - 1)),
    column: Math.min(active.column, columns.length - 1),
  };
  const cellAt = ({ row, column }: Place) =>
    grid.current?.querySelector<HTMLElement>(`[data-place="${row}:${column}"]`);
  const goTo = (place: Place) => {
    const row = Math.max(0, Math.min(rows.length - 1, place.row));
    const column = Math.max(0, Math.min(columns.length - 1, place.column));
    setActive({ row, column, ...(rows[row] ? { id: rowId(rows[row]) } : {}) });
    longRows.current?.scrollTo(row);
    requestAnimationFrame(() => cellAt({ row, column })?.focus());
  };

  const canSelect = (index: number) => selection?.selectable?.(rows[index]!) ?? true;
  const toggle = (from: number, to: number, on: boolean) => {
    if (!selection) return;
    const next = new Set(selection.selected);
    for (let index = Math.min(from, to); index <= Math.max(from, to); index++) {
      const id = rowId(rows[index]!);
      if (!canSelect(index)) continue;
      if (on) next.add(id);
      else next.delete(id);
    }
    selection.onChange(next);
  };
  const toggleRow = (index: number, range: boolean) => {
    const on = !selection?.selected.has(rowId(rows[index]!));
    toggle(range && anchor.current !== null ? anchor.current : index, index, range ? true : on);
    if (!range) anchor.current = index;
  };

  // A row that was replaced by another, such as a gap by the entry that fills it, takes the focus with it when it goes.
  const lastFocused = useRef<HTMLElement | null>(null);
  const focusAgain = () => {
    if (!lastFocused.current || (lastFocused.current.isConnected && follows < 0)) return;
    const cell = cellAt(current);
    if (!cell) return;
    lastFocused.current = null;
    if (document.activeElement === document.body) cell.focus();
  };
  useLayoutEffect(focusAgain);

  const { chosen } = props;
  const shownChoice = useRef<string | null | undefined>(chosen);
  useEffect(() => {
    if (chosen === shownChoice.current) return;
    shownChoice.current = chosen;
    const row = rows.findIndex((each) => rowId(each) === chosen);
    if (row >= 0 && !grid.current?.contains(document.activeElement)) goTo({ row, column: 0 });
  });

  const onKeyDown = (event: KeyboardEvent) => {
    if (editing || !(event.target instanceof HTMLElement) || !event.target.dataset.place) return;
    const { row, column } = current;
    const go = (place: Place) => () => goTo(place);
    const select = (to: number) => () => {
      if (selection) {
        anchor.current ??= row;
        toggle(anchor.current, Math.max(0, Math.min(rows.length - 1, to)), true);
      }
      goTo({ row: to, column });
    };
    const onRow = (act: (row: Row) => unknown) => () => rows[row] && act(rows[row]);
    const own = Object.entries(props.keys ?? {}).map(([name, act]) => [name, onRow(act as (row: Row) => unknown)]);
    runKey(event, {
      ...Object.fromEntries(own),
      'grid.down': go({ row: row + 1, column }),
      'grid.up': go({ row: row - 1, column }),
      'grid.right': go({ row, column: column + 1 }),
      'grid.left': go({ row, column: column - 1 }),
      'grid.pageDown': go({ row: row + 10, column }),
      'grid.pageUp': go({ row: row - 10, column }),
      'grid.home': go({ row, column: 0 }),
      'grid.end': go({ row, column: columns.length - 1 }),
      'grid.first': go({ row: 0, column: 0 }),
      'grid.last': go({ row: rows.length - 1, column: columns.length - 1 }),
      'grid.selectDown': select(row + 1),
      'grid.selectUp': select(row - 1),
      ...(selection && {
        'grid.select': () => toggleRow(row, false),
        'grid.selectTo': () => toggleRow(row, true),
        'grid.selectAll': () => toggle(0, rows.length - 1, true),
      }),
      'grid.open': () => enter(current),
      ...(props.onDelete && { 'grid.delete': onRow(props.onDelete) }),
    });
  };
  const canEdit = (place: Place) => {
    const { edit } = columns[place.column]!;
    return Boolean(edit && rows[place.row] && (edit.when?.(rows[place.row]!) ?? true));
  };
  const enter = (place: Place) => {
    if (canEdit(place)) return setEditing(place);
    const inside = cellAt(place)?.querySelector<HTMLElement>('button, a, input');
    if (inside) inside.click();
    else if (rows[place.row]) props.onOpen?.(rows[place.row]!);
  };

  if (rows.length === 0) {
    return <div className="border-t border-ink py-8 text-soft">{props.reading ? <Reading /> : empty}</div>;
  }

  const tracks = (list: readonly Column<Row>[], box: string) =>
    [selection ? box : '', ...list.map((column) => column.width)].filter(Boolean).join(' ');
  const style = {
    '--tracks': tracks(columns, '28px'),
    '--narrow': tracks(narrowOf(columns), columns.some((column) => column.ownLine) ? '44px' : '28px'),
  } as React.CSSProperties;
  const renderRow = (index: number) => {
    const row = rows[index]!;
    return (
      <LedgerRow
        key={rowId(row)}
        {...{ row, index, columns, current, editing }}
        name={props.rowName(row)}
        selected={selection ? selection.selected.has(rowId(row)) : null}
        selectable={canSelect(index)}
        marked={props.marked?.(row) ?? false}
        dense={props.dense ?? false}
        tone={props.tone?.(row) ?? ''}
        onToggle={(range) => toggleRow(index, range)}
        onFocus={(column) => {
          setActive({ row: index, column, id: rowId(row) });
          props.onActive?.(row);
        }}
        onEdit={(column) => canEdit({ row: index, column }) && setEditing({ row: index, column })}
        onEdited={(refocus) => {
          setEditing(null);
          if (refocus) requestAnimationFrame(() => cellAt(current)?.focus());
        }}
      />
    );
  };
  return (
    <div
      ref={grid}
      role="grid"
      aria-label={label}
      aria-rowcount={rows.length + 1}
      aria-multiselectable={selection ? true : undefined}
      style={style}
      onKeyDown={onKeyDown}
      onFocus={(event) => (lastFocused.current = event.target)}
      onBlur={(event) => {
        if (event.relatedTarget) lastFocused.current = null;
      }}
    >
      <div role="rowgroup" className="sticky top-0 z-10 border-b border-ink bg-sheet">
        <div role="row" className={rowLook}>
          {selection && (
            <div role="columnheader" className="py-2 pl-1 print:invisible">
              <CheckBox
                aria-label="Select all rows"
                checked={checkedOf(
                  rows.filter((_, index) => canSelect(index)).map((row) => selection.selected.has(rowId(row))),
                )}
                onChange={(checked) => toggle(0, rows.length - 1, checked)}
              />
            </div>
          )}
          {columns.map((column) => (
            <div
              key={column.key}
              role="columnheader"
              className={`px-2 py-2 text-xs font-semibold text-soft ${alignment(column)} ${column.ownLine ? 'max-md:hidden' : ''}`}
            >
              {column.quietHead ? <span className="sr-only">{column.head}</span> : column.head}
            </div>
          ))}
        </div>
      </div>
      {long ? (
        <Suspense fallback={<div role="rowgroup">{rows.slice(0, LONG_FROM).map((_, index) => renderRow(index))}</div>}>
          <LongRows
            handle={longRows}
            count={rows.length}
            keyOf={(index) => rowId(rows[index]!)}
            render={renderRow}
            onReady={focusAgain}
          />
        </Suspense>
      ) : (
        <div role="rowgroup">{rows.map((_, index) => renderRow(index))}</div>
      )}
      {columns.some((column) => column.foot !== undefined) && (
        <div role="rowgroup">
          <div role="row" className={`${rowLook} pt-1`}>
            {selection && <div role="gridcell" />}
            {columns.map((column, index) => (
              <div
                key={column.key}
                role="gridcell"
                className={`px-2 py-1 font-bold ${alignment(column)} ${column.ownLine ? 'max-md:hidden' : ''}`}
              >
                {column.foot !== undefined ? (
                  <span className="total-rule inline-block">{column.foot}</span>
                ) : index === 0 ? (
                  props.footLabel
                ) : null}
              </div>
            ))}
          </div>
        </div>
      )}
    </div>
  );
}

/** The tracks of a narrow row: the first of those below a line of its own takes what is left. */
function narrowOf<Row>(columns: readonly Column<Row>[]): readonly Column<Row>[] {
  const shown = columns.filter((column) => !column.wideOnly);
  const below = shown.filter((column) => !column.ownLine);
  if (below.length === shown.length) return shown;
  return below.map((column, at) => (at === 0 ? { ...column, width: 'minmax(0,1fr)' } : column));
}

/** How a cell that stands in a line of its own is placed, beside the box by which its row is selected. */
const ownLineLook = (column: Pick<Column<never>, 'ownLine'>, selectable: boolean) =>
  column.ownLine ? `max-md:order-first max-md:pb-0! ${selectable ? 'max-md:col-[2/-1]' : 'max-md:col-[1/-1]'}` : '';

const rowLook = 'grid grid-cols-(--narrow) md:grid-cols-(--tracks)';
const alignment = (column: Pick<Column<never>, 'align' | 'wideOnly'>) =>
  `${column.align === 'end' ? 'text-right justify-items-end' : column.align === 'center' ? 'text-center justify-items-center' : ''} ${column.wideOnly ? 'hidden md:block' : ''}`;

interface LedgerRowProps<Row> {
  row: Row;
  index: number;
  name: string;
  columns: readonly Column<Row>[];
  current: Place;
  editing: Place | null;
  selected: boolean | null;
  selectable: boolean;
  marked: boolean;
  tone: string;
  dense: boolean;
  onToggle: (range: boolean) => void;
  onFocus: (column: number) => void;
  onEdit: (column: number) => void;
  onEdited: (refocus: boolean) => void;
}

function LedgerRow<Row>(props: LedgerRowProps<Row>) {
  const { row, index, name, columns, current, editing, selected, marked } = props;
  const here = current.row === index;
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={props.selectable ? (selected ?? undefined) : undefined}
      className={`${rowLook} group relative border-b border-rule ${here ? 'focus-within:bg-time-ground focus-within:before:absolute focus-within:before:inset-y-0 focus-within:before:left-0 focus-within:before:w-[3px] focus-within:before:bg-time' : ''} ${marked ? 'bg-attention-ground' : ''} ${props.tone}`}
    >
      {selected !== null && (
        <div
          role="gridcell"
          // Beside the box as well: a thumb does not meet it exactly.
          onClick={(event) => {
            if (props.selectable && event.target === event.currentTarget) props.onToggle(false);
          }}
          className={`py-3 pl-1 print:invisible ${columns.some((column) => column.ownLine) ? 'max-md:order-first max-md:row-span-2' : ''}`}
        >
          {props.selectable && (
            <CheckBox
              tabIndex={-1}
              aria-label={`Select ${clipped(name)}`}
              checked={selected}
              onClick={(event) => props.onToggle(event.shiftKey)}
            />
          )}
        </div>
      )}
      {columns.map((column, place) => {
        const edited = editing?.row === index && editing.column === place;
        return (
          <div
            key={column.key}
            role="gridcell"
            tabIndex={here && current.column === place ? 0 : -1}
            data-place={`${index}:${place}`}
            onFocus={(event) => event.target === event.currentTarget && props.onFocus(place)}
            onClick={(event) => {
              // Portals bubble through here too: what is pressed in a popover is none of the row's business.
              if (!event.currentTarget.contains(event.target as Node)) return;
              props.onFocus(place);
              if (!(event.target as HTMLElement).closest('button, a, input')) props.onEdit(place);
            }}
            className={`min-w-0 px-2 ${props.dense ? 'py-1' : 'py-2'} ${alignment(column)} ${ownLineLook(column, selected !== null)} ${column.edit && (column.edit.when?.(row) ?? true) ? 'cursor-text' : ''}`}
          >
            {edited ? (
              // The row keeps its height: what is pressed below stays under the pointer while the field closes.
              <div className="grid *:col-start-1 *:row-start-1 *:min-w-0">
                <div className="invisible">{column.cell(row)}</div>
                <InPlace
                  label={`${column.head}, ${clipped(name)}`}
                  text={column.edit!.text(row)}
                  save={(text) => column.edit!.save(row, text)}
                  done={props.onEdited}
                />
              </div>
            ) : (
              column.cell(row)
            )}
          </div>
        );
      })}
    </div>
  );
}

interface InPlaceProps {
  label: string;
  text: string;
  save: (text: string) => Promise<unknown>;
  done: (refocus: boolean) => void;
}

function InPlace({ label, text: value, save, done }: InPlaceProps) {
  const { text, type, fault, commit } = useTextEdit(value, save);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.select(), []);
  const leave = async (how: 'left' | 'asked') => {
    if (await commit(how)) done(how === 'asked');
  };
  return (
    <div className="relative h-full">
      <input
        ref={field}
        aria-label={label}
        aria-invalid={fault ? true : undefined}
        dir="auto"
        className={`${inputLook} -my-1 h-[calc(100%+8px)]`}
        value={text}
        onChange={(event) => type(event.target.value)}
        onBlur={() => void leave('left')}
        onKeyDown={(event) => {
          if (runKey(event, { 'edit.save': () => void leave('asked'), 'edit.leave': () => done(true) }))
            event.stopPropagation();
        }}
      />
      {fault && (
        <div
          role="alert"
          className="absolute top-full right-0 z-20 mt-1 w-60 rounded-md border border-fault bg-sheet p-2 text-left text-sm text-fault shadow-lg"
        >
          {fault}
        </div>
      )}
    </div>
  );
}
