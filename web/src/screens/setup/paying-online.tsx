import type { Pricer } from '@half-penny/core/billing';
import { simulatePaying, usePaying } from '../../data/online';
import { useChanges } from '../../data/session';
import { wordsOf } from '../../data/in-words';
import { Button } from '../../parts/button';
import { Connect } from '../../parts/connect';
import { SavedField } from '../../parts/field';
import { Section } from '../../parts/page';
import { useState } from 'react';

/** How clients pay by card: an address of the studio's, or the simulated service. */
export function PayingOnline({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const { paying, read, setPaying } = usePaying();
  const [fault, setFault] = useState<string>();
  const simulate = (on: boolean) =>
    void simulatePaying(on).then(setPaying, (thrown: unknown) => setFault(wordsOf(thrown)));
  return (
    <Section title="Paying online">
      <div className="grid max-w-3xl gap-4 border-t border-ink px-2 pt-3">
        <SavedField
          label="Address to pay at"
          value={pricer.book.workspace.payAddress ?? ''}
          placeholder="https://pay.example/{number}?amount={amount}"
          save={(typed) => run('workspace.edit', { payAddress: typed.trim() })}
          hint="Where the button on a client’s page leads. {number}, {amount} and {currency} are filled in."
        />
        <Connect onConnected={read} />
        {paying && (
          <div className="flex flex-wrap items-center gap-3">
            {paying.simulated ? (
              <>
                <p className="min-w-0 flex-1 border-l-[3px] border-time bg-time-ground px-3 py-2">
                  Clients’ pages lead to a simulated payment service on this machine. No money moves.{' '}
                  <a href="/pay" target="_blank" rel="noreferrer" className="text-time underline underline-offset-2">
                    See what was paid
                  </a>
                </p>
                <Button onClick={() => simulate(false)}>Stop simulating payments</Button>
              </>
            ) : (
              <>
                <Button onClick={() => simulate(true)}>Simulate payments</Button>
                <p className="min-w-0 flex-1 text-soft">
                  A payment service on this machine, to try it: cards that are good or declined, paid twice, paid back.
                </p>
              </>
            )}
          </div>
        )}
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
      </div>
    </Section>
  );
}
