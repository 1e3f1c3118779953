import type { Id, PublicKeys } from '@half-penny/core/model';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { ShortCode } from '../../parts/short-code';
import { useSubmit } from '../../parts/use-submit';

interface CompareDialogProps {
  member: { id: Id; name: string };
  studio: PublicKeys;
  keys: PublicKeys;
  onClose: () => void;
}

/** The last step of meeting: both sides read their code aloud, and somebody here says whether they are the same. */
export function CompareDialog({ member, studio, keys, onClose }: CompareDialogProps) {
  const { run } = useChanges();
  const same = useSubmit(() => run('keys.met', { memberId: member.id }).then(onClose));
  const other = useSubmit(() => run('keys.leave', { memberId: member.id }).then(onClose));
  return (
    <Dialog
      open
      title={`Is it ${member.name}?`}
      about={`Call ${member.name} and read this to one another. Where the figures differ, somebody put keys of their own between you.`}
      onClose={onClose}
    >
      <ShortCode studio={studio} member={keys} />
      {(same.fault ?? other.fault) && (
        <p role="alert" className="mt-3 text-sm text-fault">
          {same.fault ?? other.fault}
        </p>
      )}
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button onClick={onClose}>Later</Button>
        <Button kind="fault" onClick={() => other.submit()}>
          They differ
        </Button>
        <Button kind="main" onClick={() => same.submit()}>
          They are the same
        </Button>
      </div>
    </Dialog>
  );
}
