import type { Seconds } from '@half-penny/core/time';
import { showLength } from '@half-penny/core/time';

const fractions: readonly [number, number, string][] = [
  [1, 2, '½'],
  [1, 3, '⅓'],
  [2, 3, '⅔'],
  [1, 4, '¼'],
  [3, 4, '¾'],
  [1, 5, '⅕'],
  [2, 5, '⅖'],
  [3, 5, '⅗'],
  [4, 5, '⅘'],
];

/** "1", "0", the nearest plain fraction, or "…" where none is near. */
export function strikeOf(seconds: Seconds, billable: Seconds): string {
  if (billable <= 0) return '0';
  if (billable >= seconds) return '1';
  // Near: within a fiftieth of the whole. Compared in whole numbers.
  const near = fractions.find(([top, bottom]) => Math.abs(billable * bottom - seconds * top) * 50 <= seconds * bottom);
  return near?.[2] ?? '…';
}

/** How billable an entry is, in words. */
export function describeBillable(seconds: Seconds, billable: Seconds): string {
  if (billable <= 0) return 'Not billable';
  if (billable >= seconds) return 'Billable';
  return `${showLength(billable)} of ${showLength(seconds)} billable`;
}

interface CoinProps {
  seconds: Seconds;
  billable: Seconds;
  size?: number;
}

/** The coin: milled edge, struck with how much of an entry is billable. */
export function Coin({ seconds, billable, size = 22 }: CoinProps) {
  const strike = strikeOf(seconds, billable);
  const full = strike === '1';
  const blank = strike === '0';
  return (
    <svg viewBox="0 0 22 22" width={size} height={size} role="img" aria-label={describeBillable(seconds, billable)}>
      <circle
        cx="11"
        cy="11"
        r="9.4"
        className={
          full ? 'fill-money stroke-money' : blank ? 'fill-transparent stroke-soft' : 'fill-money-ground stroke-money'
        }
        strokeWidth="2"
        strokeDasharray="1.5 1.03"
      />
      <circle cx="11" cy="11" r="8.2" className={full ? 'fill-money' : 'fill-transparent'} />
      <text
        x="11"
        y="15"
        textAnchor="middle"
        className={`text-[11px] font-bold ${full ? 'fill-sheet' : blank ? 'fill-soft' : 'fill-money'}`}
      >
        {strike}
      </text>
    </svg>
  );
}
