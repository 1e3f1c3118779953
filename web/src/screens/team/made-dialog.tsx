import { useState } from 'react';
import type { MadeFile } from '../../data/database';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';

/** A file that was made, and the page that goes with it. */
export interface Made {
  title: string;
  file: MadeFile;
  page: string;
}

/** What was saved just now, and what to write to whoever gets it. */
export function MadeDialog({ made, onClose }: { made: Made; onClose: () => void }) {
  const [said, setSaid] = useState('');
  const copy = () =>
    navigator.clipboard.writeText(made.page).then(
      () => setSaid('Copied.'),
      () => setSaid('The browser does not let anything be copied here: mark the text and copy it yourself.'),
    );
  return (
    <Dialog
      open
      wide
      title={made.title}
      about={
        <>
          Saved as <span className="font-mono text-sm break-all text-ink">{made.file.name}</span>. Send it by mail, or
          any other way, with this page.
        </>
      }
      onClose={onClose}
    >
      <TextField label="What to write with it" lines={12} readOnly value={made.page} />
      <div className="mt-4 flex flex-wrap items-center justify-end gap-2">
        <span role="status" className="mr-auto text-sm text-soft">
          {said}
        </span>
        <Button onClick={() => save(made.file.blob, made.file.name)}>Save it once more</Button>
        <Button onClick={() => void copy()}>Copy the page</Button>
        <Button kind="main" onClick={onClose}>
          Done
        </Button>
      </div>
    </Dialog>
  );
}
