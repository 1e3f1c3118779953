import { showShortDay } from '../../../parts/days';
import type { Looked } from '../../../workers/capture';
import { showLength, type Day } from '@half-penny/core/time';
import { minutesOf } from '../evidence';

/** Whole minutes, as they are shown: what stands beside one another has the difference that is said. */
const minutes = (ms: number): number => Math.round(ms / 60_000);

/** How much was seen, against the days before it, or of one day against a usual one. */
export function Against({ looked, from, to }: { looked: Looked; from: Day; to: Day }) {
  const { seen, against } = looked;
  const more = seen >= against.seen;
  const difference = showLength(Math.abs(minutes(seen) - minutes(against.seen)) * 60);
  const one = from === to;
  const than = one
    ? `a usual day of the ${against.days} before it`
    : `${showShortDay(against.from)} – ${showShortDay(against.to)}`;
  return (
    <p className="pb-1">
      Seen in all <b className="font-mono text-time">{minutesOf(seen)}</b>
      {against.days > 0 && (
        <>
          , <span className="font-mono text-time">{difference}</span> {more ? 'more' : 'less'} than {than} (
          <span className="font-mono">{minutesOf(against.seen)}</span>)
        </>
      )}
      <span className="text-soft">; private time is left out</span>
    </p>
  );
}
