import { divideRounded, product } from '../money/rational';
import { measures as baseMeasures, type BaseMeasure } from './column-store/dimensions';

/** How a figure is to be read. */
export type MeasureKind = 'length' | 'money' | 'count' | 'percent' | 'money an hour';

/** Gives the sum of a base measure in the group that is asked about; money in one currency. */
export type Sums = (measure: BaseMeasure) => number;

interface MeasureDefinition {
  label: string;
  /** One sentence on how it is worked out. */
  says: string;
  kind: MeasureKind;
  needs: readonly BaseMeasure[];
  /** Null where it means nothing, as a share of nothing. */
  of(sums: Sums): number | null;
}

const base = (label: string, kind: MeasureKind, measure: BaseMeasure, says: string): MeasureDefinition => ({
  label,
  says,
  kind,
  needs: [measure],
  of: (sums) => sums(measure),
});

/** A share in hundredths of a percent, rounded half away from nothing; null of nothing. */
export function share(part: number, whole: number): number | null {
  if (whole === 0) return null;
  const sign = whole < 0 ? -1 : 1;
  return divideRounded(product(part * sign, 10_000), Math.abs(whole), 'half away from zero');
}

/** Whole minor units an hour. */
const anHour = (amount: number, seconds: number): number | null =>
  seconds === 0 ? null : divideRounded(product(amount, 3600), seconds, 'half away from zero');

const cost = (sums: Sums) => sums('labourCost') + sums('otherCost');
const price = (sums: Sums) => sums('fees') + sums('onCharged');

/**
 * What reports measure. Lengths are in seconds, money in minor units, percentages in hundredths of a percent.
 *
 * Utilisation, realisation and the effective rate are worked out as handbooks of professional firms have them (practice, no one source):
 * billable hours of those available; what was invoiced of what the time was worth at its rates; and fees by all hours worked.
 */
export const measures = {
  recorded: base('Recorded', 'length', 'recorded', 'Time as it was recorded.'),
  billable: base('Billable', 'length', 'exact', 'The billable part before rounding.'),
  'not billable': {
    label: 'Not billable',
    says: 'Recorded less billable.',
    kind: 'length',
    needs: ['recorded', 'exact'],
    of: (sums) => sums('recorded') - sums('exact'),
  },
  billed: base('Billed length', 'length', 'billed', 'The billable part after rounding, as invoices have it.'),
  gain: base(
    'Rounding',
    'length',
    'gainedLength',
    'What rounding adds where a client pays by the hour: billed length less billable.',
  ),
  'gain worth': base('Rounding, worth', 'money', 'gained', 'What that is worth; negative where rounding takes off.'),
  worth: base('Worth', 'money', 'worth', 'The billed length at its rates.'),
  rate: {
    label: 'Rate',
    says: 'Worth for each hour billed: the rate itself where there is but one.',
    kind: 'money an hour',
    needs: ['worth', 'billed'],
    of: (sums) => anHour(sums('worth'), sums('billed')),
  },
  cost: {
    label: 'Cost',
    says: 'Labour at cost rates, and all other costs.',
    kind: 'money',
    needs: ['labourCost', 'otherCost'],
    of: cost,
  },
  'labour cost': base('Labour cost', 'money', 'labourCost', 'Recorded time at cost rates.'),
  'other cost': base('Other cost', 'money', 'otherCost', 'Expenses, supplier bills and ledger lines.'),
  markup: base('Markup', 'money', 'marked', 'What was added to cost where the price is cost with a markup.'),
  estimate: base(
    'Estimate',
    'money',
    'estimated',
    'Estimates and fixed amounts agreed for a project. They have no day, so they stand in reports of all time.',
  ),
  price: {
    label: 'Price',
    says: 'What it sells for: time by the hour, agreed amounts that are due, and costs charged on.',
    kind: 'money',
    needs: ['fees', 'onCharged'],
    of: price,
  },
  margin: {
    label: 'Margin',
    says: 'Price less cost.',
    kind: 'money',
    needs: ['fees', 'onCharged', 'labourCost', 'otherCost'],
    of: (sums) => price(sums) - cost(sums),
  },
  'margin percent': {
    label: 'Margin %',
    says: 'Margin as a share of the price.',
    kind: 'percent',
    needs: ['fees', 'onCharged', 'labourCost', 'otherCost'],
    of: (sums) => share(price(sums) - cost(sums), price(sums)),
  },
  invoiced: base(
    'Invoiced',
    'money',
    'invoiced',
    'On issued invoices before tax, less what was credited; by the day of the work.',
  ),
  paid: base('Paid', 'money', 'paid', 'What came in for it before tax.'),
  'to bill': base('To bill', 'money', 'toBill', 'Billable and on no invoice or draft.'),
  'written down': base(
    'Written down',
    'money',
    'writtenDown',
    'Worth of what will not be billed, by the day that was said.',
  ),
  'written down length': base(
    'Written down, length',
    'length',
    'downLength',
    'Its length, as it would have been billed; costs have none.',
  ),
  'written off': base('Written off', 'money', 'writtenOff', 'Invoiced before tax, and given up.'),
  owed: base('Owed', 'length', 'owed', 'Hours that members owe, less holidays and absences.'),
  breaks: base('Breaks', 'length', 'break', 'Taken off by the break rule.'),
  planned: base('Planned', 'length', 'planned', 'Planned time.'),
  front: base('Noticed', 'length', 'front', 'In front, as the trail noticed it.'),
  'in view': base('In view', 'length', 'inView', 'How long a document was shown.'),
  'hands on': base('Hands on', 'length', 'hands', 'How long a document was worked in.'),
  kept: base('Kept', 'count', 'kept', 'How often a document was saved.'),
  'weighted share': {
    label: 'Weighted share',
    says: 'What was in front for groups of jobs, by how much an hour of each counts.',
    kind: 'percent',
    needs: ['grouped', 'weighted'],
    of: (sums) => share(sums('weighted'), sums('grouped') * 100),
  },
  utilisation: {
    label: 'Utilisation',
    says: 'Billable hours as a share of the hours owed.',
    kind: 'percent',
    needs: ['exact', 'owed'],
    of: (sums) => share(sums('exact'), sums('owed')),
  },
  realisation: {
    label: 'Realisation',
    says: 'What was invoiced for time as a share of what billable time was worth at its rates.',
    kind: 'percent',
    needs: ['invoicedTime', 'worth'],
    of: (sums) => share(sums('invoicedTime'), sums('worth')),
  },
  'effective rate': {
    label: 'Effective rate',
    says: 'Price of time and agreed amounts for each hour recorded, billable or not.',
    kind: 'money an hour',
    needs: ['fees', 'recorded'],
    of: (sums) => anHour(sums('fees'), sums('recorded')),
  },
  count: base('Count', 'count', 'count', 'Entries, cost lines and agreed amounts.'),
} as const satisfies Record<string, MeasureDefinition>;

export type MeasureName = keyof typeof measures;
/** The names of all measures. */
export const measureNames = Object.keys(measures) as MeasureName[];

/** How a measure is made of what is counted. */
export const measureOf = (name: MeasureName): MeasureDefinition => measures[name];

/** Measures that only the trail fills. */
export const trailMeasures: readonly MeasureName[] = ['front', 'in view', 'hands on', 'kept', 'weighted share'];

/** The base measures that some measures are worked out from, each once. */
export const baseMeasuresOf = (names: readonly MeasureName[]): BaseMeasure[] => {
  const needed = new Set<BaseMeasure>(names.flatMap((name) => measureOf(name).needs));
  return baseMeasures.filter((each) => needed.has(each));
};

const spokenNames: Readonly<Partial<Record<MeasureName, string>>> = {
  recorded: 'recorded time',
  billable: 'billable time',
  'not billable': 'time that is not billable',
  'gain worth': 'worth of rounding',
  'margin percent': 'margin in per cent',
  invoiced: 'amount invoiced',
  paid: 'amount paid',
  'to bill': 'amount to bill',
  'written down': 'amount written down',
  'written down length': 'length written down',
  'written off': 'amount written off',
  owed: 'owed hours',
  planned: 'planned time',
  front: 'time noticed',
  'in view': 'time in view',
  'hands on': 'time hands on',
  kept: 'number of saves',
  count: 'number of items',
};

/** Measures as one would say them: "billable time and its worth", "recorded time, billable time and worth". */
export function sayMeasures(names: readonly MeasureName[]): string {
  const words = names.map((name) => spokenNames[name] ?? measureOf(name).label.toLowerCase());
  const [first, second] = names;
  if (names.length === 2 && second === 'worth' && measureOf(first!).kind === 'length')
    return `${words[0]} and its worth`;
  return words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
}
