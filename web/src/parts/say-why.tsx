import { useState } from 'react';
import { Button } from './button';
import { Dialog } from './dialog';
import { TextField } from './field';
import { useSubmit } from './use-submit';

interface SayWhyProps {
  title: string;
  about: string;
  /** What is asked for: "Why". */
  label?: string;
  /** What the main button says. */
  button: string;
  save: (why: string) => Promise<unknown>;
  onClose: () => void;
}

/** A window that asks for one line of words, such as a reason, and does what it is for. What is wrong with them stands at the field. */
export function SayWhy({ title, about, label = 'Why', button, save, onClose }: SayWhyProps) {
  const [why, setWhy] = useState('');
  const { fault, submit } = useSubmit(() => save(why));
  return (
    <Dialog open onClose={onClose} title={title} about={about}>
      <form onSubmit={submit} className="mt-2 flex flex-col gap-3">
        <TextField label={label} value={why} fault={fault} onChange={(event) => setWhy(event.target.value)} />
        <Button type="submit" kind="main" className="self-end">
          {button}
        </Button>
      </form>
    </Dialog>
  );
}
