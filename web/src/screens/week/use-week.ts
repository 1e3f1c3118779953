import type { Pricer } from '@half-penny/core/billing';
import { isOpenJob, jobKey, jobOf, weekOf, type Job, type Week } from '@half-penny/core/entries';
import type { Member } from '@half-penny/core/model';
import { addDays, daysFrom, type Day } from '@half-penny/core/time';
import { useCallback, useMemo } from 'react';
import { useAbsences, useEntriesOfRange, usePlansOfRange } from '../../data/queries';
import { collator, nameOfJob } from '../../parts/known-jobs';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { rowsKept } from '../../state/week-rows';

const NONE: Job[] = [];
/** How far back jobs are offered from. */
const LATELY = 28;
const MOST_OFFERED = 8;

export interface WeekData {
  week: Week;
  /** Jobs of the last weeks that have no row yet. */
  offered: Job[];
  /** Jobs of the week before. */
  before: Job[];
  keep: (jobs: readonly Job[]) => void;
}

/** A member's week with its rows in order, and what can be added to it; undefined until it is read. */
export function useWeek(pricer: Pricer, member: Member, from: Day): WeekData | undefined {
  const to = addDays(from, 6);
  const entries = useEntriesOfRange(member.id, from, to);
  const earlier = useEntriesOfRange(member.id, addDays(from, -LATELY), addDays(from, -1));
  const plans = usePlansOfRange(member.id, from, to);
  const absences = useAbsences();
  const key = `${member.id} ${from}`;
  const kept = useAppSelector((state) => state.weekRows[key]) ?? NONE;
  const dispatch = useAppDispatch();
  const keep = useCallback(
    (jobs: readonly Job[]) => {
      const all = [...kept, ...jobs].map(jobOf);
      dispatch(rowsKept({ week: key, jobs: [...new Map(all.map((job) => [jobKey(job), job])).values()] }));
    },
    [dispatch, key, kept],
  );
  return useMemo(() => {
    if (!entries || !earlier || !plans || !absences) return undefined;
    const { breakRule } = pricer.book.workspace;
    const week = weekOf({ member, days: daysFrom(from, to), entries, plans, absences, breakRule, kept });
    // By client, project and task, then jobs in words, then what has no job: a row has its place as soon as it is there.
    const rank = (job: Job) => (job.projectId ? 0 : job.unlisted ? 1 : 2);
    const places = new Map(
      week.rows.map((row) => [row, row.projectId ? nameOfJob(pricer, row, 'client first') : row.unlisted]),
    );
    week.rows.sort((a, b) => rank(a) - rank(b) || collator.compare(places.get(a)!, places.get(b)!));
    const there = new Set(week.rows.map((row) => row.key));
    const latest = new Map(
      earlier.filter((each) => each.projectId || each.unlisted).map((each) => [jobKey(each), each]),
    );
    const open = [...latest.values()].filter((each) => !there.has(jobKey(each)) && isOpenJob(pricer, each));
    return {
      week,
      offered: open.map(jobOf).slice(-MOST_OFFERED),
      before: open.filter((each) => each.day >= addDays(from, -7)).map(jobOf),
      keep,
    };
  }, [entries, earlier, plans, absences, pricer, member, from, to, kept, keep]);
}
