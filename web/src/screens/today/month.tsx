import type { Pricer } from '@half-penny/core/billing';
import { partsByDay, shareOver, weekOf, type Week } from '@half-penny/core/entries';
import type { Entry, Member } from '@half-penny/core/model';
import { showAmount, type Minor } from '@half-penny/core/money';
import {
  addDays,
  daysFrom,
  firstOfMonth,
  lastOfMonth,
  MONTH_NAMES,
  showLength,
  startOfWeek,
  type Day,
} from '@half-penny/core/time';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useMemo, useRef, type KeyboardEvent } from 'react';
import { useAbsences, useEntriesOfRange } from '../../data/queries';
import { Button } from '../../parts/button';
import { showDay, showMonth, showWeekday } from '../../parts/days';
import { Length } from '../../parts/figures';
import { Fill, OwedFill } from '../../parts/owed-fill';
import { Loading, Page } from '../../parts/page';
import { Tallies, type Tally } from '../../parts/tallies';
import { useWorthSeen, type WorthSeen } from '../../data/worth-seen';

interface MonthProps {
  pricer: Pricer;
  member: Member;
  day: Day;
  today: Day;
  onGo: (day: Day) => void;
  onMonth: (day: Day) => void;
}

/** A month as a page of the book: a line for each week, hours and worth of each day, sums at the end of the line. */
export default function Month({ pricer, member, day, today, onGo, onMonth }: MonthProps) {
  const { workspace } = pricer.book;
  const from = firstOfMonth(day);
  const to = lastOfMonth(day);
  const entries = useEntriesOfRange(member.id, from, to);
  const absences = useAbsences();
  const grid = useRef<HTMLDivElement>(null);
  const seen = useWorthSeen(pricer);
  const data = useMemo(() => {
    if (!entries || !absences) return null;
    const days = daysFrom(from, to);
    const { breakRule } = workspace;
    const month = weekOf({ member, days, entries, plans: [], absences, breakRule });
    return { month, worth: worthByDay(pricer, seen, member, entries) };
  }, [entries, absences, from, to, workspace, member, pricer, seen]);
  const title = showMonth(day);
  const actions = <Button onClick={() => onGo(day)}>Back to the day</Button>;
  const travel = (
    <nav aria-label="Months" className="flex items-center gap-1">
      <Button kind="quiet" aria-label="The month before" onClick={() => onMonth(firstOfMonth(day, -1))}>
        <ChevronLeft size={16} />
      </Button>
      <Button kind="quiet" aria-label="The month after" onClick={() => onMonth(firstOfMonth(day, 1))}>
        <ChevronRight size={16} />
      </Button>
    </nav>
  );
  if (!data)
    return (
      <Page title={title} aside={travel}>
        <Loading />
      </Page>
    );
  const { month, worth } = data;
  const byDay = new Map(month.days.map((each) => [each.day, each]));
  const weeks: Day[] = [];
  for (let start = startOfWeek(from, workspace.cutOff); start <= to; start = addDays(start, 7)) weeks.push(start);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 }[event.key];
    const here = (event.target as HTMLElement).dataset.day;
    if (!step || !here) return;
    event.preventDefault();
    grid.current?.querySelector<HTMLElement>(`[data-day="${addDays(here, step)}"]`)?.focus();
  };
  const tallies = (days: readonly Day[]): Tally[] => days.flatMap((each) => worth.get(each) ?? []);
  return (
    <Page title={title} aside={travel} actions={actions}>
      <MonthStrip {...{ day, today, onMonth }} />
      <div ref={grid} role="grid" aria-label={`Days of ${title}`} onKeyDown={onKeyDown} className="border-t border-ink">
        <div role="row" className={tracks}>
          {daysFrom(weeks[0]!, addDays(weeks[0]!, 6)).map((each) => (
            <div key={each} role="columnheader" className="px-2 py-1.5 text-xs font-semibold text-soft">
              {showWeekday(each)}
            </div>
          ))}
          <div role="columnheader" className="px-2 py-1.5 text-right text-xs font-semibold text-soft">
            Week
          </div>
        </div>
        {weeks.map((start) => {
          const days = daysFrom(start, addDays(start, 6)).filter((each) => byDay.has(each));
          const seconds = days.reduce((sum, each) => sum + byDay.get(each)!.recorded - byDay.get(each)!.deducted, 0);
          return (
            <div role="row" key={start} className={`${tracks} border-t border-rule`}>
              {daysFrom(start, addDays(start, 6)).map((each) => {
                const found = byDay.get(each);
                if (!found) return <div key={each} role="gridcell" className="bg-side" />;
                const net = found.recorded - found.deducted;
                return (
                  <div key={each} role="gridcell" className="min-w-0 border-l border-rule first:border-l-0">
                    <button
                      type="button"
                      data-day={each}
                      tabIndex={each === day ? 0 : -1}
                      onClick={() => onGo(each)}
                      aria-label={`${showDay(each)}, ${showLength(net)}`}
                      className={`flex min-h-[74px] w-full flex-col px-2 py-1.5 text-left max-md:px-1 hover:bg-time-ground ${each === day ? 'bg-time-ground' : ''}`}
                    >
                      <span className={`text-xs ${each === today ? 'font-bold text-ink' : 'text-soft'}`}>
                        {Number(each.slice(8))}
                        {each === today && <span className="max-md:hidden"> · today</span>}
                      </span>
                      <span className="font-mono font-semibold text-time max-md:text-xs">
                        {net > 0 ? showLength(net) : ' '}
                      </span>
                      <span className="truncate text-sm text-money max-md:hidden">
                        {(worth.get(each) ?? []).map((tally) => showAmount(tally.amount, tally.currency)).join(' + ')}
                      </span>
                      <span className="mt-auto block">
                        <Fill recorded={net} owed={found.owed} />
                      </span>
                    </button>
                  </div>
                );
              })}
              <div role="gridcell" className="flex flex-col items-end justify-center gap-0.5 px-2 py-1.5 max-md:px-1">
                {seconds > 0 && (
                  <span className="font-mono font-semibold text-time max-md:text-xs">{showLength(seconds)}</span>
                )}
                {tallies(days).length > 0 && (
                  <span className="max-md:hidden">
                    <Tallies of="the week" home={workspace.currency} parts={tallies(days)} />
                  </span>
                )}
              </div>
            </div>
          );
        })}
      </div>
      <div className="mt-4 flex flex-wrap items-center gap-6 border-t border-ink px-2 pt-3">
        <span className="font-bold">The month</span>
        <span className="total-rule font-bold">
          <Length seconds={month.recorded - month.deducted} whole />
        </span>
        {seen.any && (
          <span className="total-rule">
            <Tallies of={title} home={workspace.currency} parts={tallies(month.days.map((each) => each.day))} />
          </span>
        )}
        <OwedFill {...soFar(month, today)} period={to > today ? 'up to today' : 'this month'} />
      </div>
    </Page>
  );
}

/** The year of a month as twelve steps to travel by. */
function MonthStrip({ day, today, onMonth }: Pick<MonthProps, 'day' | 'today' | 'onMonth'>) {
  return (
    <nav aria-label="Months of the year" className="mb-4 grid grid-cols-12 border-y border-rule max-md:grid-cols-6">
      {MONTH_NAMES.map((name, index) => {
        const first = `${day.slice(0, 4)}-${String(index + 1).padStart(2, '0')}-01`;
        const here = first === firstOfMonth(day);
        return (
          <button
            key={name}
            type="button"
            aria-current={here ? 'date' : undefined}
            onClick={() => onMonth(first)}
            className={`border-l border-rule px-2 py-1 text-left text-xs first:border-l-0 hover:bg-time-ground ${here ? 'bg-time-ground font-bold text-ink' : first > today ? 'text-soft' : 'text-ink'}`}
          >
            {name.slice(0, 3)}
          </button>
        );
      })}
    </nav>
  );
}

/** What is ahead is not missing yet. */
function soFar(month: Week, today: Day): { recorded: number; owed: number } {
  const days = month.days.filter((each) => each.day <= today);
  return {
    recorded: days.reduce((sum, each) => sum + each.recorded - each.deducted, 0),
    owed: days.reduce((sum, each) => sum + each.owed, 0),
  };
}

const tracks = 'grid grid-cols-[repeat(7,minmax(0,1fr))_96px] max-md:grid-cols-[repeat(7,minmax(0,1fr))_48px]';

const homeFirst =
  (home: string) =>
  ([a]: [string, Minor], [b]: [string, Minor]): number =>
    Number(b === home) - Number(a === home) || (a < b ? -1 : 1);

/** What each day is worth, by currency; an entry across midnight is shared over its days. */
function worthByDay(pricer: Pricer, seen: WorthSeen, member: Member, entries: readonly Entry[]): Map<Day, Tally[]> {
  const sums = new Map<Day, Map<string, Minor>>();
  for (const { entry, amount, price } of seen.of(pricer, entries)) {
    if (!price || amount === 0) continue;
    const parts = partsByDay(entry, member.zone);
    const shares = parts.length === 1 ? [amount] : shareOver(amount, parts);
    parts.forEach((part, index) => {
      const day = sums.get(part.day) ?? new Map<string, Minor>();
      sums.set(part.day, day.set(price.currency, (day.get(price.currency) ?? 0) + shares[index]!));
    });
  }
  const label = (day: Day) => showDay(day);
  return new Map(
    [...sums].map(([day, byCurrency]) => [
      day,
      [...byCurrency]
        .sort(homeFirst(pricer.book.workspace.currency))
        .map(([currency, amount]) => ({ label: label(day), amount, currency })),
    ]),
  );
}
