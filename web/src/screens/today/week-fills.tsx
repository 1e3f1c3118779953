import { weekOf } from '@half-penny/core/entries';
import type { Member, Workspace } from '@half-penny/core/model';
import { addDays, daysFrom, showLength, startOfWeek, type Day } from '@half-penny/core/time';
import { useMemo } from 'react';
import { useAbsences, useEntriesOfRange } from '../../data/queries';
import { showDay, showShortestDay, showWeekday } from '../../parts/days';
import { Fill } from '../../parts/owed-fill';

interface WeekFillsProps {
  member: Member;
  workspace: Workspace;
  day: Day;
  today: Day;
  onGo: (day: Day) => void;
}

/** The week of a day as seven thin fills of owed hours; a press goes to the day. */
export function WeekFills({ member, workspace, day, today, onGo }: WeekFillsProps) {
  const from = startOfWeek(day, workspace.cutOff);
  const to = addDays(from, 6);
  const entries = useEntriesOfRange(member.id, from, to);
  const absences = useAbsences();
  const week = useMemo(
    () =>
      weekOf({
        member,
        days: daysFrom(from, to),
        entries: entries ?? [],
        plans: [],
        absences: absences ?? [],
        breakRule: workspace.breakRule,
      }),
    [member, from, to, entries, absences, workspace.breakRule],
  );
  const known = entries !== undefined && absences !== undefined;
  const net = (each: (typeof week.days)[number]) => each.recorded - each.deducted;
  const recorded = week.days.reduce((sum, each) => sum + net(each), 0);
  const owed = week.days.reduce((sum, each) => sum + each.owed, 0);
  const name = today >= from && today <= to ? 'This week' : `Week from ${showShortestDay(from)}`;
  return (
    <nav aria-label="Days of the week">
      <h2 className="mb-1 flex items-baseline justify-between text-sm">
        <span className="font-semibold">{name}</span>
        <span className="font-mono">
          <span className="text-time">{known ? showLength(recorded) : '…'}</span>
          {known && owed > 0 && <span className="text-soft"> of {showLength(owed)}</span>}
        </span>
      </h2>
      {week.days.map((each) => {
        const here = each.day === day;
        return (
          <button
            key={each.day}
            type="button"
            aria-current={here ? 'date' : undefined}
            aria-label={`${showDay(each.day)}, ${showLength(net(each))} recorded${each.owed ? ` of ${showLength(each.owed)}` : ''}`}
            onClick={() => onGo(each.day)}
            className={`grid w-full grid-cols-[52px_1fr_44px] items-center gap-2 rounded-sm px-1 py-px text-left text-xs hover:bg-time-ground ${here ? 'bg-time-ground' : ''}`}
          >
            <span className={each.day === today ? 'font-bold text-ink' : 'text-soft'}>
              {showWeekday(each.day)} {Number(each.day.slice(8))}
            </span>
            <span className="-mt-1">
              <Fill recorded={net(each)} owed={each.owed} />
            </span>
            <span className="text-right font-mono text-time">{net(each) > 0 ? showLength(net(each)) : ''}</span>
          </button>
        );
      })}
    </nav>
  );
}
