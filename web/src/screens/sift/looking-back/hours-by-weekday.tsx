import { Section } from '../../../parts/page';
import { minutesOf } from '../evidence';
import { WEEKDAYS } from './weekdays';

/** Hours by weekday: the more of an hour was seen, the darker; each cell says its minutes. */
export function HoursByWeekday({ heat }: { heat: readonly (readonly number[])[] }) {
  const most = Math.max(1, ...heat.flat());
  const used = heat.flatMap((line) => line.flatMap((ms, hour) => (ms > 0 ? [hour] : [])));
  if (used.length === 0) return null;
  const hours = Array.from({ length: 24 }, (_, hour) => hour).filter(
    (hour) => hour >= Math.min(...used) && hour <= Math.max(...used),
  );
  return (
    <Section title="Hours by weekday">
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Table of hours by weekday">
        <table className="border-separate border-spacing-0.5 font-mono text-xs">
          <thead>
            <tr>
              <td />
              {hours.map((hour) => (
                <th key={hour} scope="col" className="w-11 font-normal text-soft">
                  {String(hour).padStart(2, '0')}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {heat.map((line, day) => (
              <tr key={day}>
                <th scope="row" className="pr-2 text-left font-normal text-soft">
                  {WEEKDAYS[day]}
                </th>
                {hours.map((hour) => {
                  const share = line[hour]! / most;
                  return (
                    <td
                      key={hour}
                      className="h-7 text-center"
                      style={{
                        background: `color-mix(in srgb, var(--color-time) ${Math.round(share * 40)}%, var(--color-sheet))`,
                      }}
                    >
                      {line[hour]! >= 30_000 ? minutesOf(line[hour]!) : ''}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Section>
  );
}
