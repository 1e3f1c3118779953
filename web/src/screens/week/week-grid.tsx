import type { Pricer } from '@half-penny/core/billing';
import { jobKey, noJob, type Job, type WeekRow } from '@half-penny/core/entries';
import { type Member } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import type { Day } from '@half-penny/core/time';
import { useEffect, useLayoutEffect, useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showDay, showWeekday } from '../../parts/days';
import { JobPicker } from '../../parts/job-picker';
import { JobLine, ownNameOf } from '../../parts/jobs';
import { Length } from '../../parts/figures';
import { readBlock, writeBlock } from './block';
import { openPlans, saveCell, savePlan } from './cell-saving';
import { CellEntries } from './cell-entries';
import { DayCell, type Editing } from './day-cell';
import { weekTracks } from './tracks';
import { WeekFoot } from './week-foot';
import type { WeekData } from './use-week';
import { keyWords } from '../../parts/key-words';
import { runKey, showKey, useKeys } from '../../parts/keys';
import { Swatch } from '../../parts/swatch';

interface WeekGridProps {
  pricer: Pricer;
  member: Member;
  today: Day;
  data: WeekData;
}

interface Place {
  row: number;
  column: number;
}

const LAST_COLUMN = 6;
/** Keys that begin a length. "." is the Till's, so half an hour begins with a nought or a comma. */
const BEGINS = /^[\d,+]$/;

/** Jobs by days, worked like a spreadsheet: type a length, Enter goes down, arrows move, Shift selects, a block can be pasted. */
export function WeekGrid({ pricer, member, today, data }: WeekGridProps) {
  const { week, offered, before, keep } = data;
  const { rows } = week;
  const { run, attempt } = useChanges();
  const [active, setActive] = useState<Place>(() => ({
    row: 0,
    column: Math.max(
      0,
      week.days.findIndex((each) => each.day === today),
    ),
  }));
  const [anchor, setAnchor] = useState<Place | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const [unfolded, setUnfolded] = useState<{ key: string; column: number; note: boolean } | null>(null);
  const [fault, setFault] = useState<string>();
  const grid = useRef<HTMLDivElement>(null);
  /** A row that is to get the focus once it is there. */
  const wanted = useRef<string | null>(null);
  /** What is typed before it is there. */
  const early = useRef('');

  const at: Place = { row: Math.min(active.row, Math.max(0, rows.length - 1)), column: active.column };
  /** Where the focus goes once this has been rendered: before the next key, however fast one types. */
  const focusNext = useRef<Place | null>(null);
  const focusAt = (place: Place) => {
    focusNext.current = place;
  };
  /** While lengths are typed one after the other, Tab stays among the cells; Escape ends that, and Tab leaves the grid again. */
  const [writing, setWriting] = useState(false);
  /** A length was written on the last day: Enter goes on to the next row, too. */
  const [rested, setRested] = useState(false);
  useLayoutEffect(() => {
    const place = focusNext.current;
    focusNext.current = null;
    if (place) grid.current?.querySelector<HTMLElement>(`[data-place="${place.row}:${place.column}"]`)?.focus();
  });
  const goTo = ({ row, column }: Place, extend = false) => {
    const place = {
      row: Math.max(0, Math.min(rows.length - 1, row)),
      column: Math.max(0, Math.min(LAST_COLUMN, column)),
    };
    setRested(false);
    setAnchor(extend ? (anchor ?? at) : null);
    setActive(place);
    focusAt(place);
  };
  useEffect(() => {
    const row = rows.findIndex((each) => each.key === wanted.current);
    if (row < 0) return;
    wanted.current = null;
    // One writes a new row from its first day on.
    goTo({ row, column: 0 });
    if (early.current) startEditing('length', early.current);
    early.current = '';
  });

  const range = {
    from: { row: Math.min(at.row, anchor?.row ?? at.row), column: Math.min(at.column, anchor?.column ?? at.column) },
    to: { row: Math.max(at.row, anchor?.row ?? at.row), column: Math.max(at.column, anchor?.column ?? at.column) },
  };
  const selected = (row: number, column: number) =>
    anchor !== null &&
    row >= range.from.row &&
    row <= range.to.row &&
    column >= range.from.column &&
    column <= range.to.column;
  const cells = () =>
    rows
      .slice(range.from.row, range.to.row + 1)
      .flatMap((row) => row.cells.slice(range.from.column, range.to.column + 1).map((cell) => ({ row, cell })));

  const addRow = (job: Job) => {
    if (jobKey(job) === jobKey(noJob)) return;
    wanted.current = jobKey(job);
    keep([job]);
  };
  const clear = async () => {
    const filled = cells().filter(({ cell }) => cell.seconds > 0);
    if (filled.length === 0) return;
    const ids = filled.flatMap(({ cell }) => cell.entries.map((entry) => entry.id));
    keep(filled.map(({ row }) => row));
    await attempt('entry.remove', { ids: [...new Set(ids)] });
  };
  const recordPlans = async () => {
    const ids = cells().flatMap(({ cell }) => openPlans(cell).map((plan) => plan.id));
    if (ids.length > 0) await attempt('plan.take', { ids });
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (editing || !(event.target instanceof HTMLElement) || !event.target.dataset.place) return;
    const { row, column } = at;
    const go =
      (place: Place, extend = false) =>
      () =>
        goTo(place, extend);
    const edit = (mode: 'length' | 'plan', begin: string | null = null) => startEditing(mode, begin);
    const done = runKey(event, {
      'week.unfold': () => unfold(false),
      'grid.down': go({ row: row + 1, column }),
      'grid.up': go({ row: row - 1, column }),
      'grid.right': go({ row, column: column + 1 }),
      'grid.left': go({ row, column: column - 1 }),
      'grid.selectDown': go({ row: row + 1, column }, true),
      'grid.selectUp': go({ row: row - 1, column }, true),
      'week.selectRight': go({ row, column: column + 1 }, true),
      'week.selectLeft': go({ row, column: column - 1 }, true),
      'grid.home': go({ row, column: 0 }),
      'grid.end': go({ row, column: LAST_COLUMN }),
      'grid.first': go({ row: 0, column: 0 }),
      'grid.last': go({ row: rows.length - 1, column: LAST_COLUMN }),
      'week.edit': () => edit('length'),
      'week.empty': () => void clear(),
      'week.another': () => edit('length', '+'),
      'week.note': () => unfold(true),
      'week.plan': () => edit('plan'),
      'week.record': () => void recordPlans(),
      ...(writing && {
        'week.next': () => goOn(column === LAST_COLUMN ? nextRow(row) : { row, column: column + 1 }),
        'week.previous': () => goTo(placeAfter('left', at)),
        ...(rested && { 'week.edit': () => goOn(nextRow(row)) }),
      }),
      ...((anchor || unfolded || fault || writing) && {
        'week.close': () => {
          setWriting(false);
          setAnchor(null);
          setUnfolded(null);
          setFault(undefined);
        },
      }),
    });
    if (done || event.ctrlKey || event.metaKey || event.altKey || !BEGINS.test(event.key)) return;
    edit('length', event.key);
    event.preventDefault();
  };
  const startEditing = (mode: Editing['mode'], begin: string | null) => {
    setWriting(true);
    setEditing({ mode, begin, fault: null });
  };
  /** The first day of the next row on which nothing stands; null after the last row. */
  const nextRow = (row: number): Place | null => {
    const next = rows[row + 1];
    if (!next) return null;
    return {
      row: row + 1,
      column: Math.max(
        0,
        next.cells.findIndex((cell) => cell.seconds === 0),
      ),
    };
  };
  /** Enter on the last day goes on in the next row, as it goes down elsewhere. */
  const afterWriting = (move: 'down' | 'right' | 'left'): Place =>
    move === 'down' && at.column === LAST_COLUMN ? (nextRow(at.row) ?? at) : placeAfter(move, at);
  const addJob = () => grid.current?.querySelector<HTMLElement>('[data-add-job] button');
  /** To a cell, or after the last one to where a job is added. */
  const goOn = (place: Place | null) => {
    if (place) goTo(place);
    else addJob()?.focus();
  };
  useKeys({ 'week.addJob': () => addJob()?.click() });
  // A length that is typed where nothing takes it belongs to the cell that is marked.
  useEffect(() => {
    const onFigure = (event: globalThis.KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
      if (wanted.current !== null && /^[\d:.,]$/.test(event.key)) {
        early.current += event.key;
        return event.preventDefault();
      }
      if (!/^\d$/.test(event.key)) return;
      if (
        target.closest(
          'input, textarea, [role=combobox], [role=dialog], [role=listbox], [contenteditable], [data-place]',
        )
      )
        return;
      event.preventDefault();
      if (rows.length === 0) return addJob()?.click();
      startEditing('length', event.key);
    };
    document.addEventListener('keydown', onFigure);
    return () => document.removeEventListener('keydown', onFigure);
  });
  const unfold = (note: boolean) => {
    const row = rows[at.row];
    if (!row) return;
    const same = unfolded?.key === row.key && unfolded.column === at.column;
    setUnfolded(same && !note ? null : { key: row.key, column: at.column, note });
  };

  const onPaste = (event: ClipboardEvent) => {
    if (editing || (event.target as HTMLElement).closest('input, textarea')) return;
    event.preventDefault();
    void (async () => {
      try {
        const pasted = readBlock(event.clipboardData.getData('text/plain'), {
          pricer,
          rows,
          days: week.days.map((each) => each.day),
          ...at,
        });
        await run('week.fill', { memberId: member.id, cells: pasted });
        setFault(undefined);
      } catch (thrown) {
        setFault(`${wordsOf(thrown)} Nothing was pasted.`);
      }
    })();
  };
  const onCopy = (event: ClipboardEvent) => {
    if (editing || (event.target as HTMLElement).closest('input, textarea')) return;
    event.preventDefault();
    event.clipboardData.setData('text/plain', writeBlock(rows, range.from, range.to));
  };

  /** Goes on at once and saves meanwhile; what cannot be saved is opened again with what was typed and what is wrong. */
  const commit = (text: string, then: Place | null) => {
    const row = rows[at.row]!;
    const cell = row.cells[at.column]!;
    const { mode } = editing!;
    const from = at;
    const place = { member, services: pricer.book.services, row, cell };
    const days = anchor ? row.cells.slice(range.from.column, range.to.column + 1).map((each) => each.day) : [cell.day];
    const saved = mode === 'plan' ? savePlan(run, place, days, text) : saveCell(run, place, text);
    // An emptied row stays where it is.
    keep([row]);
    setEditing(null);
    if (then) goTo(then);
    else focusAt(from);
    setRested(then !== null && then.row === from.row && then.column === from.column);
    saved.catch((thrown: unknown) => {
      setActive(from);
      setEditing({ mode, begin: text, fault: wordsOf(thrown) });
    });
  };

  return (
    <div
      className="max-lg:overflow-x-auto"
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget) && event.relatedTarget) setWriting(false);
      }}
      onPaste={onPaste}
      onCopy={onCopy}
    >
      {fault && (
        <p role="alert" className="mb-3 border-y border-fault px-3 py-2 text-sm text-fault">
          {fault}
        </p>
      )}
      <div
        ref={grid}
        role="grid"
        aria-label="The week"
        aria-rowcount={rows.length + 4}
        onKeyDown={onKeyDown}
        className="min-w-[760px] print:min-w-0 print-wide"
      >
        <div
          role="row"
          className={`${weekTracks} border-b border-ink bg-sheet lg:sticky lg:top-0 lg:z-10 print:static`}
        >
          <div role="columnheader" className="px-2 py-2 text-xs font-semibold text-soft">
            Job
          </div>
          {week.days.map(({ day }) => (
            <div
              key={day}
              role="columnheader"
              aria-label={showDay(day)}
              className={`px-2 py-2 text-right text-xs font-semibold ${day === today ? 'text-time' : 'text-soft'}`}
            >
              {showWeekday(day)} {Number(day.slice(8))}
            </div>
          ))}
          <div role="columnheader" className="px-2 py-2 text-right text-xs font-semibold text-soft">
            Total
          </div>
        </div>
        {rows.map((row, index) => (
          <div key={row.key} className="contents">
            {clientHead(pricer, rows, index)}
            <div
              role="row"
              aria-rowindex={index + 2}
              className={`${weekTracks} border-b border-rule focus-within:bg-side`}
            >
              <div role="rowheader" className="flex min-w-0 items-center px-2 py-1.5">
                <RowName pricer={pricer} row={row} />
              </div>
              {row.cells.map((cell, column) => {
                const here = at.row === index && at.column === column;
                return (
                  <DayCell
                    key={cell.day}
                    place={`${index}:${column}`}
                    label={`${nameOfRow(pricer, row)}, ${showDay(cell.day)}`}
                    cell={cell}
                    active={here}
                    selected={selected(index, column)}
                    editing={here ? editing : null}
                    onFocus={() => !here && setActive({ row: index, column })}
                    onPress={(extend) => goTo({ row: index, column }, extend)}
                    onSweep={() => goTo({ row: index, column }, true)}
                    onEdit={() => startEditing('length', null)}
                    onCommit={(text, move) => commit(text, move === 'stay' ? null : afterWriting(move))}
                    onCancel={() => {
                      setEditing(null);
                      setWriting(false);
                      focusAt(at);
                    }}
                  />
                );
              })}
              <div role="gridcell" className="flex flex-col items-end justify-center px-2 py-1.5">
                {row.seconds > 0 && <Length seconds={row.seconds} />}
                <Planned row={row} />
              </div>
            </div>
            {unfolded?.key === row.key && (
              <CellEntries
                {...{ pricer, member }}
                cell={row.cells[unfolded.column]!}
                focusNote={unfolded.note}
                onClose={() => {
                  setUnfolded(null);
                  focusAt(at);
                }}
              />
            )}
          </div>
        ))}
        {rows.length === 0 && (
          <div role="row">
            <p role="gridcell" className="px-2 py-6 text-soft">
              Nothing stands in this week yet. Add a job and type how long it took, or paste a block from a spreadsheet.
            </p>
          </div>
        )}
        <div role="row" className="print:hidden">
          <div role="gridcell" className="flex flex-wrap items-center gap-x-4 gap-y-1 px-2 py-2 text-sm" data-add-job>
            <JobPicker pricer={pricer} label="Add a job" value={noJob} onPick={addRow} focusElsewhere>
              <span className="font-semibold text-time">
                Add a job <kbd className="rounded-sm border border-strong px-1 font-mono text-xs text-soft">J</kbd>
              </span>
            </JobPicker>
            {before.length > 0 && (
              <Button kind="quiet" onClick={() => keep(before)}>
                Same jobs as last week
              </Button>
            )}
            {offered.length > 0 && <span className="text-soft">Lately:</span>}
            {offered.map((job) => (
              <button
                key={jobKey(job)}
                type="button"
                className="rounded-sm text-left underline-offset-4 hover:underline"
                onClick={() => addRow(job)}
              >
                {ownNameOf(pricer, job)}
              </button>
            ))}
          </div>
        </div>
        <div className="border-t border-ink bg-sheet lg:sticky lg:bottom-0 lg:z-10 print:static">
          <WeekFoot week={week} />
        </div>
      </div>
      <p className="mt-2 px-2 text-xs text-soft print:hidden">
        Type 1:30 or 9–10:30, and a note behind it. <Keys /> <span className="sr-only">Keys of the week</span>
      </p>
    </div>
  );
}

const shown = [
  'week.edit',
  'week.unfold',
  'week.note',
  'week.another',
  'week.plan',
  'week.record',
  'week.empty',
] as const;

const Keys = () => (
  <>
    {[...shown, 'week.paste' as const].map((name) => (
      <span key={name} className="mr-3 whitespace-nowrap">
        <kbd className="rounded-sm border border-strong px-1 font-mono">{showKey(name)}</kbd>{' '}
        {keyWords[name][1].toLowerCase()}
      </span>
    ))}
  </>
);

function Planned({ row }: { row: WeekRow }) {
  if (row.planned === 0) return null;
  const done = row.seconds;
  return (
    <span className="font-mono text-xs whitespace-nowrap text-soft">
      {done > row.planned ? 'planned ' : 'of '}
      <Length seconds={row.planned} whole />
    </span>
  );
}

/** The client over the first of its rows. */
function clientHead(pricer: Pricer, rows: readonly WeekRow[], index: number) {
  const groupOf = (row: Job | undefined) =>
    row?.projectId ? (pricer.clientOf(row.projectId)?.name ?? 'Internal') : row?.unlisted ? 'Not set up yet' : null;
  const group = groupOf(rows[index]);
  if (group === null || (index > 0 && group === groupOf(rows[index - 1]))) return null;
  return (
    <div role="row" className="border-b border-rule">
      <div role="rowheader" className="written clamp-1 px-2 pt-2.5 pb-0.5 text-xs text-soft">
        {group}
      </div>
    </div>
  );
}

/** A row within its client: its project, and a task under it. */
function RowName({ pricer, row }: { pricer: Pricer; row: WeekRow }) {
  const project = row.projectId === null ? undefined : pricer.project.get(row.projectId);
  if (!project)
    return row.unlisted ? (
      <span className="written clamp-2">{row.unlisted}</span>
    ) : (
      <JobLine pricer={pricer} job={row} none="No job yet" />
    );
  const task = row.taskId === null ? undefined : pricer.task.get(row.taskId);
  return (
    <span className="flex min-w-0 items-baseline gap-2">
      <Swatch colour={project.colour} />
      <span className="min-w-0">
        <span className="written clamp-2">{task?.name ?? pricer.tree.pathOf(project.id)}</span>
        {task && <span className="written clamp-1 text-xs text-soft">{pricer.tree.pathOf(project.id)}</span>}
      </span>
    </span>
  );
}

const nameOfRow = (pricer: Pricer, row: Job): string => (ownNameOf(pricer, row) || 'No job yet').slice(0, 80);

/** Where one goes on after a length: on the last day one stays until it is pressed again. */
function placeAfter(move: 'down' | 'right' | 'left', { row, column }: Place): Place {
  switch (move) {
    case 'down':
      return { row: row + 1, column };
    case 'right':
      return { row, column: Math.min(LAST_COLUMN, column + 1) };
    case 'left':
      return column === 0 ? { row: row - 1, column: LAST_COLUMN } : { row, column: column - 1 };
  }
}
