import type { Pricer } from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import { useToBill } from '../../data/billing';
import { useChanges } from '../../data/session';
import { ClosingDialog } from './closing-dialog';

interface ArchiveDialogProps {
  pricer: Pricer;
  ids: readonly Id[];
  archive: boolean;
  onClose: () => void;
}

/** Archives clients or brings them back. */
export function ArchiveDialog({ pricer, ids, archive, onClose }: ArchiveDialogProps) {
  const { run } = useChanges();
  const clients = useToBill(pricer, 'every client');
  const open = clients
    ?.filter((each) => ids.includes(each.client.id))
    .map((each) => ({ name: each.client.name, minor: each.amount, currency: each.currency }));
  const what = ids.length === 1 ? (pricer.client.get(ids[0]!)?.name ?? '') : `${ids.length} clients`;
  const verb = archive ? 'Archive' : 'Bring back';
  return (
    <ClosingDialog
      title={`${verb} ${what.slice(0, 80)}`}
      about={
        archive
          ? 'Archived clients and their work leave the pickers at once and stay in reports. What is to bill stays to bill.'
          : 'Open work is offered in the pickers again.'
      }
      verb={verb}
      many={ids.length > 1}
      open={archive ? open : null}
      run={() => run('client.archive', { ids: [...ids], archived: archive })}
      onClose={onClose}
    />
  );
}
