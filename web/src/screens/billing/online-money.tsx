import { paidBackOf } from '@half-penny/core/billing';
import { onlineSource } from '@half-penny/core/commands';
import type { MoneyIn } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import { payBackOnline, usePaying } from '../../data/online';
import type { MoneyInRow } from '../../data/money-in';
import { Button } from '../../parts/button';
import { showMoment } from '../../parts/days';
import { Dialog } from '../../parts/dialog';
import { useSubmit } from '../../parts/use-submit';

const PREFIX = onlineSource('');

/** Whether a payment service took it. */
export const isOnline = ({ source }: MoneyIn): boolean => source.startsWith(PREFIX);

/** What was paid online and did not go back. */
export const canGoBack = ({ sum, matched }: MoneyInRow): boolean =>
  sum.setAside === null &&
  (matched?.back ?? []).length === 0 &&
  (matched?.ahead ?? []).every((deposit) => paidBackOf(deposit) === 0);

/** The simulated service, where it is in use, and messages that were not taken. */
export function OnlineNote() {
  const { paying } = usePaying();
  if (!paying) return null;
  const { simulated, refused } = paying;
  return (
    <>
      {simulated && (
        <p className="mb-4 text-soft">
          What is paid online comes in by itself.{' '}
          <a href="/pay" target="_blank" rel="noreferrer" className="text-time underline underline-offset-2">
            Simulated payments
          </a>
        </p>
      )}
      {refused.length > 0 && (
        <details className="mb-4 border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention">
          <summary>
            {refused.length === 1 ? 'A message' : `${refused.length} messages`} of the payment service{' '}
            {refused.length === 1 ? 'was' : 'were'} not taken
          </summary>
          <ul>
            {refused.toReversed().map(({ at, why }) => (
              <li key={`${at} ${why}`}>
                {showMoment(at, Intl.DateTimeFormat().resolvedOptions().timeZone)}: {why}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

/** Has the payment service pay a payment back. */
export function PayBackOnline({ row: { sum, matched }, onClose }: { row: MoneyInRow; onClose: () => void }) {
  const [asked, setAsked] = useState(false);
  const { fault, submit } = useSubmit(async () => {
    setAsked(true);
    try {
      await payBackOnline(sum.source.slice(PREFIX.length));
      onClose();
    } finally {
      setAsked(false);
    }
  });
  const whole = showAmount(sum.sent?.amount ?? sum.amount, sum.currency);
  const owedAgain = (matched?.paid ?? []).map(({ invoice }) => invoice.frozen?.number).filter(Boolean);
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Pay ${whole} back to ${sum.payer || 'the payer'}`}
      about="The payment service does it; what it kept is not given back. It is written down once the service says that it was done."
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        {owedAgain.length > 0 && <p>{owedAgain.join(', ')} is owed again then.</p>}
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
        <Button type="submit" kind="fault" className="self-end" disabled={asked}>
          Pay it back
        </Button>
      </form>
    </Dialog>
  );
}
