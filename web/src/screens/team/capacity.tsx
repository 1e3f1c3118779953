import type { Pricer } from '@half-penny/core/billing';
import { capacityOf, type Capacity as Row, type CapacityWeek, type PlannedBlock } from '@half-penny/core/entries';
import type { Id, PlannedTime } from '@half-penny/core/model';
import { addDays, isoWeekOf, showLength, startOfWeek, type Day } from '@half-penny/core/time';
import {
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { useMemo, type KeyboardEvent } from 'react';
import { useRead } from '../../data/read';
import { useAbsences } from '../../data/queries';
import { useChanges, useSession } from '../../data/session';
import { showShortestDay } from '../../parts/days';
import { dragSpeech } from '../../parts/drag-speech';
import { Reading } from '../../parts/figures';
import { nameOfJob } from '../../parts/known-jobs';
import { runKey } from '../../parts/keys';

const WEEKS = 8;

/** Planned time of everybody in a range of days. */
function usePlansBetween(members: readonly { id: Id }[], from: Day, to: Day): PlannedTime[] | undefined {
  const { database } = useSession();
  const ids = members.map(({ id }) => id).join(' ');
  return useRead(async () => {
    const found: PlannedTime[] = [];
    for (const id of ids.split(' '))
      found.push(
        ...(await database.rows('plans').where('[memberId+day]').between([id, from], [id, to], true, true).toArray()),
      );
    return found;
  }, [database, ids, from, to]);
}

/** The coming eight weeks: what each member owes as an empty frame, what is planned in it, moved by dragging or with keys. */
export function Capacity({ pricer, today }: { pricer: Pricer; today: Day }) {
  const { attempt } = useChanges();
  const { members, workspace } = pricer.book;
  const from = startOfWeek(today, workspace.cutOff);
  const plans = usePlansBetween(members, from, addDays(from, WEEKS * 7 - 1));
  const absences = useAbsences();
  // A press is no drag: a few pixels tell them apart.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const rows = useMemo(
    () => plans && absences && capacityOf({ members, from, weeks: WEEKS, plans, absences }),
    [members, from, plans, absences],
  );
  if (!rows) return <Reading />;
  const most = Math.max(1, ...rows.flatMap(({ weeks }) => weeks.map((week) => Math.max(week.owed, week.planned))));
  const move = (block: Placed, member: Id, week: Day) => {
    const days = Math.round((Date.parse(week) - Date.parse(block.week)) / 86_400_000);
    if (days === 0 && member === block.member) return;
    const ids = block.plans.map(({ id }) => id);
    void attempt('plan.move', { ids, days, ...(member !== block.member && { memberId: member }) });
  };
  const step = (block: Placed, weeks: number, people: number) => {
    const at = rows.findIndex((row) => row.member.id === block.member);
    const member = rows[Math.min(rows.length - 1, Math.max(0, at + people))]!.member.id;
    const week = addDays(block.week, weeks * 7);
    if (week >= from && week < addDays(from, WEEKS * 7)) move(block, member, week);
  };
  const end = ({ active, over }: DragEndEvent) => {
    const target = over?.data.current as { member: Id; week: Day } | undefined;
    const block = active.data.current as Placed | undefined;
    if (target && block) move(block, target.member, target.week);
  };
  const nameOf = (id: string) => id.split(' ').slice(2).join(' ') || 'a week';
  return (
    <>
      <p className="mb-3 text-soft">
        The frame is what is owed, the filling what is planned. Drag a piece to another week or member, or move it with
        Alt and the arrow keys.
      </p>
      <DndContext sensors={sensors} accessibility={{ announcements: dragSpeech(nameOf) }} onDragEnd={end}>
        <div className="overflow-x-auto">
          <table className="w-full table-fixed min-w-[860px]" aria-label="Planned and owed, by member and week">
            <thead>
              <tr className="border-b border-ink text-left text-sm text-soft">
                <th className="w-32 py-1 font-normal">Member</th>
                {rows[0]?.weeks.map((week) => (
                  <th key={week.from} className="px-1 font-normal">
                    {workspace.cutOff === 7 ? `W${isoWeekOf(week.from).week}` : showShortestDay(week.from)}
                    <span className="block text-xs">{showShortestDay(week.from)}</span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <MemberRow key={row.member.id} {...{ pricer, row, most, step }} />
              ))}
            </tbody>
          </table>
        </div>
      </DndContext>
    </>
  );
}

/** A block where it lies. */
interface Placed extends PlannedBlock {
  member: Id;
  week: Day;
}

interface MemberRowProps {
  pricer: Pricer;
  row: Row;
  most: number;
  step: (block: Placed, weeks: number, people: number) => void;
}

function MemberRow({ pricer, row, most, step }: MemberRowProps) {
  return (
    <tr className="border-b border-rule align-top">
      <th scope="row" className="written py-2 pr-2 text-left font-semibold">
        {row.member.name}
      </th>
      {row.weeks.map((week) => (
        <Cell key={week.from} {...{ pricer, row, week, most, step }} />
      ))}
    </tr>
  );
}

/** How tall a full week is drawn, in pixels. */
const TALL = 96;

function Cell({ pricer, row, week, most, step }: MemberRowProps & { week: CapacityWeek }) {
  const { setNodeRef, isOver } = useDroppable({
    id: `${row.member.id} ${week.from} ${row.member.name}, week of ${showShortestDay(week.from)}`,
    data: { member: row.member.id, week: week.from },
  });
  const height = (seconds: number) => Math.round((seconds / most) * TALL);
  const left = week.owed - week.planned;
  return (
    <td ref={setNodeRef} className={`px-1 py-2 ${isOver ? 'bg-time-ground' : ''}`}>
      <div className="relative flex flex-col" style={{ minHeight: TALL }}>
        <span
          aria-hidden
          className="pointer-events-none absolute inset-x-0 top-0 border border-dashed border-strong"
          style={{ height: Math.max(1, height(week.owed)) }}
        />
        {week.blocks.map((block) => (
          <Block
            key={block.key}
            {...{ pricer, step }}
            block={{ ...block, member: row.member.id, week: week.from }}
            height={Math.max(16, height(block.seconds))}
            order={row.member.jobOrder}
          />
        ))}
      </div>
      <div className={`mt-1 font-mono text-xs ${left < 0 ? 'font-bold text-attention' : 'text-soft'}`}>
        {week.planned > 0 ? showLength(week.planned) : '–'} / {showLength(week.owed)}
        {left < 0 && <span className="block">{showLength(-left)} too much</span>}
      </div>
    </td>
  );
}

interface BlockProps {
  pricer: Pricer;
  block: Placed;
  height: number;
  order: Row['member']['jobOrder'];
  step: MemberRowProps['step'];
}

function Block({ pricer, block, height, order, step }: BlockProps) {
  const name = block.job.projectId
    ? nameOfJob(pricer, block.job, order)
    : block.job.unlisted || block.plans[0]!.note || 'No job';
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: `${block.member} ${block.week} ${name} ${block.key}`,
    data: block,
  });
  const onKeyDown = (event: KeyboardEvent) =>
    runKey(event, {
      'ahead.later': () => step(block, 1, 0),
      'ahead.earlier': () => step(block, -1, 0),
      'ahead.below': () => step(block, 0, 1),
      'ahead.above': () => step(block, 0, -1),
    });
  const words = `${name}, ${showLength(block.seconds)} planned, week of ${showShortestDay(block.week)}`;
  return (
    <button
      type="button"
      ref={setNodeRef}
      {...listeners}
      onKeyDown={onKeyDown}
      aria-label={words}
      title={words}
      style={{
        height,
        ...(transform && { transform: `translate(${transform.x}px, ${transform.y}px)` }),
      }}
      className={`relative mb-px cursor-grab touch-none overflow-hidden bg-time px-1 text-left text-xs leading-4 text-sheet ${isDragging ? 'z-10 cursor-grabbing opacity-80' : ''}`}
    >
      <span className="written block truncate">{name}</span>
    </button>
  );
}
