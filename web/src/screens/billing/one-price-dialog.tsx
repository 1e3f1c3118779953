import type { OnePrice } from '@half-penny/core/billing';
import { readAmount, readDecimal, showAmount, type CurrencyCode, type Minor } from '@half-penny/core/money';
import { useState } from 'react';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';

interface OnePriceProps {
  /** How many entries it is for. */
  count: number;
  currency: CurrencyCode;
  /** What the hours come to at their own rates, and at this price. */
  tryPrice: (agreed: OnePrice) => { before: Minor; after: Minor };
  onAgree: (agreed: OnePrice & { text: string }) => Promise<unknown>;
  onClose: () => void;
}

/** One sum, or one price an hour, for a set of hours. */
export function OnePriceDialog({ count, currency, tryPrice, onAgree, onClose }: OnePriceProps) {
  const [kind, setKind] = useState('amount');
  const [typed, setTyped] = useState('');
  const [text, setText] = useState('');
  const read = () =>
    kind === 'amount'
      ? { amount: readAmount(typed, currency), price: null }
      : { amount: null, price: readDecimal(typed, 'price') };
  const { fault, submit } = useSubmit(async () => {
    await onAgree({ text, ...read() });
    onClose();
  });
  const tried = () => {
    try {
      return typed.trim() === '' ? null : tryPrice(read());
    } catch {
      // What cannot be read yet is said where it is saved.
      return null;
    }
  };
  const sums = tried();
  return (
    <Dialog
      open
      onClose={onClose}
      title={`One price for ${count} ${count === 1 ? 'entry' : 'entries'}`}
      about="As agreed, whatever their rates. The line’s slip shows the working."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <fieldset className="flex gap-6">
          <legend className="mb-1 text-sm font-semibold text-soft">The price is</legend>
          {[
            ['amount', 'for all of them'],
            ['price', 'an hour'],
          ].map(([value, name]) => (
            <label key={value} className="flex items-center gap-2">
              <input type="radio" name="one-price" checked={kind === value} onChange={() => setKind(value!)} />
              {name}
            </label>
          ))}
        </fieldset>
        <TextField
          label={kind === 'amount' ? `Sum, ${currency}` : `Price an hour, ${currency}`}
          inputMode="decimal"
          value={typed}
          fault={fault}
          autoFocus
          onChange={(event) => setTyped(event.target.value)}
        />
        <TextField
          label="What the line says"
          placeholder="Hours, at the price agreed"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <p role="status" className="min-h-6">
          {sums && (
            <>
              {showAmount(sums.before, currency)} at their own rates,{' '}
              <b className="font-mono text-money">{showAmount(sums.after, currency)}</b> at this price.
            </>
          )}
        </p>
        <Button type="submit" kind="main" shortcut="Enter" className="self-start">
          Set the price
        </Button>
      </form>
    </Dialog>
  );
}
