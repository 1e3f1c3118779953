import type { Pricer } from '@half-penny/core/billing';
import type { Cost, CostLine } from '@half-penny/core/model';
import { addExact, showAmount } from '@half-penny/core/money';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { wordsOf } from '../../data/in-words';
import { usePayOffers } from '../../data/pay-offers';
import { usePayingOut } from '../../data/paying-out';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Section } from '../../parts/page';
import { SelectField, type Option } from '../../parts/select';
import { whatFor } from './due-columns';

interface WhatItPaysProps {
  pricer: Pricer;
  cost: Cost;
  lines: readonly CostLine[];
}

/** A line of a statement that is no cost of its own: it pays a bill, a member, or a client back. */
export function WhatItPays({ pricer, cost, lines }: WhatItPaysProps) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const paying = usePayingOut(pricer);
  const [chosen, setChosen] = useState('');
  const [fault, setFault] = useState<string>();
  const amount = lines.reduce((sum, line) => addExact(sum, line.amount ?? 0), 0);
  const { source, day, supplier, currency } = cost;
  const text = lines[0]?.text ?? '';
  const asLines = useMemo(
    () => [{ source, day, supplier, currency, text, amount }],
    [source, day, supplier, currency, text, amount],
  );
  const offers = usePayOffers(pricer, paying, asLines)?.get(source) ?? [];
  // In another currency it pays all of a bill, or nothing that could be told.
  const others = (paying?.dues ?? []).filter(({ left, cost: own }) =>
    own.currency === currency ? left >= amount : left > 0,
  );
  if (amount <= 0 || (offers.length === 0 && others.length === 0)) return null;
  const options: Option[] = [
    ['', 'Nothing that was owed: it is a cost'],
    ...offers.map((offer, index): Option => [`offer ${index}`, `It ${offer.says}`]),
    ...others.map((due): Option => [
      due.cost.id,
      `It pays ${due.name}, ${whatFor(due.cost)}, ${showAmount(due.left, due.cost.currency)} left`,
    ]),
  ];
  const take = async () => {
    const offer = offers.find((_each, index) => chosen === `offer ${index}`);
    try {
      const other = others.find((due) => due.cost.id === chosen && due.cost.currency !== currency);
      const whole = other ? { amount: other.left, left: amount } : { amount, left: null };
      const parts = offer?.parts ?? [{ kind: 'cost' as const, id: chosen, ...whole }];
      const [first] = parts;
      await run('ledger.pays', { costId: cost.id, parts });
      void navigate(first!.kind === 'cost' ? `/costs/cost/${first!.id}` : '/costs/pay');
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  return (
    <Section title="What it pays">
      <div className="flex flex-wrap items-end gap-3">
        <SelectField
          label="This line of the statement pays"
          value={chosen}
          options={options}
          onPick={setChosen}
          fault={fault}
          hint="A bill that is here already is no cost a second time."
          className="max-w-xl min-w-64 flex-1"
        />
        <Button kind="main" disabled={chosen === ''} onClick={() => void take()}>
          Take it as paid
        </Button>
      </div>
    </Section>
  );
}
