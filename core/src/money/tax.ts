import type { Minor } from './amount';
import type { Decimal } from './decimal';
import { percentOf } from './price';
import { addExact, type RoundingRule } from './rational';

/** Tax on the net total of each rate (EN 16931), or on each line by itself. */
export const taxMethods = ['invoice', 'line'] as const;
export type TaxMethod = (typeof taxMethods)[number];

/** A tax as it applies to a line. */
export interface TaxRate {
  id: string;
  name: string;
  percent: Decimal;
}

/** The percentage of a tax on a day: its first one, or the latest of the later ones that is not after the day. */
export function percentOn(
  tax: { percent: Decimal; later: readonly { from: string; percent: Decimal }[] },
  day: string,
): Decimal {
  let held: { from: string; percent: Decimal } | null = null;
  for (const change of tax.later) if (change.from <= day && (!held || change.from > held.from)) held = change;
  return held?.percent ?? tax.percent;
}

export interface TaxableLine {
  amount: Minor;
  /** Which tax; a line without one is outside tax altogether. */
  taxId: string | null;
}

/** What one rate makes: its basis (net total of its lines) and the tax on it. */
export interface TaxPart {
  tax: TaxRate;
  basis: Minor;
  amount: Minor;
}

export interface Totals {
  net: Minor;
  taxes: TaxPart[];
  tax: Minor;
  total: Minor;
}

/**
 * Net, tax per rate and total of lines. The net is the sum of the rounded lines, the total the sum of what stands above it.
 *
 * Sources: EN 16931-1 BR-CO-10, 13, 14, 15 and 17 for the method by invoice; by line: HMRC Notice 700 §17.5 (from memory).
 *
 * @param taxes the rates that lines refer to; a line whose tax is missing here counts as untaxed
 */
export function totalsOf(
  lines: readonly TaxableLine[],
  taxes: readonly TaxRate[],
  method: TaxMethod,
  rule: RoundingRule,
): Totals {
  const parts = new Map<string, TaxPart>();
  for (const tax of taxes) parts.set(tax.id, { tax, basis: 0, amount: 0 });
  const used = new Set<string>();
  let net = 0;
  for (const line of lines) {
    net = addExact(net, line.amount);
    const part = line.taxId === null ? undefined : parts.get(line.taxId);
    if (!part) continue;
    used.add(part.tax.id);
    part.basis = addExact(part.basis, line.amount);
    if (method === 'line') part.amount = addExact(part.amount, percentOf(line.amount, part.tax.percent, rule));
  }
  const charged = [...parts.values()].filter((part) => used.has(part.tax.id));
  if (method === 'invoice') for (const part of charged) part.amount = percentOf(part.basis, part.tax.percent, rule);
  const tax = charged.reduce((sum, part) => addExact(sum, part.amount), 0);
  return { net, taxes: charged, tax, total: addExact(net, tax) };
}
