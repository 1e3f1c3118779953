import type { Id } from '@half-penny/core/model';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';

/** What goes back to a member: whole timesheets, or single entries and expenses. */
export interface GoesBack {
  ids: Id[];
  entryIds: Id[];
  costIds: Id[];
}

/** Why something goes back; what is said stands at each entry, and on the member's week. */
export function SendBackDialog({
  what,
  about,
  onClose,
}: {
  what: GoesBack;
  about: string;
  onClose: (done: boolean) => void;
}) {
  const { run } = useChanges();
  const [reason, setReason] = useState('');
  const { fault, submit } = useSubmit(async () => {
    await run('period.sendBack', { ...what, reason });
    onClose(true);
  });
  return (
    <Dialog open onClose={() => onClose(false)} title="Send back" about={about}>
      <form onSubmit={submit} className="mt-2 flex flex-col gap-3">
        <TextField label="Why" value={reason} fault={fault} onChange={(event) => setReason(event.target.value)} />
        <Button type="submit" kind="main" className="self-end">
          Send back
        </Button>
      </form>
    </Dialog>
  );
}
