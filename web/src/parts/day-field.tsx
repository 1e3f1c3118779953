import type { Day } from '@half-penny/core/time';
import { CalendarDays } from 'lucide-react';
import { lazy, Suspense, useEffect, useId, useRef, useState, type ChangeEvent, type KeyboardEvent } from 'react';
import { flushSync } from 'react-dom';
import { wordsOf } from '../data/in-words';
import { useToday } from '../data/queries';
import { showShortDay } from './days';
import { describedBy, inputLook, Labelled, type LabelledProps } from './field';
import { isKey } from './keys';
import { Opener } from './opener';

interface DayFieldProps extends LabelledProps {
  /** "" where none is said. */
  value: Day | '';
  onPick: (day: Day) => void;
  /** Emptying it says none; without it, an emptied field takes back what it had. */
  onClear?: () => void;
  /** Stands in a line of other things: the label is for assistive technology only. */
  bare?: boolean;
}

type ReadDay = (text: string, today: Day) => Day;
let reader: ReadDay | undefined;

/** What reads days; it comes when a field for one is first used. */
const readerOfDays = async (): Promise<ReadDay> =>
  (reader ??= (await import('@half-penny/core/entries/quick-entry')).readDay);

const Calendar = lazy(() => import('./calendar'));
const shown = (value: Day | '') => (value ? showShortDay(value) : '');

/** A day, written as people do: "12 nov", "mon", "yesterday", or picked from a month. */
export function DayField({
  label,
  value,
  onPick,
  onClear,
  className = '',
  bare = false,
  hint,
  ...rest
}: DayFieldProps) {
  const id = useId();
  const today = useToday();
  const box = useRef<HTMLSpanElement>(null);
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState(shown(value));
  const [unread, setUnread] = useState('');
  const [open, setOpen] = useState(false);
  /** What reads days is on its way; whether the form around was to be sent meanwhile. */
  const waiting = useRef<'reading' | 'to be sent' | null>(null);
  const fault = unread || rest.fault;
  // A form with a day that cannot be read is not sent: it would go with the day from before.
  const say = (why: string) => {
    setUnread(why);
    input.current?.setCustomValidity(why);
  };
  // Taken in while rendering: an effect could come after the first key presses, and put back what they replaced.
  const [seen, setSeen] = useState(value);
  if (seen !== value) {
    setSeen(value);
    setText(shown(value));
    setUnread('');
  }
  useEffect(() => input.current?.setCustomValidity(''), [value]);
  const take = (day: Day) => {
    say('');
    setText(shown(day));
    if (day !== value) onPick(day);
  };
  const commit = () => {
    if (text === shown(value)) return say('');
    if (text.trim() === '') {
      if (onClear) return onClear();
      setText(shown(value));
      return say('');
    }
    const read = (readDay: ReadDay) => {
      try {
        take(readDay(text, today));
      } catch (thrown) {
        say(wordsOf(thrown));
      }
    };
    if (reader) return read(reader);
    waiting.current = 'reading';
    input.current?.setCustomValidity('A moment: the day is being read.');
    void readerOfDays().then((loaded) => {
      const send = waiting.current === 'to be sent';
      waiting.current = null;
      // The form has the day that was typed before it can be sent.
      flushSync(() => read(loaded));
      if (send) input.current?.form?.requestSubmit();
    });
  };
  const field = (
    <span ref={box} className="relative block">
      <input
        ref={input}
        {...(bare ? { 'aria-label': label } : { id, 'aria-describedby': describedBy(id, fault, hint) })}
        aria-invalid={fault ? true : undefined}
        className={`${inputLook} pe-8 ${bare ? 'text-sm' : ''}`}
        value={text}
        autoComplete="off"
        onChange={(event: ChangeEvent<HTMLInputElement>) => setText(event.target.value)}
        onFocus={() => void readerOfDays()}
        onBlur={commit}
        onInvalid={(event) => {
          if (!waiting.current) return;
          event.preventDefault();
          waiting.current = 'to be sent';
        }}
        onKeyDown={(event: KeyboardEvent) => {
          if (isKey(event, 'edit.save') && text !== shown(value)) {
            // What was typed is read first; a form around it is not sent by the same key.
            event.preventDefault();
            commit();
          }
          if (isKey(event, 'edit.leave') && text !== shown(value)) {
            event.stopPropagation();
            setText(shown(value));
            say('');
          }
          if (isKey(event, 'day.calendar')) {
            event.preventDefault();
            setOpen(true);
          }
        }}
      />
      <Opener
        label={label}
        open={open}
        onOpenChange={setOpen}
        anchor={box}
        trigger={{
          tabIndex: -1,
          'aria-label': 'Calendar',
          className: 'absolute inset-y-0 end-0 grid w-8 place-items-center text-soft hover:text-ink',
          children: <CalendarDays size={15} aria-hidden />,
        }}
        align="start"
        className="z-[60]"
        onCloseAutoFocus={(event) => {
          event.preventDefault();
          input.current?.focus();
        }}
      >
        <Suspense fallback={<p className="p-3 text-soft">A moment…</p>}>
          <Calendar
            {...{ value, today }}
            onPick={(day) => {
              take(day);
              setOpen(false);
              input.current?.dispatchEvent(new Event('input', { bubbles: true }));
            }}
          />
        </Suspense>
      </Opener>
    </span>
  );
  if (!bare) return <Labelled {...{ label, fault, hint, id, className }}>{field}</Labelled>;
  return (
    <span className={`relative ${className}`}>
      {field}
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
