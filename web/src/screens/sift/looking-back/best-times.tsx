import { shareOfWeighed, type Habits, type Taker, type Weighed } from '@half-penny/core/capture';
import { Section } from '../../../parts/page';
import { minutesOf } from '../evidence';
import { WEEKDAYS } from './weekdays';

/** Less than this tells nothing about an hour or a weekday. */
const TELLING = 30 * 60_000;

interface BestTimesProps {
  habits: Habits;
  takers: readonly Taker[];
  /** Whether any job is in a weight group. */
  weighted: boolean;
}

/** When work counts most, by weighted share and not by presence; and what takes time from it. */
export function BestTimes({ habits, takers, weighted }: BestTimesProps) {
  const why = weighted
    ? 'Too little of the time here is in weight groups.'
    : 'Put jobs into weight groups below: then it is known when work counts most.';
  const hours = habits.hours.map((of, hour) => ({ name: `${String(hour).padStart(2, '0')}:00`, of }));
  const weekdays = habits.weekdays.map((of, at) => ({ name: WEEKDAYS[at]!, of }));
  return (
    <div className="grid gap-x-8 md:grid-cols-2 xl:grid-cols-3">
      <Section title="Best hours">
        <Ranked rows={hours} none={why} />
      </Section>
      <Section title="Best weekdays">
        <Ranked rows={weekdays} none={why} />
      </Section>
      <Section title="What takes time from the work">
        {takers.length === 0 ? (
          <p className="border-t border-ink pt-2 text-sm text-soft">
            Nothing here is placed as not work, or on a job that counts less than half.
          </p>
        ) : (
          <ol className="border-t border-ink">
            {takers.map(({ name, seen }) => (
              <li key={name} className="flex justify-between gap-3 border-b border-rule px-1 py-1.5">
                <span className="written clamp-2 [overflow-wrap:anywhere]">{name}</span>
                <span className="font-mono text-time">{minutesOf(seen)}</span>
              </li>
            ))}
          </ol>
        )}
      </Section>
    </div>
  );
}

const MOST = 5;

function Ranked({ rows, none }: { rows: readonly { name: string; of: Weighed }[]; none: string }) {
  const telling = rows
    .flatMap(({ name, of }) => {
      const share = shareOfWeighed(of);
      return share === null || of.weighable < TELLING ? [] : [{ name, of, share }];
    })
    .sort((a, b) => b.share - a.share || b.of.weighable - a.of.weighable)
    .slice(0, MOST);
  if (telling.length === 0) return <p className="border-t border-ink pt-2 text-sm text-soft">{none}</p>;
  return (
    <ol className="border-t border-ink">
      {telling.map(({ name, of, share }) => (
        <li
          key={name}
          className="grid grid-cols-[52px_minmax(0,1fr)_52px_56px] items-center gap-2 border-b border-rule px-1 py-1.5"
        >
          <span>{name}</span>
          <span aria-hidden className="h-2.5 bg-paper">
            <span className="block h-full bg-time" style={{ width: `${share}%` }} />
          </span>
          <span className="text-right font-mono">{Math.round(share)} %</span>
          <span className="text-right font-mono text-sm text-soft" title="of so much time in groups">
            {minutesOf(of.weighable)}
          </span>
        </li>
      ))}
    </ol>
  );
}
