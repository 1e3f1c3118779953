import { showAmount } from '../money/amount';
import type { Figure, Working } from '../rates/working';
import { showExactly } from '../time/length';

const figureOf = (figure: Figure | undefined): string =>
  figure === undefined
    ? ''
    : figure.kind === 'text'
      ? figure.text
      : figure.kind === 'length'
        ? showExactly(figure.seconds)
        : showAmount(figure.minor, figure.currency);

/** A slip as lines of text: label, figure and remark, with a rule where there is one, and the result last. */
export const slipOf = ({ title, steps, result }: Working): string[] => [
  title,
  ...steps.map(({ label, figure, remark, ruled }) =>
    [ruled ? '— ' : '', label, figure ? `: ${figureOf(figure)}` : '', remark ? ` (${remark})` : ''].join(''),
  ),
  `= ${result.label}: ${figureOf(result.figure)}`,
];
