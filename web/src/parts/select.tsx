import { Check, ChevronDown } from 'lucide-react';
import { Select as Radix } from 'radix-ui';
import { useId, useRef, useState, type ReactNode } from 'react';
import { wordsOf } from '../data/in-words';
import { describedBy, inputLook, Labelled, type LabelledProps } from './field';

/** A choice of a list; one that is not offered stands there with the reason and cannot be taken. */
export type Option = readonly [value: string, text: string, standing?: 'not offered'];

export interface SelectProps {
  value: string;
  options: readonly Option[];
  onPick: (value: string) => void;
  /** Its name for assistive technology, where no label stands beside it. */
  name?: string;
  /** What stands there where nothing of the list is chosen. */
  none?: string;
  disabled?: boolean;
  /** Boxed like every field, quiet within a row, or a word of a sentence. */
  look?: 'boxed' | 'quiet' | 'word';
  className?: string;
  /** It saves by itself: closing the window it stands in loses nothing. */
  saves?: boolean;
  autoFocus?: boolean;
  /** It was asked for before it was here: its list is open from the start. */
  startsOpen?: boolean;
  id?: string;
  fault?: ReactNode;
  describedBy?: string | undefined;
}

const looks = {
  boxed: inputLook,
  quiet: 'max-w-full rounded-sm px-1 text-soft hover:bg-time-ground hover:text-ink',
  word: 'max-w-full rounded-sm px-0.5',
} as const;

/** "" cannot be the value of a choice where the list is: it stands for none being made. */
const NONE = '\u0000';

/** A list to choose one of, opened by a press, Space, Enter or the arrow keys. */
export function Select({
  value,
  options,
  onPick,
  name,
  none = '',
  look = 'boxed',
  className = '',
  ...rest
}: SelectProps) {
  const [open, setOpen] = useState(rest.startsOpen ?? false);
  const trigger = useRef<HTMLButtonElement>(null);
  const chosen = options.find(([each]) => each === value)?.[1] ?? none;
  const pick = (picked: string) => {
    onPick(picked === NONE ? '' : picked);
    // A window around it learns from this, as from any field, that something was chosen.
    trigger.current?.dispatchEvent(new Event('input', { bubbles: true }));
  };
  return (
    <Radix.Root
      value={value || NONE}
      open={open}
      onOpenChange={setOpen}
      onValueChange={pick}
      disabled={rest.disabled ?? false}
    >
      <Radix.Trigger
        ref={trigger}
        {...(rest.id ? { id: rest.id } : {})}
        {...(rest.autoFocus ? { autoFocus: true } : {})}
        {...(rest.saves ? { 'data-saves': true } : {})}
        aria-label={name}
        aria-invalid={rest.fault ? true : undefined}
        aria-describedby={rest.describedBy}
        className={`inline-flex cursor-pointer items-center gap-1 text-start ${looks[look]} ${className}`}
      >
        <span className="clamp-1 min-w-0 flex-1">
          <Radix.Value>{chosen || '\u00a0'}</Radix.Value>
        </span>
        {look !== 'word' && <ChevronDown size={14} aria-hidden className="flex-none text-soft" />}
      </Radix.Trigger>
      {open && (
        <Radix.Portal>
          <Radix.Content
            position="popper"
            sideOffset={4}
            collisionPadding={8}
            className="z-[60] max-h-(--radix-select-content-available-height) max-w-[min(28rem,calc(100vw-16px))] min-w-(--radix-select-trigger-width) overflow-hidden rounded-lg border border-strong bg-sheet text-ink shadow-lg"
          >
            <Radix.Viewport className="p-1">
              {options.map(([each, text, standing]) => (
                <Radix.Item
                  key={each}
                  value={each || NONE}
                  disabled={standing === 'not offered'}
                  className="grid min-h-8 cursor-pointer grid-cols-[16px_minmax(0,1fr)] items-center gap-2 rounded-sm px-2 py-1 outline-none data-disabled:cursor-default data-disabled:text-soft data-highlighted:bg-time-ground pointer-coarse:min-h-11"
                >
                  <span className="flex">
                    <Radix.ItemIndicator>
                      <Check size={14} className="text-time" />
                    </Radix.ItemIndicator>
                  </span>
                  <span className="written">
                    <Radix.ItemText>{text}</Radix.ItemText>
                  </span>
                </Radix.Item>
              ))}
            </Radix.Viewport>
          </Radix.Content>
        </Radix.Portal>
      )}
    </Radix.Root>
  );
}

export type SelectFieldProps = LabelledProps &
  Omit<SelectProps, 'look' | 'name' | 'id' | 'fault' | 'describedBy' | 'className'>;

/** A list to choose one of, with its label. */
export function SelectField({ label, fault, hint, className, ...rest }: SelectFieldProps) {
  const id = useId();
  return (
    <Labelled {...{ label, fault, hint, id }} {...(className ? { className } : {})}>
      <Select {...rest} {...{ id, fault }} describedBy={describedBy(id, fault, hint)} />
    </Labelled>
  );
}

type SavedSelectProps = Omit<SelectFieldProps, 'onPick' | 'fault' | 'saves'> & {
  save: (value: string) => Promise<unknown>;
};

/** A choice that saves at once. */
export function SavedSelect({ save, ...rest }: SavedSelectProps) {
  const [fault, setFault] = useState<string>();
  const onPick = (value: string) => {
    save(value).then(
      () => setFault(undefined),
      (thrown: unknown) => setFault(wordsOf(thrown)),
    );
  };
  return <SelectField {...rest} saves fault={fault} onPick={onPick} />;
}
