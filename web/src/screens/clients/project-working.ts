import type { Pricer } from '@half-penny/core/billing';
import { noTally, priceOfWork, type TalliedWork } from '@half-penny/core/costing';
import type { Project } from '@half-penny/core/model';
import { bareAmount, divideRounded, fromScaled, lessExact } from '@half-penny/core/money';
import { amountFigure, lengthFigure, textFigure, type Step, type Working } from '@half-penny/core/rates';
import { showLength } from '@half-penny/core/time';

/** What a project comes to, as a slip: price less cost, with markup and margin as the pair they are. */
export function projectWorking(pricer: Pricer, project: Project, work: TalliedWork, currency: string): Working {
  const { seconds, cost, uncosted, invoiced, toBill } = work.rolled.get(project.id) ?? noTally;
  const amount = (minor: number) => amountFigure(minor, currency);
  const steps: Step[] = [{ label: 'Recorded', figure: lengthFigure(seconds) }];
  if (project.kind === 'internal') {
    return {
      title: project.name,
      steps: [...steps, ...costSteps(cost, uncosted, currency)],
      result: { label: 'Cost', figure: amount(cost) },
    };
  }
  const { fixed, hourly, covered } = priceOfWork(pricer, work, project.id);
  const price = fixed + hourly;
  const hasFixed = pricer.tree.downFrom(project.id).some((each) => each.kind === 'fixed price');
  if (hasFixed) {
    steps.push({
      label: 'Fixed price',
      figure: amount(fixed),
      remark: `its hours at their rates: ${bareAmount(covered, currency)}`,
    });
  }
  if (!hasFixed || hourly > 0)
    steps.push({ label: 'By the hour', figure: amount(hourly), remark: 'worth at its rates' });
  steps.push(...costSteps(cost, uncosted, currency));
  if (cost > 0) {
    steps.push({
      label: 'Markup',
      figure: textFigure(`${percent(lessExact(price, cost), cost)} %`),
      remark: 'of cost',
    });
    if (price > 0) {
      steps.push({
        label: 'Margin',
        figure: textFigure(`${percent(lessExact(price, cost), price)} %`),
        remark: 'of price',
      });
    }
  }
  steps.push({ label: 'Invoiced', figure: amount(invoiced), ruled: true });
  steps.push({ label: 'To bill by the hour', figure: amount(toBill) });
  return { title: project.name, steps, result: { label: 'Price less cost', figure: amount(lessExact(price, cost)) } };
}

const costSteps = (cost: number, uncosted: number, currency: string): Step[] => [
  {
    label: 'Cost of the work',
    figure: amountFigure(cost, currency),
    remark:
      uncosted === 0
        ? 'by cost rates'
        : `by cost rates; ${showLength(uncosted)} h have none${cost === 0 ? ': set them in Setup → People' : ''}`,
  },
];

/** A part of a whole in percent, to one place. */
const percent = (part: number, whole: number): string =>
  fromScaled(divideRounded(BigInt(part) * 1000n, BigInt(whole), 'half away from zero') * 1000);
