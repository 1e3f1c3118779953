import { wordsOf } from '../data/in-words';
import { isKey } from './keys';
import { useId, useState, type ComponentProps, type ReactNode } from 'react';
import { useTextEdit } from './use-text-edit';

interface LabelledProps {
  label: string;
  /** What is wrong, in words, at the field. */
  fault?: ReactNode;
  /** What the setting affects, with an example. */
  hint?: ReactNode;
  className?: string;
}

export const inputLook =
  'w-full min-h-8 rounded-md border border-strong bg-sheet px-2 py-1 text-base text-ink aria-invalid:border-fault disabled:text-soft';

function Labelled({
  label,
  fault,
  hint,
  className = '',
  id,
  children,
}: LabelledProps & { id: string; children: ReactNode }) {
  return (
    <div className={`flex min-w-0 flex-col gap-1 ${className}`}>
      <label htmlFor={id} className="text-xs font-semibold text-soft">
        {label}
      </label>
      {children}
      {fault && (
        <div id={`${id}-fault`} role="alert" className="text-sm text-fault">
          {fault}
        </div>
      )}
      {hint && !fault && (
        <p id={`${id}-hint`} className="text-xs text-soft">
          {hint}
        </p>
      )}
    </div>
  );
}

const describedBy = (id: string, fault?: ReactNode, hint?: ReactNode) =>
  fault ? `${id}-fault` : hint ? `${id}-hint` : undefined;

/** What saves by itself is never lost by closing the window it stands in. */
interface Saving {
  'data-saves'?: boolean;
}

type TextFieldProps = LabelledProps & Saving & Omit<ComponentProps<'input'>, 'className'> & { lines?: number };

export function TextField({ label, fault, hint, className, lines, ...rest }: TextFieldProps) {
  const id = useId();
  const shared = {
    id,
    'aria-invalid': fault ? true : undefined,
    'aria-describedby': describedBy(id, fault, hint),
    className: inputLook,
  };
  return (
    <Labelled {...{ label, fault, hint, id }} {...(className ? { className } : {})}>
      {lines ? (
        <textarea {...(rest as ComponentProps<'textarea'>)} {...shared} rows={lines} dir="auto" />
      ) : (
        <input type="text" dir="auto" {...rest} {...shared} />
      )}
    </Labelled>
  );
}

/** A choice of a list; one that is not offered stands there with the reason and cannot be taken. */
export type Option = readonly [value: string, text: string, standing?: 'not offered'];

type SelectFieldProps = LabelledProps &
  Saving &
  Omit<ComponentProps<'select'>, 'className'> & { options: readonly Option[] };

export function SelectField({ label, fault, hint, className, options, ...rest }: SelectFieldProps) {
  const id = useId();
  return (
    <Labelled {...{ label, fault, hint, id }} {...(className ? { className } : {})}>
      <select
        {...rest}
        id={id}
        aria-invalid={fault ? true : undefined}
        aria-describedby={describedBy(id, fault, hint)}
        className={inputLook}
      >
        <Options options={options} />
      </select>
    </Labelled>
  );
}

export const Options = ({ options }: { options: readonly Option[] }) =>
  options.map(([value, text, standing]) => (
    <option key={value} value={value} disabled={standing === 'not offered'}>
      {text}
    </option>
  ));

type SavedFieldProps = LabelledProps & {
  value: string;
  /** Saves the text; a fault it throws is shown at the field, and the text stays as typed. */
  save: (text: string) => Promise<unknown>;
  lines?: number;
  placeholder?: string;
  inputMode?: 'text' | 'decimal' | 'email' | 'numeric';
};

/** A field that saves as soon as it is left or Enter is pressed; Escape brings back what was there. */
export function SavedField({ value, save, lines, ...rest }: SavedFieldProps) {
  const { text, type, fault, commit, drop } = useTextEdit(value, save);
  return (
    <TextField
      {...rest}
      data-saves
      {...(lines ? { lines } : {})}
      value={text}
      fault={fault}
      onChange={(event) => type(event.target.value)}
      onBlur={() => void commit('left')}
      onKeyDown={(event) => {
        if (isKey(event, 'edit.save') && !lines) void commit('asked');
        if (isKey(event, 'edit.leave') && text !== value) {
          event.stopPropagation();
          drop();
        }
      }}
    />
  );
}

/** A choice that saves at once. */
export function SavedSelect({
  value,
  save,
  ...rest
}: LabelledProps & { value: string; save: (value: string) => Promise<unknown>; options: SelectFieldProps['options'] }) {
  const [fault, setFault] = useState<string>();
  return (
    <SelectField
      {...rest}
      data-saves
      value={value}
      fault={fault}
      onChange={(event) => {
        save(event.target.value).then(
          () => setFault(undefined),
          (thrown: unknown) => setFault(wordsOf(thrown)),
        );
      }}
    />
  );
}
