import { computeDraft, type Draft, type Pricer, askedOf, netOf } from '@half-penny/core/billing';
import { showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import type { InvoiceRecords } from '../../data/invoice-records';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { CheckBox } from '../../parts/check';

interface IncludeTaxProps {
  pricer: Pricer;
  draft: Draft;
  records: InvoiceRecords;
}

/** Whether prices include tax. With lines on the draft that changes what somebody pays, so it is asked which sum stays. */
export function IncludeTax({ pricer, draft, records }: IncludeTaxProps) {
  const { invoice } = records;
  const { attempt } = useChanges();
  const [asking, setAsking] = useState(false);
  const choose = (fields: { inclusive: boolean; grossedUp: boolean }) => {
    setAsking(false);
    void attempt('invoice.edit', { id: invoice.id, ...fields });
  };
  return (
    <>
      <label className="flex items-center gap-2">
        <CheckBox
          checked={invoice.inclusive}
          onChange={(inclusive) => {
            if (inclusive && draft.lines.length > 0) setAsking(true);
            else choose({ inclusive, grossedUp: false });
          }}
        />
        Prices include tax
      </label>
      {asking && <WhichStays {...{ pricer, draft, records }} choose={choose} onClose={() => setAsking(false)} />}
    </>
  );
}

function WhichStays({
  pricer,
  draft,
  records,
  choose,
  onClose,
}: IncludeTaxProps & {
  choose: (fields: { inclusive: true; grossedUp: boolean }) => void;
  onClose: () => void;
}) {
  const today = useToday();
  const would = (grossedUp: boolean) =>
    computeDraft(pricer, { ...records, day: today, invoice: { ...records.invoice, inclusive: true, grossedUp } });
  const money = (minor: number) => showAmount(minor, draft.currency);
  const choices = [
    { grossedUp: true, after: would(true), name: 'What is earned stays', how: 'Tax is added to each price.' },
    { grossedUp: false, after: would(false), name: 'The prices stay', how: 'Tax is taken out of each price.' },
  ];
  return (
    <Dialog
      title="Prices include tax"
      about={`The client pays ${money(askedOf(draft.totals))} now, and ${money(netOf(draft.totals))} of that is earned.`}
      open
      onClose={onClose}
    >
      <div className="flex flex-col gap-3">
        {choices.map(({ grossedUp, after, name, how }) => (
          <div key={name} className="flex items-start justify-between gap-4 border-b border-rule pb-3">
            <p>
              {how} The client pays <b className="font-mono text-money">{money(askedOf(after.totals))}</b>, and{' '}
              {money(netOf(after.totals))} is earned.
            </p>
            <Button kind={grossedUp ? 'main' : 'plain'} onClick={() => choose({ inclusive: true, grossedUp })}>
              {name}
            </Button>
          </div>
        ))}
        <Button className="self-end" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </Dialog>
  );
}
