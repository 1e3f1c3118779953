import type { Member } from '@half-penny/core/model';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { useSubmit } from '../../parts/use-submit';

/** Before the studio takes no more files of somebody. */
export function PartDialog({ member, onClose }: { member: Member; onClose: () => void }) {
  const { run } = useChanges();
  const { fault, submit } = useSubmit(() => run('keys.leave', { memberId: member.id }).then(onClose));
  return (
    <Dialog
      open
      title={`Take no more files of ${member.name}?`}
      about="What they handed in stays here, and what they have they keep. Files that come later are refused. To go on, invite them again."
      onClose={onClose}
    >
      {fault && (
        <p role="alert" className="text-sm text-fault">
          {fault}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Not now</Button>
        <Button kind="fault" onClick={() => submit()}>
          Take no more
        </Button>
      </div>
    </Dialog>
  );
}
