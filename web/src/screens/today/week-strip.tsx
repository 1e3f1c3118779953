import { weekOf } from '@half-penny/core/entries';
import type { Member, Workspace } from '@half-penny/core/model';
import { addDays, daysFrom, showLength, startOfWeek, type Day } from '@half-penny/core/time';
import { useMemo } from 'react';
import { useAbsences, useEntriesOfRange } from '../../data/queries';
import { showDay, showWeekday } from '../../parts/days';
import { Fill } from '../../parts/owed-fill';

interface WeekStripProps {
  member: Member;
  workspace: Workspace;
  day: Day;
  today: Day;
  onGo: (day: Day) => void;
}

/** The week of a day as seven steps to travel by, each with how full it is. */
export function WeekStrip({ member, workspace, day, today, onGo }: WeekStripProps) {
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
  return (
    <nav aria-label="Days of the week" className="mb-4 grid grid-cols-7 border-y border-rule">
      {week.days.map((each) => {
        const net = each.recorded - each.deducted;
        const here = each.day === day;
        return (
          <button
            key={each.day}
            type="button"
            aria-current={here ? 'date' : undefined}
            aria-label={`${showDay(each.day)}, ${showLength(net)} recorded${each.owed ? ` of ${showLength(each.owed)}` : ''}`}
            onClick={() => onGo(each.day)}
            className={`border-l border-rule px-2 py-1 text-left first:border-l-0 hover:bg-time-ground ${here ? 'bg-time-ground' : ''}`}
          >
            <span className={`flex justify-between text-xs ${each.day === today ? 'font-bold text-ink' : 'text-soft'}`}>
              <span>
                {showWeekday(each.day)}
                <span className="max-md:hidden"> {Number(each.day.slice(8))}</span>
              </span>
              <span className={`font-mono max-md:hidden ${net > 0 ? 'text-time' : ''}`}>
                {net > 0 ? showLength(net) : ''}
              </span>
            </span>
            <Fill recorded={net} owed={each.owed} />
          </button>
        );
      })}
    </nav>
  );
}
