import type { Definition } from '@half-penny/core/reports';
import { type Report } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useToday } from '../../data/queries';
import { newId } from '../../data/registry';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { SelectField } from '../../parts/select';

interface KeepDialogProps {
  definition: Definition;
  /** The report that is changed; a new one is kept where there is none. */
  kept: Report | null;
  name: string;
  onClose: () => void;
}

/** Keeps a report under a name, perhaps to be ready on a day of each month. */
export function KeepDialog({ definition, kept, name, onClose }: KeepDialogProps) {
  const { run } = useChanges();
  const today = useToday();
  const navigate = useNavigate();
  const [title, setTitle] = useState(kept?.name ?? name);
  const [note, setNote] = useState(kept?.note ?? '');
  const [readyOn, setReadyOn] = useState(String(kept?.readyOn ?? ''));
  const [fault, setFault] = useState<string>();
  const keep = async () => {
    const id = kept?.id ?? newId();
    const fields = {
      name: title.trim(),
      note,
      definition: { ...definition },
      readyOn: readyOn ? Number(readyOn) : null,
      // It is being looked at.
      seenOn: today,
    };
    try {
      if (kept) await run('report.edit', { id, ...fields });
      else await run('report.add', { id, ...fields });
      onClose();
      void navigate(`/reports/kept/${id}`);
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  return (
    <Dialog
      title={kept ? 'Keep the changes' : 'Keep this report'}
      about="What it asks is kept, never its figures: it says what there is on the day it is run."
      open
      onClose={onClose}
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <TextField label="Name" value={title} fault={fault} onChange={(event) => setTitle(event.target.value)} />
        <TextField
          label="Words under the name, for whom it goes to"
          value={note}
          lines={2}
          onChange={(event) => setNote(event.target.value)}
        />
        <SelectField
          label="Ready each month"
          hint="It then waits on the Reports screen, marked as ready, until it is looked at."
          value={readyOn}
          options={[
            ['', 'Only when asked for'],
            ...Array.from({ length: 28 }, (_, day) => [String(day + 1), `From day ${day + 1}`] as const),
          ]}
          onPick={(picked) => setReadyOn(picked)}
        />
        <Button kind="main" type="submit" className="self-start">
          Keep
        </Button>
      </form>
    </Dialog>
  );
}
