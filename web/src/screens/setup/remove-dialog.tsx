import type { Device } from '@half-penny/core/model';
import { useChanges, useSession } from '../../data/session';
import { removeDevice } from '../../data/sharing/share';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { useSubmit } from '../../parts/use-submit';

/** Asks before a device is removed, and says what that does not do. */
export function RemoveDialog({ device, onClose }: { device: Device; onClose: () => void }) {
  const session = useSession();
  const changes = useChanges();
  const { fault, submit } = useSubmit(async () => {
    await removeDevice(session, changes, device.id);
    onClose();
  });
  return (
    <Dialog
      title={`Remove ${device.name.slice(0, 40)}`}
      open
      onClose={onClose}
      about="It is not let in any more, and the workspace’s key is changed. What it has by now it keeps: nobody can take that back from here."
    >
      {fault && (
        <p role="alert" className="mb-3 text-fault">
          {fault}
        </p>
      )}
      <Button kind="main" onClick={() => submit()}>
        Remove it
      </Button>
    </Dialog>
  );
}
