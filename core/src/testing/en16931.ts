import type { FrozenInvoice } from '../model/records';
import { toScaled } from '../money/decimal';

/**
 * Checks a finished invoice against the calculation rules of EN 16931-1 (as named in its list of business rules; formulas from memory), by
 * arithmetic of its own: integers of minor units, and nothing of the application's money. For currencies of two digits whose lines are
 * without tax.
 *
 * @returns the rules that do not hold
 */
export function brokenRules(invoice: FrozenInvoice): string[] {
  const broken: string[] = [];
  const hold = (rule: string, left: number, right: number) => {
    if (left !== right) broken.push(`${rule}: ${left} is not ${right}`);
  };
  const lines = invoice.lines.map((line) => line.amount);
  const sum = (numbers: readonly number[]) => numbers.reduce((total, each) => total + each, 0);
  const allowances = invoice.allowance?.amount ?? 0;
  const basis = sum(lines) - allowances;
  const taxes = invoice.taxes.map((tax) => tax.amount);
  hold('BR-CO-10 sum of line net amounts', invoice.net, sum(lines));
  hold('BR-CO-14 total tax', invoice.tax, sum(taxes));
  hold('BR-CO-15 total with tax', invoice.total, basis + sum(taxes));
  hold('BR-CO-16 amount due', invoice.payable, invoice.total - sum(invoice.deductions.map((each) => each.amount)));
  const taxed = new Set(invoice.taxes.map((tax) => tax.id));
  const untaxed = sum(
    invoice.lines.filter((line) => line.taxId === null || !taxed.has(line.taxId)).map((line) => line.amount),
  );
  if (allowances === 0) {
    hold('BR-CO-13 basis of the invoice', basis, untaxed + sum(invoice.taxes.map((tax) => tax.basis)));
    for (const tax of invoice.taxes) {
      const own = invoice.lines.filter((line) => line.taxId === tax.id).map((line) => line.amount);
      hold(`BR-S-08 basis of ${tax.name}`, tax.basis, sum(own));
    }
  } else if (untaxed === 0) hold('BR-CO-13 basis of the invoice', basis, sum(invoice.taxes.map((tax) => tax.basis)));
  for (const tax of invoice.taxes) {
    // basis × percent ÷ 100, half away from zero, with percent in ten-thousandths.
    const exact = BigInt(tax.basis) * BigInt(toScaled(tax.percent));
    const magnitude = exact < 0n ? -exact : exact;
    const rounded = Number((magnitude * 2n + 1_000_000n) / 2_000_000n) * (exact < 0n ? -1 : 1);
    hold(`BR-CO-17 ${tax.name}`, tax.amount, rounded || 0);
  }
  for (const line of invoice.lines) {
    const off = line.discount === null ? 0 : line.gross - line.amount;
    hold('line net = gross − its allowance', line.amount, line.gross - off);
  }
  const figures = [...lines, ...taxes, invoice.net, invoice.total, invoice.payable, allowances];
  for (const figure of figures)
    if (!Number.isSafeInteger(figure)) broken.push(`BR-DEC: ${figure} has more than two digits`);
  return broken;
}
