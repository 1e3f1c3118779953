import { faultsIn } from '@half-penny/core/model';
import { Plus } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { useSession } from '../data/session';
import { isKey } from './keys';
import { useKept } from '../state/kept';
import { Button } from './button';
import { TextField } from './field';
import { SelectField, type Option } from './select';

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
  /** The first thing to do where it stands. */
  autoFocus?: boolean;
  /** One quiet word until it is pressed: below a list that has rows already. */
  folded?: boolean;
  /** Adds what was typed; a fault it throws is shown at the field that its path names, or at the first. */
  add: (typed: Readonly<Record<string, string>>) => Promise<unknown>;
}

/** The line below a table that adds the next row and is empty again afterwards. */
export function AddLine({ folded = false, ...line }: AddLineProps) {
  const [opened, setOpened] = useState(false);
  // A list that has just got its first row keeps the line that added it.
  const [startedOpen] = useState(!folded);
  if (startedOpen || opened)
    return (
      <OpenLine {...line} autoFocus={line.autoFocus || opened} {...(opened && { onLeave: () => setOpened(false) })} />
    );
  return (
    <Button kind="quiet" icon={<Plus size={14} aria-hidden />} className="mt-1" onClick={() => setOpened(true)}>
      {line.label}
    </Button>
  );
}

type OpenLineProps = Omit<AddLineProps, 'folded'> & {
  /** Escape, where the line can be folded away again. */
  onLeave?: () => void;
};

function OpenLine({ label, button, fields, autoFocus = false, add, onLeave }: OpenLineProps) {
  const beginning = () => Object.fromEntries(fields.map((field) => [field.key, field.start ?? '']));
  const { entry: workspace } = useSession();
  const place = `${workspace.id} ${location.pathname} ${label}`;
  const [typed, change, forget] = useKept<Record<string, string>>(place, beginning());
  const [faults, setFaults] = useState<Readonly<Record<string, string>>>({});
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    const taken = { ...beginning(), ...typed };
    const from = document.activeElement;
    // Empty at once: what is typed before the row is there belongs to the next one, and Enter twice adds one.
    forget();
    setFaults({});
    form.querySelector<HTMLElement>('input, [role=combobox]')?.focus();
    try {
      await add(taken);
    } catch (thrown) {
      const begun = (now: Record<string, string>) =>
        fields.some(({ key, start = '' }) => (now[key] ?? start) !== start);
      change((now) => (begun(now) ? now : taken));
      if (from instanceof HTMLElement && form.contains(from)) from.focus();
      const at = (path: string) => (fields.some((field) => field.key === path) ? path : fields[0]!.key);
      setFaults(Object.fromEntries(faultsIn(thrown).map(({ path, message }) => [at(path), message])));
    }
  };
  return (
    <form
      aria-label={label}
      onSubmit={(event) => void submit(event)}
      onKeyDown={(event) => {
        if (onLeave && !event.defaultPrevented && isKey(event, 'edit.leave')) onLeave();
      }}
      className="mt-3 flex flex-wrap items-start gap-3 px-2"
    >
      {fields.map(({ key, options, start: _start, ...field }, at) => {
        const shared = {
          ...field,
          ...(autoFocus && at === 0 ? { autoFocus } : {}),
          value: typed[key] ?? '',
          fault: faults[key],
        };
        const type = (value: string) => change((now) => ({ ...now, [key]: value }));
        return options ? (
          <SelectField key={key} {...shared} options={options} onPick={(picked) => type(picked)} />
        ) : (
          <TextField key={key} {...shared} onChange={(event) => type(event.target.value)} />
        );
      })}
      <Button type="submit" className="mt-5">
        {button}
      </Button>
    </form>
  );
}
