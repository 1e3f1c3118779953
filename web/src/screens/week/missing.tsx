import { jobName, type Pricer } from '@half-penny/core/billing';
import { inWords, missingIn } from '@half-penny/core/entries';
import type { Member } from '@half-penny/core/model';
import { daysFrom, showExactly, showLength, type Day } from '@half-penny/core/time';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useAbsences, useEntriesOfRange } from '../../data/queries';
import { showDay, showShortestDay } from '../../parts/days';
import { Section } from '../../parts/page';
import { PeriodPicker } from '../../parts/period-picker';

interface MissingProps {
  pricer: Pricer;
  member: Member;
  today: Day;
  from: Day;
  to: Day;
}

const MOST = 40;

/** What keeps a range of days from being complete, with the way to each. */
export function Missing({ pricer, member, today, from, to }: MissingProps) {
  const [range, setRange] = useState({ from, to });
  // With another week on the sheet the range follows it.
  const [week, setWeek] = useState(from);
  if (week !== from) {
    setWeek(from);
    setRange({ from, to });
  }
  const entries = useEntriesOfRange(member.id, range.from, range.to);
  const absences = useAbsences();
  const missing = useMemo(() => {
    if (!entries || !absences) return null;
    const days = daysFrom(range.from, range.to < today ? range.to : today);
    return missingIn({ member, days, entries, absences, breakRule: pricer.book.workspace.breakRule });
  }, [entries, absences, range, today, member, pricer]);
  const dayLink = (day: Day) => `/today?day=${day}&member=${member.id}`;
  const total = missing?.days.reduce((sum, each) => sum + each.missing, 0) ?? 0;
  return (
    <div className="mt-8">
      <Section
        title="What is missing"
        actions={
          <PeriodPicker
            workspace={pricer.book.workspace}
            today={today}
            {...range}
            onPick={(first, last) => setRange({ from: first, to: last })}
          />
        }
      >
        {missing && (
          <div className="border-t border-ink">
            {missing.days.length + missing.unlisted.length + missing.incomplete.length === 0 && (
              <p className="py-3 text-soft">
                Nothing is missing{' '}
                {range.to > today
                  ? 'up to today'
                  : `from ${showShortestDay(range.from)} to ${showShortestDay(range.to)}`}
                .
              </p>
            )}
            {missing.days.length > 0 && (
              <Line label={`${showLength(total)} of owed hours`}>
                {missing.days.slice(0, MOST).map((each) => (
                  <Link key={each.day} to={dayLink(each.day)} className={linkLook}>
                    {showDay(each.day)}{' '}
                    <span className="font-mono text-sm text-soft">
                      {showLength(each.missing)} of {showLength(each.owed)}
                    </span>
                  </Link>
                ))}
                {missing.days.length > MOST && (
                  <span className="text-soft">and {missing.days.length - MOST} more days</span>
                )}
              </Line>
            )}
            {missing.unlisted.length > 0 && (
              <Line label={missing.unlisted.length === 1 ? 'A job that is not set up' : 'Jobs that are not set up'}>
                {missing.unlisted.slice(0, MOST).map((each) => (
                  <Link key={each.words} to="/clients#unlisted" className={linkLook}>
                    <span className="written">“{each.words.slice(0, 80)}”</span>{' '}
                    <span className="text-sm text-soft">{showExactly(each.seconds)}</span>
                  </Link>
                ))}
              </Line>
            )}
            {missing.incomplete.length > 0 && (
              <Line label="Entries with something missing">
                {missing.incomplete.slice(0, MOST).map(({ entry, lacks }) => (
                  <Link key={entry.id} to={`${dayLink(entry.day)}&entry=${entry.id}`} className={linkLook}>
                    {showShortestDay(entry.day)}{' '}
                    <span className="written">
                      {(entry.note.trim() || jobName(pricer, entry.projectId, entry.unlisted)).slice(0, 60)}
                    </span>{' '}
                    <span className="text-sm text-attention">needs {inWords(lacks)}</span>
                  </Link>
                ))}
                {missing.incomplete.length > MOST && (
                  <span className="text-soft">and {missing.incomplete.length - MOST} more</span>
                )}
              </Line>
            )}
          </div>
        )}
      </Section>
    </div>
  );
}

const linkLook = 'rounded-sm underline-offset-4 hover:underline';

function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="grid gap-x-4 gap-y-1 border-b border-rule px-2 py-2 md:grid-cols-[190px_1fr]">
      <div className="text-attention">{label}</div>
      <div className="flex flex-wrap gap-x-5 gap-y-1">{children}</div>
    </div>
  );
}
