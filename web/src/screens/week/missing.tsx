import { jobName, type Pricer } from '@half-penny/core/billing';
import { missingInWords, missingIn } from '@half-penny/core/entries';
import type { Member } from '@half-penny/core/model';
import { daysFrom, showExactly, showLength, type Day } from '@half-penny/core/time';
import { useMemo, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useAbsences, useEntriesOfRange, usePlansOfRange, useBegan, useSeenMembers } from '../../data/queries';
import { showDay, showShortestDay } from '../../parts/days';
import { Section } from '../../parts/page';
import { PeriodPicker } from '../../parts/period-picker';
import { CheckBox } from '../../parts/check';

interface MissingProps {
  pricer: Pricer;
  member: Member;
  today: Day;
  from: Day;
  to: Day;
}

const MOST = 40;

/** What keeps a range of days from being complete, with the way to each: of one member, or of everybody. */
export function Missing({ pricer, member, today, from, to }: MissingProps) {
  const [range, setRange] = useState({ from, to });
  const [everybody, setEverybody] = useState(false);
  // With another week on the sheet the range follows it.
  const [week, setWeek] = useState(from);
  if (week !== from) {
    setWeek(from);
    setRange({ from, to });
  }
  const members = useSeenMembers(pricer);
  const shown = everybody ? members : [member];
  return (
    <div className="mt-8">
      <Section
        title="What is missing"
        actions={
          <>
            {members.length > 1 && (
              <label className="flex items-center gap-2 text-sm">
                <CheckBox checked={everybody} onChange={setEverybody} />
                Everybody
              </label>
            )}
            <PeriodPicker
              workspace={pricer.book.workspace}
              today={today}
              {...range}
              onPick={(first, last) => setRange({ from: first, to: last })}
            />
          </>
        }
      >
        {shown.map((each) => (
          <MissingOf key={each.id} {...{ pricer, today }} member={each} {...range} named={everybody} />
        ))}
      </Section>
    </div>
  );
}

function MissingOf({ pricer, member, today, from, to, named }: MissingProps & { named: boolean }) {
  const entries = useEntriesOfRange(member.id, from, to);
  const plans = usePlansOfRange(member.id, from, to);
  const began = useBegan(member);
  const absences = useAbsences();
  const missing = useMemo(() => {
    if (!entries || !plans || !absences || began === undefined) return null;
    const { breakRule, cutOff } = pricer.book.workspace;
    const first = began > from ? began : from;
    const days = daysFrom(first, to < today ? to : today);
    return missingIn({ member, days, entries, absences, breakRule, plans, today, cutOff });
  }, [entries, plans, absences, began, from, to, today, member, pricer]);
  const dayLink = (day: Day) => `/today?day=${day}&member=${member.id}`;
  if (!missing) return null;
  const total = missing.days.reduce((sum, each) => sum + each.missing, 0);
  const count = missing.days.length + missing.unlisted.length + missing.incomplete.length + missing.undone.length;
  return (
    <div className="border-t border-ink">
      {named && (
        <h3 className="flex flex-wrap items-baseline gap-x-3 px-2 pt-2 font-semibold">
          <span className="written">{member.name}</span>
          {missing.late > 0 && (
            <span className="text-sm font-normal text-attention">
              {missing.late} {missing.late === 1 ? 'day' : 'days'} after the cut-off
            </span>
          )}
        </h3>
      )}
      {count === 0 && (
        <p className="px-2 py-3 text-soft">
          Nothing is missing {to > today ? 'up to today' : `from ${showShortestDay(from)} to ${showShortestDay(to)}`}.
        </p>
      )}
      <Lines
        label={`${showLength(total)} of owed hours`}
        rows={missing.days}
        more="more days"
        line={(each) => (
          <Link key={each.day} to={dayLink(each.day)} className={linkLook}>
            {showDay(each.day)}{' '}
            <span className="font-mono text-sm text-soft">
              {showLength(each.missing)} of {showLength(each.owed)}
            </span>
          </Link>
        )}
      />
      <Lines
        label="Planned, and nothing recorded"
        rows={missing.undone}
        line={(plan) => (
          <Link key={plan.id} to={dayLink(plan.day)} className={linkLook}>
            {showShortestDay(plan.day)}{' '}
            <span className="written">
              {(plan.note.trim() || jobName(pricer, plan.projectId, plan.unlisted)).slice(0, 60)}
            </span>{' '}
            <span className="font-mono text-sm text-soft">{showLength(plan.seconds)}</span>
          </Link>
        )}
      />
      <Lines
        label={missing.unlisted.length === 1 ? 'A job that is not set up' : 'Jobs that are not set up'}
        rows={missing.unlisted}
        line={(each) => (
          <Link key={each.words} to="/clients#unlisted" className={linkLook}>
            <span className="written">“{each.words.slice(0, 80)}”</span>{' '}
            <span className="text-sm text-soft">{showExactly(each.seconds)}</span>
          </Link>
        )}
      />
      <Lines
        label="Entries with something missing"
        rows={missing.incomplete}
        line={({ entry, lacks }) => (
          <Link key={entry.id} to={`${dayLink(entry.day)}&entry=${entry.id}`} className={linkLook}>
            {showShortestDay(entry.day)}{' '}
            <span className="written">
              {(entry.note.trim() || jobName(pricer, entry.projectId, entry.unlisted)).slice(0, 60)}
            </span>{' '}
            <span className="text-sm text-attention">needs {missingInWords(lacks)}</span>
          </Link>
        )}
      />
    </div>
  );
}

const linkLook = 'rounded-sm underline-offset-4 hover:underline';

interface LinesProps<Row> {
  label: string;
  rows: readonly Row[];
  line: (row: Row) => ReactNode;
  more?: string;
}

/** One kind of what is missing, with the way to each; nothing where there is none. */
function Lines<Row>({ label, rows, line, more = 'more' }: LinesProps<Row>) {
  if (rows.length === 0) return null;
  return (
    <div className="grid gap-x-4 gap-y-1 border-b border-rule px-2 py-2 md:grid-cols-[190px_1fr]">
      <div className="text-attention">{label}</div>
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        {rows.slice(0, MOST).map(line)}
        {rows.length > MOST && (
          <span className="text-soft">
            and {rows.length - MOST} {more}
          </span>
        )}
      </div>
    </div>
  );
}
