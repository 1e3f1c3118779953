import type { Pricer } from '@half-penny/core/billing';
import type { Option } from './select';

/** Taxes to choose from, each told apart by its note where it has one. */
export const taxOptions = (pricer: Pricer): Option[] =>
  pricer.book.taxes.map((tax) => [
    tax.id,
    [`${tax.name} ${tax.percent} %`, tax.place, tax.note.slice(0, 40)].filter(Boolean).join(', '),
  ]);
