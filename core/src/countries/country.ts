import type { Tax } from '../model/records';
import type { CurrencyCode } from '../money/currency';
import type { NumberStyle } from '../money/written';
import type { ClockStyle } from '../time/length';
import type { Day } from '../time/day';

/** A tax that a studio of a country may charge, with the percentages that hold from later days on. */
export interface CountryTax extends Pick<Tax, 'name' | 'percent' | 'category' | 'note' | 'reverseCharge' | 'later'> {
  /** Where it is published, or "from memory". */
  source: string;
}

/** What a studio usually starts with where it is at home. All of it can be changed. */
export interface Country {
  /** ISO 3166-1, two letters. */
  code: string;
  name: string;
  currency: CurrencyCode;
  /** The usual one first; none where there is no such tax, or where it hangs on what is sold and to whom. */
  taxes: readonly CountryTax[];
  /** What the tax is, in a sentence; empty where the taxes say it. */
  taxWords: string;
  paper: 'A4' | 'Letter';
  /** Days until an invoice is due, and what that goes by. */
  termsDays: number;
  termsSource: string;
  numberStyle: NumberStyle;
  clockStyle: ClockStyle;
  /** The language that days are written in on invoices (BCP 47). */
  datesIn: string;
}

/** The percentage of a tax on a day. */
export const percentOn = ({ percent, later }: Pick<CountryTax, 'percent' | 'later'>, day: Day): string =>
  later.reduce<{ from: Day; percent: string }>(
    (best, each) => (each.from <= day && each.from >= best.from ? each : best),
    { from: '', percent },
  ).percent;
