import { useSession } from '../../data/session';
import { endSharing } from '../../data/sharing/share';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { useSubmit } from '../../parts/use-submit';

/** Asks before this device goes on alone. */
export function EndDialog({ waiting, onClose }: { waiting: number; onClose: () => void }) {
  const session = useSession();
  const { fault, submit } = useSubmit(async () => {
    await endSharing(session);
    onClose();
  });
  return (
    <Dialog
      title="Go on alone"
      open
      onClose={onClose}
      about="The workspace stays here as it is, and is not the others’ any more: what is done here or there from now on is nowhere else. The others go on together."
    >
      {waiting > 0 && (
        <p className="mb-3 text-attention">
          {waiting === 1 ? 'One change waits' : `${waiting} changes wait`} to be sent: the others will never have{' '}
          {waiting === 1 ? 'it' : 'them'}, and what was to be done when connected is not done.
        </p>
      )}
      {fault && (
        <p role="alert" className="mb-3 text-fault">
          {fault}
        </p>
      )}
      <Button kind="main" onClick={() => submit()}>
        Go on alone
      </Button>
    </Dialog>
  );
}
