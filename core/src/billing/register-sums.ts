import type { Id } from '../model/ids';
import type { FrozenInvoice } from '../model/records';
import type { Minor } from '../money/amount';
import { addExact, lessExact, sumExact } from '../money/rational';
import { withoutTax } from '../money/tax';
import { askedOf, netOf } from './paid';

/** An invoice or credit note as the register lists it: each row's figures add up from the net to what is to be paid. */
export interface RegisterSums {
  /** Of the lines, before the discount on the whole and before tax. */
  net: Minor;
  /** Taken off that; 0 or less on an invoice. */
  discount: Minor;
  netAfter: Minor;
  /** Tax by its name and percentage: "VAT 20 %". */
  taxes: ReadonlyMap<string, Minor>;
  rounding: Minor;
  total: Minor;
  /** Paid ahead or held back, taken off the total. */
  deducted: Minor;
  payable: Minor;
}

/** net + discount = netAfter; netAfter + taxes + rounding = total; total + deducted = payable. */
export function registerSums(frozen: FrozenInvoice): RegisterSums {
  const netAfter = netOf(frozen);
  const taxes = new Map<string, Minor>();
  for (const { name, percent, amount } of frozen.taxes) {
    const key = `${name} ${percent} %`;
    taxes.set(key, addExact(taxes.get(key) ?? 0, amount));
  }
  const net = frozen.inclusive ? beforeTax(frozen) : frozen.net;
  const total = askedOf(frozen);
  return {
    net,
    discount: lessExact(netAfter, net),
    netAfter,
    taxes,
    rounding: frozen.rounding,
    total,
    deducted: lessExact(frozen.payable, total),
    payable: frozen.payable,
  };
}

/** What the lines come to before tax where their prices include it: by tax, as if there were no discount. */
function beforeTax({ lines, taxes }: FrozenInvoice): Minor {
  const percents = new Map<Id | null, string>(taxes.map((tax) => [tax.id, tax.percent]));
  const sums = new Map<Id | null, Minor>();
  for (const { taxId, amount } of lines) sums.set(taxId, addExact(sums.get(taxId) ?? 0, amount));
  return sumExact([...sums].map(([taxId, sum]) => withoutTax(sum, percents.get(taxId) ?? '0')));
}
