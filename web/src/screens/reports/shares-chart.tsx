import { sumExact } from '@half-penny/core/money';
import { share, showPercent } from '@half-penny/core/reports';
import type { Point } from './chart';

/** Each group's share as a length of one rule, largest first, labelled at its side. */
export function Shares({ points }: { points: readonly Point[] }) {
  const whole = sumExact(points.map(({ value }) => value));
  const list = [...points].filter((each) => each.value > 0).sort((a, b) => b.value - a.value);
  return (
    <ul className="max-w-3xl" tabIndex={0} aria-label="Shares">
      {list.map((each) => {
        const hundredths = share(each.value, whole) ?? 0;
        return (
          <li key={each.label} className="grid grid-cols-[minmax(0,14rem)_1fr_auto] items-center gap-3 py-0.5">
            <span className="written clamp-2">{each.label}</span>
            <span className="h-3 border-l border-ink">
              <span className="block h-full" style={{ width: `${hundredths / 100}%`, background: each.fill }} />
            </span>
            <span className="font-mono text-sm">
              {showPercent(hundredths)} · {each.shown}
            </span>
          </li>
        );
      })}
    </ul>
  );
}
