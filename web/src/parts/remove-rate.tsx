import type { Pricer } from '@half-penny/core/billing';
import type { Id, RateLine } from '@half-penny/core/model';
import { useMemo } from 'react';
import { useChanges } from '../data/session';
import { Button } from './button';
import { Dialog } from './dialog';
import { EffectSlip } from './effect-slip';
import { useSubmit } from './use-submit';

/** Removes a rate, with what that does to what is to bill shown first. */
export function RemoveRate({
  pricer,
  line,
  name,
  clientId,
  onClose,
}: {
  pricer: Pricer;
  line: RateLine;
  name: string;
  clientId?: Id;
  onClose: () => void;
}) {
  const { run } = useChanges();
  const book = useMemo(
    () => ({ ...pricer.book, rateLines: pricer.book.rateLines.filter((each) => each.id !== line.id) }),
    [pricer, line],
  );
  const { fault, submit } = useSubmit(async () => {
    await run('rate.remove', { id: line.id });
    onClose();
  });
  return (
    <Dialog title={`Remove the rate of ${name.slice(0, 80)}`} open onClose={onClose}>
      <form onSubmit={submit} className="flex flex-col gap-4">
        <EffectSlip {...{ pricer, book }} {...(clientId ? { clientId } : {})} />
        {fault && (
          <p role="alert" className="text-sm text-fault">
            {fault}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" kind="fault" autoFocus>
            Remove the rate
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
