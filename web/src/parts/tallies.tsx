import { addExact, showAmount, type CurrencyCode, type Minor } from '@half-penny/core/money';
import { sumWorking } from '@half-penny/core/rates';
import { Worth } from './figures';

export interface Tally {
  label: string;
  amount: Minor;
  currency: CurrencyCode;
}

/** Amounts summed by currency: different money is never added together. */
export function Tallies({ of, parts, home }: { of: string; parts: readonly Tally[]; home: CurrencyCode }) {
  const groups = new Map<CurrencyCode, Tally[]>();
  for (const part of parts) groups.set(part.currency, [...(groups.get(part.currency) ?? []), part]);
  if (groups.size === 0) groups.set(home, []);
  const currencies = [...groups.keys()].sort((a, b) => Number(b === home) - Number(a === home) || (a < b ? -1 : 1));
  return (
    <span className="flex flex-col items-end">
      {currencies.map((currency) => {
        const own = groups.get(currency)!;
        const sum = own.reduce((total, part) => addExact(total, part.amount), 0);
        const working = () =>
          sumWorking(
            of,
            own.map((part) => ({ label: part.label, minor: part.amount })),
            currency,
          );
        return (
          <Worth key={currency} amount={sum} currency={currency} of={of} working={working} strong>
            {showAmount(sum, currency)}
          </Worth>
        );
      })}
    </span>
  );
}
