import type { BudgetStanding, Measure } from '@half-penny/core/costing';
import { showAmount } from '@half-penny/core/money';
import { showDayShort, showLength } from '@half-penny/core/time';
import { Fill } from './owed-fill';

/** A budget in one line: a thin fill and what is left in words; attention from its share on. */
export function BudgetFill({ standing, currency }: { standing: BudgetStanding; currency: string }) {
  const main = standing.hours ?? standing.money;
  if (!main) return null;
  return (
    <span className="block max-w-72">
      <Fill recorded={main.used} owed={main.of} />
      <span className={`text-xs ${standing.notice ? 'text-attention' : 'text-soft'}`}>
        {inWords(main, standing.hours ? 'hours' : 'money', currency)}
      </span>
    </span>
  );
}

/** "62 % of 420 h used, 160 h left; used up on 4 Mar at this pace". */
export function inWords(measure: Measure, kind: 'hours' | 'money', currency: string): string {
  const show = (value: number) => (kind === 'hours' ? `${showLength(value)} h` : showAmount(value, currency));
  const used = `${measure.percent} % of ${show(measure.of)} used`;
  if (measure.left < 0) return `${used}, ${show(-measure.left)} beyond it`;
  const until = measure.usedUpOn ? `; used up on ${showDayShort(measure.usedUpOn)} at this pace` : '';
  return `${used}, ${show(measure.left)} left${until}`;
}
