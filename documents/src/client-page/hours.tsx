import { hoursByDay } from '@half-penny/core/client-page';
import { sumExact } from '@half-penny/core/money';
import { addDays, showLength, type Day } from '@half-penny/core/time';
import { showDay } from '../invoice-view';
import type { Told } from './told';

/** Each day's hours as a bar that hangs from the line of days. */
export function Hours({ page, t }: Told) {
  const days = hoursByDay(page.items, (day) => addDays(day, 1));
  if (days.length < 2) return null;
  const most = Math.max(...days.map((day) => day.seconds), 1);
  const all = sumExact(days.map((day) => day.seconds));
  const show = (day: Day) => showDay(page.frozen, day);
  const label = t('hoursByDay', { hours: showLength(all) });
  const WIDE = 12;
  return (
    <section>
      <h2>{label}</h2>
      <svg
        className="days"
        viewBox={`0 0 ${days.length * WIDE} 58`}
        preserveAspectRatio="none"
        role="img"
        aria-label={days
          .filter((day) => day.seconds > 0)
          .map((day) => `${show(day.day)} ${showLength(day.seconds)}`)
          .join('; ')}
      >
        <line x1="0" y1="2" x2={days.length * WIDE} y2="2" strokeWidth="1.5" />
        {days.map(({ day, seconds }, index) => (
          <rect
            key={day}
            x={index * WIDE + 3}
            y="2"
            width={WIDE - 6}
            height={seconds === 0 ? 0 : 3 + (52 * seconds) / most}
          >
            <title>{`${show(day)}: ${showLength(seconds)}`}</title>
          </rect>
        ))}
      </svg>
      <p className="ends">
        <span>{show(days[0]!.day)}</span>
        <span>{show(days.at(-1)!.day)}</span>
      </p>
    </section>
  );
}
