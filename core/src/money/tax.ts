import type { Minor } from './amount';
import type { Decimal } from './decimal';
import { SCALE, toScaled } from './decimal';
import { Fault } from '../faults/fault';
import { percentOf } from './price';
import { addExact, divideRounded, product, type RoundingRule } from './rational';
import { shareSigned } from './share';

/** Tax on the net total of each rate (EN 16931), or on each line by itself. */
export const taxMethods = ['invoice', 'line'] as const;
export type TaxMethod = (typeof taxMethods)[number];

/**
 * The categories of EN 16931-1 (UNTDID 5305): standard rate, zero rated, exempt, reverse charge, intra-community supply, export, and outside
 * the scope of the tax.
 */
export const taxCategories = ['S', 'Z', 'E', 'AE', 'K', 'G', 'O'] as const;
export type TaxCategory = (typeof taxCategories)[number];

/** Only a standard or zero rate is printed as a percentage; the others print their reason. */
export const printsPercent = (category: TaxCategory | null): boolean =>
  category === null || category === 'S' || category === 'Z';

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

/** What one rate makes: its basis (net total of its lines, less their part of the discount) and the tax on it. */
export interface TaxPart {
  tax: TaxRate;
  /** Its part of the discount on the whole, already off the basis; with the tax in it where prices include tax. */
  allowance: Minor;
  basis: Minor;
  amount: Minor;
}

export interface Totals {
  /** The sum of the lines as they are printed: with the tax in them where prices include it. */
  net: Minor;
  /** The discount on all of it. */
  allowance: Minor;
  taxes: TaxPart[];
  tax: Minor;
  /** What was earned and the tax on it, before anything is deducted (BT-112). */
  total: Minor;
  /** What brings the total to the prices that include tax (BT-114); 0 where they do not. */
  rounding: Minor;
}

export interface TotalsOptions {
  /** A discount on all lines: the same percentage comes off every tax's basis, each with its own sign. */
  allowance?: Minor;
  /** The lines' amounts have the tax in them already. */
  inclusive?: boolean;
  /** How tax line by line is rounded; per rate it is always half away from zero. */
  lineRule?: RoundingRule;
}

/** EN 16931-1 BR-CO-17 asks for the nearest, whatever the studio's rule for amounts. */
const TAX_RULE = 'half away from zero';

/**
 * Net, tax per rate and total of lines. The net is the sum of the rounded lines, the total the sum of what stands above it.
 *
 * Sources: EN 16931-1 BR-CO-10, 11, 13, 14, 15 and 17 for the method by invoice; by line: HMRC Notice 700 §17.5 (from memory). With tax
 * included, the basis is gross ÷ (1 + rate), the VAT fraction's complement, and the tax is basis × rate; what is then missing to the gross is
 * the rounding amount BT-114: never more than one minor unit a rate.
 *
 * @param taxes the rates that lines refer to; a line whose tax is missing here counts as untaxed
 * @throws Fault when there is a discount and the lines come to 0, or to a sum of the other sign
 */
export function totalsOf(
  lines: readonly TaxableLine[],
  taxes: readonly TaxRate[],
  method: TaxMethod,
  options: TotalsOptions = {},
): Totals {
  const { allowance = 0, inclusive = false, lineRule = TAX_RULE } = options;
  const taxOnLine = (amount: Minor, percent: Decimal) =>
    inclusive ? percentWithin(amount, percent, lineRule) : percentOf(amount, percent, lineRule);
  const parts = new Map<string, TaxPart>();
  for (const tax of taxes) parts.set(tax.id, { tax, allowance: 0, basis: 0, amount: 0 });
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
    if (method === 'line') part.amount = addExact(part.amount, taxOnLine(line.amount, part.tax.percent));
  }
  const charged = [...parts.values()].filter((part) => used.has(part.tax.id));
  if (allowance !== 0) {
    refuseDiscount(allowance, net);
    const shares = shareSigned(allowance, [untaxed, ...charged.map((part) => part.basis)]);
    untaxed -= shares[0]!;
    charged.forEach((part, index) => {
      const share = shares[index + 1]!;
      part.allowance = share;
      part.basis -= share;
      if (method === 'line') part.amount -= taxOnLine(share, part.tax.percent);
    });
  }
  for (const part of charged) {
    if (method === 'line') {
      if (inclusive) part.basis -= part.amount;
      continue;
    }
    if (inclusive) part.basis = withoutTax(part.basis, part.tax.percent);
    part.amount = percentOf(part.basis, part.tax.percent, TAX_RULE);
  }
  const tax = charged.reduce((sum, part) => addExact(sum, part.amount), 0);
  const total = charged.reduce((sum, part) => addExact(sum, part.basis), addExact(untaxed, tax));
  return { net, allowance, taxes: charged, tax, total, rounding: inclusive ? net - allowance - total : 0 };
}

/** @throws Fault where no percentage of the lines is the discount */
function refuseDiscount(allowance: Minor, net: Minor): void {
  if (net === 0)
    throw new Fault('nothing-to-share', 'A discount cannot be taken off lines that come to 0.', 'allowance');
  if (allowance < 0 !== net < 0) {
    throw new Fault('negative', 'A discount cannot be taken off lines that come to less than nothing.', 'allowance');
  }
}

/** What a price with tax in it leaves: (12000, "20") → 10000. */
export function withoutTax(gross: Minor, percent: Decimal): Minor {
  return divideRounded(product(gross, 100 * SCALE), 100 * SCALE + toScaled(percent), TAX_RULE);
}

/** The part of an amount that is a tax contained in it: (12000, "20") → 2000. */
export function percentWithin(amount: Minor, percent: Decimal, rule: RoundingRule): Minor {
  const scaled = toScaled(percent);
  return divideRounded(product(amount, scaled), 100 * SCALE + scaled, rule);
}
