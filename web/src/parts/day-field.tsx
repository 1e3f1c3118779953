import { wordsOf } from '../data/in-words';
import type { Day } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import { inputLook, TextField } from './field';
import { showShortDay } from './days';
import { isKey } from './keys';

interface DayFieldProps {
  label: string;
  value: Day;
  today: Day;
  onPick: (day: Day) => void;
  className?: string;
  /** Stands in a line of other things: the label is for assistive technology only. */
  bare?: boolean;
}

type ReadDay = (text: string, today: Day) => Day;
let reader: ReadDay | undefined;

/** What reads days; it comes when a field for one is first used. */
const readerOfDays = async (): Promise<ReadDay> => (reader ??= (await import('@half-penny/core/entries/line')).readDay);

/** A day, written as people do: "12 nov", "mon", "yesterday". */
export function DayField({ label, value, today, onPick, className = '', bare = false }: DayFieldProps) {
  const [text, setText] = useState(showShortDay(value));
  const [fault, setFault] = useState<string>();
  useEffect(() => {
    setText(showShortDay(value));
    setFault(undefined);
  }, [value]);
  const commit = () => {
    if (text === showShortDay(value)) return;
    if (reader) take(reader);
    else void readerOfDays().then(take);
  };
  const take = (read: ReadDay) => {
    try {
      const day = read(text, today);
      setFault(undefined);
      setText(showShortDay(day));
      onPick(day);
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  const rest = {
    value: text,
    onChange: (event: React.ChangeEvent<HTMLInputElement>) => setText(event.target.value),
    onFocus: () => void readerOfDays(),
    onBlur: commit,
    onKeyDown: (event: React.KeyboardEvent) => {
      if (isKey(event, 'edit.save') && text !== showShortDay(value)) {
        // What was typed is read first; a form around it is not sent by the same key.
        event.preventDefault();
        commit();
      }
      if (isKey(event, 'edit.leave')) setText(showShortDay(value));
    },
  };
  if (!bare) return <TextField label={label} fault={fault} className={className} {...rest} />;
  return (
    <span className={`relative ${className}`}>
      <input aria-label={label} aria-invalid={fault ? true : undefined} className={`${inputLook} text-sm`} {...rest} />
      {fault && (
        <span
          role="alert"
          className="absolute top-full left-0 z-20 mt-1 w-64 rounded-md border border-fault bg-sheet p-2 text-sm text-fault shadow-lg"
        >
          {fault}
        </span>
      )}
    </span>
  );
}
