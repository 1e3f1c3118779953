import { equationsOf, type Equation } from '../billing/self-check';
import type { FrozenInvoice, FrozenLine } from '../model/records';
import type { Minor } from '../money/amount';
import { amountOfPieces, amountOfTime, percentOf } from '../money/price';
import { sumExact } from '../money/rational';
import type { ClientPage } from './page';

/** What came of doing a page's sums again. */
export interface PageCheck {
  /** How many sums were done. */
  sums: number;
  /** Those that do not hold. */
  wrong: Equation[];
}

/**
 * Does the sums of a page again, in whole numbers: each line from its quantity and price, or from what it is made of; the lines' sum;
 * discount, taxes, total, and what is to be paid. It runs in the client's browser, where nothing else of the program is.
 */
export function checkPage(page: ClientPage): PageCheck {
  const { frozen } = page;
  const options = frozen.quote?.options ?? [];
  const all = [
    ...frozen.lines.flatMap((line, index) => lineSums(frozen, line, `lines/${index}`)),
    ...options.flatMap((line, index) => lineSums(frozen, line, `quote/options/${index}`)),
    ...madeOf(page),
    ...equationsOf(frozen),
    ...taxSums(frozen),
    ...restSums(page),
  ];
  return { sums: all.length, wrong: all.filter(({ is, ought }) => is !== ought) };
}

/** A line from its quantity and price, where it has them, less its own discount. */
function lineSums(frozen: FrozenInvoice, line: FrozenLine, path: string): Equation[] {
  const { amountRounding } = frozen;
  // What was issued before its rounding was kept cannot be done again.
  if (amountRounding === null) return [];
  const sums: Equation[] = [];
  const gross = grossOf(frozen, line, amountRounding);
  const what = line.text;
  if (gross !== null) sums.push({ path: `${path}/gross`, is: line.gross, ought: gross, what });
  if (line.discount !== null) {
    const off = percentOf(line.gross, line.discount, amountRounding);
    sums.push({ path: `${path}/amount`, is: line.amount, ought: line.gross - off, what });
  } else sums.push({ path: `${path}/amount`, is: line.amount, ought: line.gross, what });
  return sums;
}

function grossOf(
  { currency, daySeconds }: FrozenInvoice,
  { unit, seconds, price, quantity }: FrozenLine,
  rule: NonNullable<FrozenInvoice['amountRounding']>,
): Minor | null {
  if (unit === 'lump') return null;
  if (unit === 'piece') return amountOfPieces(quantity, price, currency, rule);
  return amountOfTime(seconds, { price, unit, currency, daySeconds, rule });
}

/** What a line is made of comes to the line. */
const madeOf = ({ frozen, items }: ClientPage): Equation[] =>
  frozen.lines.flatMap((line, index) => {
    const own = items.filter((item) => item.line === line.key);
    if (own.length === 0) return [];
    const ought = sumExact(own.map((item) => item.amount));
    return [{ path: `lines/${index}/amount`, is: line.amount, ought, what: line.text }];
  });

/** Each tax from what it is on, where it was worked out on the whole; credits of a rest may differ by a cent. */
const taxSums = ({ taxes, taxMethod, amountRounding, credits, inclusive }: FrozenInvoice): Equation[] =>
  taxMethod !== 'invoice' || amountRounding === null || credits || inclusive
    ? []
    : taxes.map(({ name, percent, basis, amount }, index) => ({
        path: `taxes/${index}/amount`,
        is: amount,
        ought: percentOf(basis, percent, 'half away from zero'),
        what: name,
      }));

const restSums = ({ rest }: ClientPage): Equation[] =>
  rest
    ? [
        {
          path: 'rest/remaining',
          is: rest.remaining,
          ought: sumExact([rest.agreed, rest.changes, -rest.invoiced]),
          what: '',
        },
      ]
    : [];
