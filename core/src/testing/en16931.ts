import type { FrozenInvoice } from '../model/records';
import { toScaled } from '../money/decimal';

/**
 * Checks a finished invoice or credit note against the calculation rules of EN 16931-1 (as named in its list of business rules; formulas
 * from memory), by arithmetic of its own: integers of minor units, and nothing of the application's money. For currencies of two digits.
 * Where prices include tax, lines are taken without it, which is what an electronic invoice would carry.
 *
 * @param rest whether it is the credit note that takes what is left: its tax is what is left of the invoice's, and may differ
 * @returns the rules that do not hold
 */
export function brokenRules(invoice: FrozenInvoice, rest = false): string[] {
  const broken: string[] = [];
  const hold = (rule: string, left: number, right: number) => {
    if (left !== right) broken.push(`${rule}: ${left} is not ${right}`);
  };
  const sum = (numbers: readonly number[]) => numbers.reduce((total, each) => total + each, 0);
  const lines = invoice.lines.map((line) => line.amount);
  const allowance = invoice.allowance?.amount ?? 0;
  const taxes = invoice.taxes.map((tax) => tax.amount);
  const taxed = new Map(invoice.taxes.map((tax) => [tax.id, tax]));
  const groupOf = (id: string | null) =>
    sum(
      invoice.lines
        .filter((line) => (taxed.has(line.taxId ?? '') ? line.taxId : null) === id)
        .map((line) => line.amount),
    );
  const untaxed = groupOf(null);
  const deducted = sum(invoice.deductions.map((each) => each.amount));
  hold('BR-CO-10 sum of line amounts', invoice.net, sum(lines));
  hold('BR-CO-14 total tax', invoice.tax, sum(taxes));
  hold('BR-CO-16 amount due', invoice.payable, invoice.total + invoice.rounding - deducted);
  const basis = invoice.total - invoice.tax;
  if (invoice.inclusive) {
    // BT-114 closes the gap to what was agreed, by at most one minor unit for each tax.
    hold('prices that include tax', invoice.total + invoice.rounding, sum(lines) - allowance);
    if (!rest && Math.abs(invoice.rounding) > invoice.taxes.length)
      broken.push(`BT-114: ${invoice.rounding} is too much`);
  } else {
    hold('BT-114 rounding', invoice.rounding, 0);
    hold('BR-CO-13 basis of the invoice', basis, sum(lines) - allowance);
  }
  // A discount on the whole is one allowance for each tax; together they are the discount (BR-CO-11).
  for (const tax of invoice.taxes) {
    const share = groupOf(tax.id) - (invoice.inclusive ? tax.basis + tax.amount : tax.basis);
    const exact = sum(lines) === 0 ? 0 : (allowance * groupOf(tax.id)) / sum(lines);
    if (Math.abs(share - exact) > (rest || invoice.credits ? 2 : invoice.inclusive ? 2 : 1)) {
      broken.push(`BR-S-08 basis of ${tax.name}: ${share} of the discount is not ${exact}`);
    }
    // basis × percent ÷ 100, half away from zero, with percent in ten-thousandths.
    const product = BigInt(tax.basis) * BigInt(toScaled(tax.percent));
    const magnitude = product < 0n ? -product : product;
    const rounded = Number((magnitude * 2n + 1_000_000n) / 2_000_000n) * (product < 0n ? -1 : 1);
    if (!rest) hold(`BR-CO-17 ${tax.name}`, tax.amount, rounded || 0);
  }
  if (!invoice.inclusive && allowance === 0) {
    hold('BR-CO-13 untaxed', basis - sum(invoice.taxes.map((tax) => tax.basis)), untaxed);
  }
  for (const line of invoice.lines) {
    const off = line.discount === null ? 0 : line.gross - line.amount;
    hold('line net = gross − its allowance', line.amount, line.gross - off);
    if (toScaled(line.price) < 0) broken.push(`BR-27: ${line.price} is a negative price`);
    if (line.unit === 'piece' || line.unit === 'lump') {
      // quantity × price, each in ten-thousandths, to hundredths.
      const exact = BigInt(toScaled(line.quantity)) * BigInt(toScaled(line.price)) * 100n;
      const size = exact < 0n ? -exact : exact;
      const per = 100_000_000n;
      const near = Number((size * 2n + per) / (2n * per)) * (exact < 0n ? -1 : 1);
      if (Math.abs(near - line.gross) > 1) broken.push(`line: ${line.quantity} × ${line.price} is not ${line.gross}`);
    }
  }
  const figures = [...lines, ...taxes, invoice.net, invoice.total, invoice.payable, allowance];
  for (const figure of figures)
    if (!Number.isSafeInteger(figure)) broken.push(`BR-DEC: ${figure} has more than two digits`);
  return broken;
}
