import type { FrozenInvoice, Invoice } from '@half-penny/core/model';
import { useChanges } from '../../data/session';
import { SayWhy } from '../../parts/say-why';

interface DisputeProps {
  invoice: Invoice;
  frozen: FrozenInvoice;
  onClose: () => void;
}

/** The client does not agree: reminders wait until it is settled. */
export function DisputeDialog({ invoice, frozen, onClose }: DisputeProps) {
  const { run } = useChanges();
  return (
    <SayWhy
      title={`${frozen.number} is in dispute`}
      about="No reminder goes out until it is settled."
      label="About what"
      button="Mark it"
      save={(note) => run('invoice.dispute', { id: invoice.id, note: note.trim() }).then(onClose)}
      onClose={onClose}
    />
  );
}
