import type { Minor } from './amount';
import type { Decimal } from './decimal';
import { SCALE, toScaled } from './decimal';
import { percentOf } from './price';
import { addExact, divideRounded, product, type RoundingRule } from './rational';
import { shareOut } from './share';

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
  /** The sum of the lines as they are printed. */
  net: Minor;
  /** The discount on all of it. */
  allowance: Minor;
  taxes: TaxPart[];
  tax: Minor;
  /** With tax, before anything is deducted. */
  total: Minor;
}

export interface TotalsOptions {
  /** A discount on all lines, shared over the taxes in proportion to what they are on. */
  allowance?: Minor;
  /** The lines' amounts have the tax in them already. */
  inclusive?: boolean;
}

/**
 * Net, tax per rate and total of lines. The net is the sum of the rounded lines, the total the sum of what stands above it.
 *
 * Sources: EN 16931-1 BR-CO-10, 11, 13, 14, 15 and 17 for the method by invoice; by line: HMRC Notice 700 §17.5 (from memory). With tax
 * included, the tax is taken out of each rate's total: total × rate ÷ (100 + rate), rounded once (practice).
 *
 * @param taxes the rates that lines refer to; a line whose tax is missing here counts as untaxed
 */
export function totalsOf(
  lines: readonly TaxableLine[],
  taxes: readonly TaxRate[],
  method: TaxMethod,
  rule: RoundingRule,
  options: TotalsOptions = {},
): Totals {
  const { allowance = 0, inclusive = false } = options;
  const taxOn = (amount: Minor, percent: Decimal) =>
    inclusive ? percentWithin(amount, percent, rule) : percentOf(amount, percent, rule);
  const parts = new Map<string, TaxPart>();
  for (const tax of taxes) parts.set(tax.id, { tax, basis: 0, amount: 0 });
  const used = new Set<string>();
  let net = 0;
  let untaxed = 0;
  for (const line of lines) {
    net = addExact(net, line.amount);
    const part = line.taxId === null ? undefined : parts.get(line.taxId);
    if (!part) {
      untaxed = addExact(untaxed, line.amount);
      continue;
    }
    used.add(part.tax.id);
    part.basis = addExact(part.basis, line.amount);
    if (method === 'line') part.amount = addExact(part.amount, taxOn(line.amount, part.tax.percent));
  }
  const charged = [...parts.values()].filter((part) => used.has(part.tax.id));
  if (allowance !== 0)
    takeOff(allowance, untaxed, charged, (part, share) => {
      if (method === 'line') part.amount -= taxOn(share, part.tax.percent);
    });
  if (method === 'invoice') for (const part of charged) part.amount = taxOn(part.basis, part.tax.percent);
  const tax = charged.reduce((sum, part) => addExact(sum, part.amount), 0);
  if (inclusive) {
    for (const part of charged) part.basis -= part.amount;
    return { net, allowance, taxes: charged, tax, total: net - allowance };
  }
  return { net, allowance, taxes: charged, tax, total: addExact(net - allowance, tax) };
}

/** Shares a discount over what is taxed alike, and over what bears no tax. */
function takeOff(
  allowance: Minor,
  untaxed: Minor,
  parts: readonly TaxPart[],
  each: (part: TaxPart, share: Minor) => void,
): void {
  const bases = [untaxed, ...parts.map((part) => part.basis)];
  // Where one basis is below nothing, shares in proportion would not be any.
  const shares = bases.every((basis) => basis >= 0) ? shareOut(allowance, bases) : [0, ...parts.map(() => 0)];
  parts.forEach((part, index) => {
    const share = shares[index + 1]!;
    each(part, share);
    part.basis -= share;
  });
}

/** The part of an amount that is a tax contained in it: (12000, "20") → 2000. */
export function percentWithin(amount: Minor, percent: Decimal, rule: RoundingRule): Minor {
  const scaled = toScaled(percent);
  return divideRounded(product(amount, scaled), 100 * SCALE + scaled, rule);
}
