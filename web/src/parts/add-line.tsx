import { messageOf, type Fault } from '@half-penny/core/model';
import { useState, type FormEvent } from 'react';
import { Button } from './button';
import { SelectField, TextField, type Option } from './field';

/** A field of the line below a table that adds the next row. */
export interface AddField {
  key: string;
  label: string;
  placeholder?: string;
  hint?: string;
  /** A width and how it grows: "w-44", "min-w-44 flex-1". */
  className?: string;
  type?: 'text' | 'date';
  inputMode?: 'decimal' | 'numeric' | 'email';
  options?: readonly Option[];
  /** What stands there at first and after each addition. */
  start?: string;
}

interface AddLineProps {
  /** What the line does: "Add a stage". */
  label: string;
  /** What the button says: "Add the stage". */
  button: string;
  fields: readonly AddField[];
  /** Adds what was typed; a fault it throws is shown at the field that its path names, or at the first. */
  add: (typed: Readonly<Record<string, string>>) => Promise<unknown>;
}

/** The line below a table that adds the next row and is empty again afterwards. */
export function AddLine({ label, button, fields, add }: AddLineProps) {
  const beginning = () => Object.fromEntries(fields.map((field) => [field.key, field.start ?? '']));
  const [typed, setTyped] = useState<Record<string, string>>(beginning);
  const [fault, setFault] = useState<{ at: string; message: string } | null>(null);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const first = event.currentTarget.querySelector<HTMLElement>('input, select');
    try {
      await add({ ...beginning(), ...typed });
      setTyped(beginning());
      setFault(null);
      first?.focus();
    } catch (thrown) {
      const path = (thrown as Partial<Fault>).path ?? '';
      const at = fields.some((field) => field.key === path) ? path : fields[0]!.key;
      setFault({ at, message: messageOf(thrown) });
    }
  };
  return (
    <form
      aria-label={label}
      onSubmit={(event) => void submit(event)}
      className="mt-3 flex flex-wrap items-start gap-3 px-2"
    >
      {fields.map(({ key, options, start: _start, ...field }) => {
        const shared = {
          ...field,
          value: typed[key] ?? '',
          fault: fault?.at === key ? fault.message : undefined,
        };
        const change = (value: string) => setTyped((now) => ({ ...now, [key]: value }));
        return options ? (
          <SelectField key={key} {...shared} options={options} onChange={(event) => change(event.target.value)} />
        ) : (
          <TextField key={key} {...shared} onChange={(event) => change(event.target.value)} />
        );
      })}
      <Button type="submit" className="mt-5">
        {button}
      </Button>
    </form>
  );
}
