import { Fault, type UnitRate } from '@half-penny/core/model';
import { readAmount, readDecimal, type CurrencyCode, type Decimal, type Minor } from '@half-penny/core/money';

/** What an amount of a cost came to: a sum, or so many at a price each. */
export type WrittenAmount =
  | { amount: Minor; price: null; quantity: Decimal; unit: string; rate?: undefined }
  | { amount: null; price: Decimal; quantity: Decimal; unit: string; rate?: UnitRate };

/**
 * Reads what people write as an amount: "12.40"; "4 x 12.50"; "62 mile", by a unit rate.
 *
 * @throws Fault when it is none of these
 */
export function readWritten(typed: string, currency: CurrencyCode, rates: readonly UnitRate[]): WrittenAmount {
  const each = /^\s*([\d.,]+)\s*([^\d\s×x*@.,]\S*)?\s*(?:×|x|\*|@)\s*(\S+)\s*$/iu.exec(typed);
  if (each) {
    const [, quantity, unit = '', price] = each;
    return { amount: null, price: readDecimal(price!, 'price'), quantity: readDecimal(quantity!, 'quantity'), unit };
  }
  const counted = /^\s*([\d.,]+)\s*(\p{L}[\p{L}\d/]*)\s*$/u.exec(typed);
  if (counted && counted[2]!.toUpperCase() !== currency) {
    const [, quantity, unit] = counted;
    const said = unit!.toLowerCase();
    const rate = rates.find(
      (row) => row.currency === currency && [said, said.replace(/s$/, '')].includes(row.unit.toLowerCase()),
    );
    if (!rate) {
      const known = rates.map((row) => row.unit).join(', ');
      throw new Fault(
        'unknown-unit',
        `There is no unit rate for “${unit!.slice(0, 20)}”${known ? `; there are: ${known}` : ''}.`,
        'amount',
      );
    }
    return { amount: null, price: rate.price, quantity: readDecimal(quantity!, 'quantity'), unit: rate.unit, rate };
  }
  return { amount: readAmount(typed.replace(currency, ''), currency), price: null, quantity: '1', unit: '' };
}
