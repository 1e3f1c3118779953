import type { Id } from '../model/ids';
import type { Client, Entry, RateLine } from '../model/records';
import type { Minor } from '../money/amount';
import { currencyDigits, type CurrencyCode } from '../money/currency';
import { SCALE, showDecimal } from '../money/decimal';
import { divideRounded, product } from '../money/rational';
import { amountFigure, lengthFigure, textFigure, type Step, type Working } from '../rates/working';
import { ALWAYS, showDayShort, showFrom } from '../time/day';
import { showExactly } from '../time/length';
import { showPolicy } from '../time/rounding';
import { codeOfEntry } from './lines';
import { jobName, type Price, type Pricer } from './pricer';
import { showMarkup, showPrice, showRate } from './format';
import type { PricedEntry } from './to-bill';

// Explaining is apart from calculating: it goes the long way round, step by step, and must arrive at the same amount.

/** Where a rate line stands, in words: "Winter season rig card". */
function cardOf(pricer: Pricer, line: Pick<RateLine, 'taskId' | 'projectId' | 'contractId' | 'clientId'>): string {
  if (line.taskId !== null) return `${pricer.task.get(line.taskId)?.name} card`;
  if (line.projectId !== null) return `${pricer.project.get(line.projectId)?.name} card`;
  if (line.contractId !== null) return `${pricer.contract.get(line.contractId)?.name} contract`;
  if (line.clientId !== null) return `${pricer.client.get(line.clientId)?.name} card`;
  return `${pricer.book.workspace.name} card`;
}

/** Which card a rate line stands on, in words: "Winter season rig card, from 1 Apr 2026". */
export function describeRate(pricer: Pricer, line: RateLine): string {
  const person = line.memberId !== null ? pricer.member.get(line.memberId)?.name : line.role;
  const service = line.serviceId !== null ? pricer.service.get(line.serviceId)?.name : null;
  return [cardOf(pricer, line), person, service, line.from <= ALWAYS ? '' : showFrom(line.from)]
    .filter(Boolean)
    .join(', ');
}

/** Why an entry is worth what it is worth: its lengths, the rate and what it beat, the product. */
export function explainPriced(pricer: Pricer, priced: PricedEntry): Working {
  const { entry } = priced;
  const title = entry.note.trim() || jobName(pricer, entry.projectId, entry.unlisted);
  const client = pricer.clientOf(entry.projectId);
  const currency = client?.currency ?? pricer.book.workspace.currency;
  const steps: Step[] = lengthSteps(pricer, priced);
  if (!client || pricer.project.get(entry.projectId!)?.kind === 'internal') {
    const why =
      entry.projectId === null
        ? entry.unlisted
          ? 'The job is not set up yet, so nobody to bill'
          : 'No job yet, so nobody to bill'
        : 'Internal work is not billed';
    return nothing(title, [...steps, { label: why }], currency);
  }
  if (!priced.price) return nothing(title, [...steps, whyNoPrice(pricer, entry, client, currency)], currency);
  steps.push(...rateSteps(pricer, entry, priced.price));
  if (!pricer.billsHours(entry.projectId)) {
    steps.push({
      label: 'Fixed price',
      remark: 'The price is agreed for the whole; this is what the hours would be worth.',
    });
  } else if (!pricer.billsEntry(entry)) {
    steps.push(estimateStep(pricer, entry.projectId, codeOfEntry(pricer, entry)));
  }
  steps.push({ ...timesStep(priced.billed, priced.price), ruled: true });
  const minor = byLongDivision(priced.billed, priced.price, pricer);
  return { title, steps, result: { label: 'Worth', figure: amountFigure(minor, currency) } };
}

/** Says which estimate is billed in place of what stands under its heading, and whose. */
export function estimateStep(pricer: Pricer, projectId: Id | null, costCodeId: Id | null): Step {
  const estimate = pricer.estimateOver(projectId, costCodeId)!;
  const heading = pricer.costCode.get(costCodeId ?? '')?.name;
  const place = `${pricer.tree.pathOf(estimate.projectId)}, ${heading ? `“${heading}”` : 'no cost code'}`;
  return {
    label: 'By estimate',
    remark: `${estimate.text ? `“${estimate.text.slice(0, 60)}”` : 'The estimate'} of ${place} is billed in place of the hours and costs under it, parts of the project included.`,
  };
}

function nothing(title: string, steps: Step[], currency: CurrencyCode): Working {
  return { title, steps, result: { label: 'Worth', figure: amountFigure(0, currency) } };
}

function lengthSteps(pricer: Pricer, { entry, seconds, billed }: PricedEntry): Step[] {
  const steps: Step[] = [{ label: 'Recorded', figure: lengthFigure(entry.seconds) }];
  if (seconds !== entry.seconds) steps.push({ label: 'Of that to bill', figure: lengthFigure(seconds) });
  const policy = showPolicy(pricer.policyOf(entry.projectId));
  steps.push({ label: 'Rounded', figure: lengthFigure(billed), remark: policy });
  return steps;
}

/** Why nothing prices a piece of work, and what to do about it. */
function whyNoPrice(pricer: Pricer, entry: Entry, client: Client, currency: CurrencyCode): Step {
  const { projectId, taskId, memberId, serviceId, day } = entry;
  const decided = pricer.rates.resolveAt(projectId, taskId, memberId, serviceId, day);
  if (!decided) return { label: 'No rate fits', remark: `Give ${client.name} or the project a rate in ${currency}.` };
  const who = pricer.member.get(memberId)?.name ?? 'the member';
  const rate = `${showRate(decided.line)} on ${describeRate(pricer, decided.line)}`;
  if (!decided.cost)
    return {
      label: 'No cost rate',
      remark: `${rate} holds, but what ${who} costs is not set. Add a cost rate in Setup → People.`,
    };
  return {
    label: 'No exchange rate',
    remark: `${rate} holds, but nothing says what ${decided.cost.currency} is in ${currency} on ${showDayShort(day)}. Add a rate in Setup → Rates.`,
  };
}

/** How an entry's rate came about: the line that decided, those that it beat and why, and the exchange where it is in another currency. */
export function rateSteps(pricer: Pricer, entry: Entry, price: Price): Step[] {
  const figure = textFigure(showPrice(price));
  if (!price.decided) return [{ label: 'Rate', figure, remark: 'agreed for this entry alone' }];
  const { line, cost, exchanged } = price.decided;
  const { rejected: beaten } = pricer.rates.explain(entry);
  const inForce = beaten.filter(
    (each) => (each.line.currency ?? price.currency) === price.currency && each.line.from <= entry.day,
  );
  const second = inForce[0];
  const beats = second ? `; beats ${showRate(second.line)} on ${describeRate(pricer, second.line)}: ${second.why}` : '';
  const why = `${describeRate(pricer, line)}${beats}`;
  if (!cost) return [{ label: 'Rate', figure, remark: why }];
  const whose = cost.memberId !== null ? pricer.member.get(cost.memberId)?.name : (cost.role ?? 'anybody');
  const steps: Step[] = [
    {
      label: 'Cost',
      figure: textFigure(showPrice(cost)),
      remark: `${whose}, from ${showDayShort(cost.from)}`,
    },
    { label: 'Markup', figure: textFigure(showMarkup(line.markup!)), remark: why },
    ...(exchanged?.used ?? []).map((row) => ({
      label: `1 ${row.base}`,
      figure: textFigure(`${row.rate} ${row.currency}`),
      remark: [`from ${showDayShort(row.from)}`, row.source].filter(Boolean).join(', '),
    })),
  ];
  return [...steps, { label: 'Rate', figure, ruled: true }];
}

/** "1 h 18 min × 78.00 ÷ 60 min": the product in words, before it is rounded to minor units. */
export function timesStep(seconds: number, price: Price): Step {
  const rate = showDecimal(price.price, currencyDigits(price.currency));
  return { label: `${showExactly(seconds)} × ${rate} ÷ ${showExactly(price.perSeconds)}` };
}

/** The amount again by another route: whole units first, then the rest, one fraction at the end. */
export function byLongDivision(seconds: number, price: Price, pricer: Pricer): Minor {
  const numerator = BigInt(product(price.scaled, price.minorUnits)) * BigInt(seconds);
  return divideRounded(numerator, BigInt(price.perSeconds) * BigInt(SCALE), pricer.book.workspace.amountRounding);
}
