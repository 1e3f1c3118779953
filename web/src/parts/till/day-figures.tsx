import { jobName, type Pricer } from '@half-penny/core/billing';
import { entryOfTimer, gapsOfDay, owedOnDay, partsByDay, recordedOn, shareOver } from '@half-penny/core/entries';
import type { Entry, Member, Timer } from '@half-penny/core/model';
import { showAmount, sumExact } from '@half-penny/core/money';
import { sumWorking } from '@half-penny/core/rates';
import { covered, showLength, type Day } from '@half-penny/core/time';
import { lazy, Suspense, useMemo, type ReactNode } from 'react';
import { useAbsences } from '../../data/queries';
import { useWorthSeen } from '../../data/worth-seen';
import { useAppSelector } from '../../state/store';
import { useLater } from '../use-later';
import { Worth } from '../figures';

// What was noticed is told a moment later: the first figures do not wait for it.
const TrailSign = lazy(() => import('./trail-sign'));

interface DayFiguresProps {
  pricer: Pricer;
  member: Member;
  timer: Timer | null;
  entries: readonly Entry[];
  today: Day;
}

/** Today's hours against owed, today's worth, and what is not accounted for; what runs counts along. */
export function DayFigures({ pricer, member, timer, entries, today }: DayFiguresProps) {
  const now = useAppSelector((state) => state.clock.now);
  const absences = useAbsences();
  const later = useLater();
  const seen = useWorthSeen(pricer);
  const all = useMemo(() => {
    const before = entries.find((entry) => entry.id === timer?.entryId);
    const running = timer && entryOfTimer(timer, now, member.zone, before);
    return running ? [...entries.filter((entry) => entry !== before), running] : entries;
  }, [entries, timer, now, member.zone]);
  // A holiday that is still being read would make the day owe hours for a moment.
  if (!absences) return null;
  const owed = owedOnDay(member, today, absences);
  const { currency } = pricer.book.workspace;
  const priced = seen.of(pricer, all);
  const shares = priced
    .filter((item) => item.price?.currency === currency)
    .map(({ entry, amount }) => {
      const parts = partsByDay(entry, member.zone);
      const here = parts.findIndex((part) => part.day === today);
      return { entry, amount: here < 0 ? 0 : shareOver(amount, parts)[here]! };
    });
  const worth = sumExact(shares.map((share) => share.amount));
  const foreign = [...new Set(priced.map((item) => item.price?.currency))].filter((each) => each && each !== currency);
  // Only what is owed can be unaccounted for; what was noticed is told by the trail.
  const missing = Math.max(0, owed - recordedOn(all, today, member.zone));
  const loose = Math.min(missing, Math.floor(covered(gapsOfDay(all, today, member.zone)) / 1000));
  const working = () =>
    sumWorking(
      'Today',
      shares.map(({ entry, amount }) => ({
        label: entry.note.trim() || jobName(pricer, entry.projectId, entry.unlisted),
        minor: amount,
      })),
      currency,
    );
  return (
    <dl className="flex shrink-0 items-center text-sm max-md:order-1 md:ml-auto">
      <Figure label="Today">
        <b>{showLength(recordedOn(all, today, member.zone))}</b>{' '}
        {owed > 0 && <span className="text-till-soft">of {showLength(owed)}</span>}
      </Figure>
      {seen.any && (
        <Figure label="Worth">
          <Worth amount={worth} currency={currency} of="today" working={working} strong className="text-till-money">
            {showAmount(worth, currency)}
            {foreign.length > 0 && <span className="text-till-soft"> + {foreign.join(', ')}</span>}
          </Worth>
        </Figure>
      )}
      <Figure label="Not accounted for" wideOnly>
        {later ? (
          <Suspense fallback={<b>{showLength(loose)}</b>}>
            <TrailSign {...{ pricer, member, today, entries, timer }} between={loose} />
          </Suspense>
        ) : (
          <b>{showLength(loose)}</b>
        )}
      </Figure>
    </dl>
  );
}

function Figure({ label, children, wideOnly = false }: { label: string; children: ReactNode; wideOnly?: boolean }) {
  return (
    <div
      className={`border-l border-till-rule px-3 first:border-0 max-md:flex max-md:gap-1.5 max-md:px-2 max-md:first:pl-0 md:px-4 md:first:border-l md:last:pr-0 ${wideOnly ? 'max-lg:hidden!' : ''}`}
    >
      <dt className="text-xs text-till-soft max-md:leading-5">{label}</dt>
      <dd className="whitespace-nowrap">{children}</dd>
    </div>
  );
}
