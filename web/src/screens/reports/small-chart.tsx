import { measureOf, type SmallPicture } from '@half-penny/core/reports';
import type { LengthStyle } from '@half-penny/core/time';
import { showShort } from './show-short';

const WIDE = 96;
const HIGH = 34;
const GAP = 2;
/** More letters than this stand in the picture's width only when they are small. */
const LONG = 11;

/** A report in small: bars and the whole. The largest groups lie one below the other; over time they stand side by side. */
export function SmallChart({ picture, style }: { picture: SmallPicture | null | undefined; style: LengthStyle }) {
  if (!picture) {
    return (
      <span className="block w-24 text-right text-xs text-soft" aria-hidden>
        <span className="mt-[33px] block border-t border-rule" />
        {picture === null ? 'nothing yet' : '…'}
      </span>
    );
  }
  const { points, overTime, kind, whole, currency, others } = picture;
  const show = (value: number) => showShort(value, kind, currency, style);
  const most = Math.max(1, ...points.map(({ value }) => Math.abs(value)));
  const each = (overTime ? WIDE : HIGH) / points.length - GAP;
  const thick = Math.min(each, overTime ? 14 : 7);
  const said = points.slice(0, 5).map(({ label, value }) => `${label} ${show(value)}`);
  return (
    <span className="block w-24 text-right">
      <svg
        role="img"
        aria-label={`${measureOf(picture.measure).label}: ${said.join(', ')}`}
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        className={`block h-[34px] w-24 ${kind === 'money' || kind === 'money an hour' ? 'fill-money' : 'fill-time'}`}
      >
        {points.map(({ label, value }, at) => {
          const share = Math.abs(value) / most;
          const from = at * (each + GAP);
          return (
            <rect
              key={label}
              opacity={value < 0 ? 0.45 : 1}
              {...(overTime
                ? { x: from, y: HIGH - share * HIGH, width: thick, height: Math.max(1, share * HIGH) }
                : { x: 0, y: from, width: Math.max(1, share * WIDE), height: thick })}
            />
          );
        })}
      </svg>
      {whole !== null && (
        <span
          className={`block border-t border-ink font-mono whitespace-nowrap text-soft ${show(whole).length > LONG ? 'text-[10px] leading-4' : 'text-xs'}`}
        >
          {show(whole)}
          {others && <span title="and some in other currencies"> +</span>}
        </span>
      )}
    </span>
  );
}
