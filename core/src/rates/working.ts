import type { Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import type { Seconds } from '../time/length';

/** The right-hand side of a step. */
export type Figure =
  | { kind: 'length'; seconds: Seconds }
  | { kind: 'amount'; minor: Minor; currency: CurrencyCode }
  | { kind: 'text'; text: string };

/** One line of a working. A remark says why, without a figure. */
export interface Step {
  label: string;
  figure?: Figure;
  remark?: string;
  /** Draws a single rule above, as under a column of figures. */
  ruled?: boolean;
}

/** The arithmetic behind an amount, to be printed as a slip. The result is what the calculating function returns. */
export interface Working {
  title: string;
  steps: Step[];
  result: { label: string; figure: Figure };
}

/** A length in a working-out. */
export const lengthFigure = (seconds: Seconds): Figure => ({ kind: 'length', seconds });
/** An amount in a working-out. */
export const amountFigure = (minor: Minor, currency: CurrencyCode): Figure => ({ kind: 'amount', minor, currency });
/** Words in a working-out. */
export const textFigure = (text: string): Figure => ({ kind: 'text', text });

/** A working that adds up named amounts; beyond `most` the rest stands in one step, so that it still adds up. */
export function sumWorking(
  title: string,
  parts: readonly { label: string; minor: Minor }[],
  currency: CurrencyCode,
  most = 12,
): Working {
  const shown = parts.length > most + 1 ? parts.slice(0, most) : parts;
  const rest = parts.slice(shown.length);
  const steps: Step[] = shown.map((part) => ({ label: part.label, figure: amountFigure(part.minor, currency) }));
  if (rest.length > 0) {
    steps.push({
      label: `and ${rest.length} more`,
      figure: amountFigure(
        rest.reduce((sum, part) => sum + part.minor, 0),
        currency,
      ),
    });
  }
  if (steps.length === 0) steps.push({ label: 'Nothing yet', figure: amountFigure(0, currency) });
  const total = parts.reduce((sum, part) => sum + part.minor, 0);
  return { title, steps, result: { label: 'Together', figure: amountFigure(total, currency) } };
}
