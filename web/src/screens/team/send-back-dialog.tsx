import type { Id } from '@half-penny/core/model';
import { useChanges } from '../../data/session';
import { SayWhy } from '../../parts/say-why';

/** What goes back to a member: whole timesheets, or single entries and expenses. */
export interface GoesBack {
  ids: Id[];
  entryIds: Id[];
  costIds: Id[];
}

interface SendBackProps {
  what: GoesBack;
  about: string;
  onClose: (done: boolean) => void;
}

/** Why something goes back; what is said stands at each entry, and on the member's week. */
export function SendBackDialog({ what, about, onClose }: SendBackProps) {
  const { run } = useChanges();
  return (
    <SayWhy
      title="Send back"
      about={about}
      button="Send back"
      save={(reason) => run('period.sendBack', { ...what, reason }).then(() => onClose(true))}
      onClose={() => onClose(false)}
    />
  );
}
