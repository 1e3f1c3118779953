import { isKey } from './keys';
import { useId, type ComponentProps, type ReactNode } from 'react';
import { useTextEdit } from './use-text-edit';

export interface LabelledProps {
  label: string;
  /** What is wrong, in words, at the field. */
  fault?: ReactNode;
  /** What the setting affects, with an example. */
  hint?: ReactNode;
  className?: string;
}

export const inputLook =
  'w-full min-h-8 max-md:min-h-11 rounded-md border border-control bg-sheet px-2 py-1 text-base text-ink aria-invalid:border-fault disabled:text-soft';

export function Labelled({
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

export const describedBy = (id: string, fault?: ReactNode, hint?: ReactNode) =>
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
