import type { Week } from '@half-penny/core/entries';
import { showLength, type Seconds } from '@half-penny/core/time';
import { Fill } from '../../parts/owed-fill';
import { Length } from '../../parts/figures';
import { weekTracks } from './tracks';

/** Under the jobs: what is recorded, what the break rule takes off, what is owed, and what is missing or beyond. */
export function WeekFoot({ week }: { week: Week }) {
  const anyBreak = week.deducted > 0;
  return (
    <>
      {anyBreak && (
        <div role="row" className={`${weekTracks} border-b border-rule bg-side`}>
          <div role="rowheader" className="px-2 py-1.5 text-sm text-soft italic">
            Break, taken off by rule
          </div>
          {week.days.map(({ day, deducted }) => (
            <div key={day} role="gridcell" className="px-2 py-1.5 text-right">
              {deducted > 0 && <Length seconds={-deducted} />}
            </div>
          ))}
          <div role="gridcell" className="px-2 py-1.5 text-right">
            <Length seconds={-week.deducted} />
          </div>
        </div>
      )}
      <div role="row" className={weekTracks}>
        <div role="rowheader" className="px-2 py-2 font-bold">
          Recorded
        </div>
        {week.days.map((each) => (
          <div key={each.day} role="gridcell" className="px-2 py-2 text-right">
            {each.recorded > 0 && (
              <span className="total-rule inline-block">
                <Length seconds={each.recorded - each.deducted} />
              </span>
            )}
          </div>
        ))}
        <div role="gridcell" className="px-2 py-2 text-right">
          <span className="total-rule inline-block">
            <Length seconds={week.recorded - week.deducted} />
          </span>
        </div>
      </div>
      <div role="row" className={`${weekTracks} text-xs text-soft`}>
        <div role="rowheader" className="px-2 pb-2">
          Owed
        </div>
        {week.days.map((each) => (
          <div key={each.day} role="gridcell" className="px-2 pb-2 text-right">
            <Fill recorded={each.recorded - each.deducted} owed={each.owed} />
            <span className="font-mono">{each.owed > 0 ? showLength(each.owed) : ''}</span>
            <span className="block whitespace-nowrap">{difference(each.recorded - each.deducted, each.owed)}</span>
          </div>
        ))}
        <div role="gridcell" className="px-2 pb-2 text-right">
          <Fill recorded={week.recorded - week.deducted} owed={week.owed} />
          <span className="font-mono">{showLength(week.owed)}</span>
          <span className="block whitespace-nowrap">{difference(week.recorded - week.deducted, week.owed)}</span>
        </div>
      </div>
      {week.planned > 0 && (
        <div role="row" className={`${weekTracks} border-t border-rule text-xs text-soft`}>
          <div role="rowheader" className="px-2 py-1.5">
            Planned
          </div>
          {week.days.map((each) => (
            <div key={each.day} role="gridcell" className="px-2 py-1.5 text-right font-mono">
              {each.planned > 0 && showLength(each.planned)}
            </div>
          ))}
          <div role="gridcell" className="px-2 py-1.5 text-right font-mono">
            {showLength(week.planned)}
          </div>
        </div>
      )}
    </>
  );
}

/** "0:45 missing", "1:10 beyond"; nothing where it is even. */
function difference(recorded: Seconds, owed: Seconds): string {
  if (recorded === owed || (owed === 0 && recorded === 0)) return '';
  return recorded < owed ? `${showLength(owed - recorded)} missing` : `${showLength(recorded - owed)} beyond`;
}
