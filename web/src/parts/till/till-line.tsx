import type { Pricer } from '@half-penny/core/billing';
import { type Member, type Timer } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { useContext, useEffect, useId, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useLikelyJobs, useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { tillOpened } from '../../state/shell';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { itemLook } from '../jobs';
import { JobOrder } from '../job-order';
import { ariaKey, runKey } from '../keys';
import type * as reader from './reading';
import type { Choice } from './reading';

type Reading = typeof reader;

/** What reads the line, once the Till was opened. */
function useReading(open: boolean): Reading | null {
  const [reading, setReading] = useState<Reading | null>(null);
  useEffect(() => {
    if (open && !reading) void import('./reading').then((loaded) => setReading(() => loaded));
  }, [open, reading]);
  return reading;
}

interface TillLineProps {
  pricer: Pricer;
  member: Member;
  timer: Timer | null;
}

/**
 * One line for everything: a job to switch to, or what was done as one would write it to a colleague. "." opens it, "." again pauses.
 * With a length it is recorded, without one a timer starts.
 */
export function TillLine({ pricer, member, timer }: TillLineProps) {
  const dispatch = useAppDispatch();
  const open = useAppSelector((state) => state.shell.tillOpen);
  const now = useAppSelector((state) => (state.shell.tillOpen ? state.clock.now : 0));
  const { run, attempt } = useChanges();
  const today = useToday();
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState('');
  const [fault, setFault] = useState<string>();
  const field = useRef<HTMLInputElement>(null);
  const panel = useRef<HTMLDivElement>(null);
  const listId = useId();
  const reading = useReading(open);
  const order = useContext(JobOrder);
  const likely = useLikelyJobs(pricer);
  const context = useMemo(
    () => (open && reading ? reading.contextOf(pricer, member, likely, order, today) : null),
    [open, reading, pricer, member, likely, order, today],
  );
  const line = useMemo(() => (context && reading ? reading.readLine(typed, context) : null), [reading, typed, context]);
  const choices = useMemo(
    () => (reading && line && context ? reading.choicesOf(typed, line, context, pricer) : []),
    [reading, typed, line, context, pricer],
  );
  useEffect(() => {
    if (open) field.current?.focus();
  }, [open]);
  // What was chosen stays chosen while the list changes around it; a new line begins at the top.
  const place = Math.max(
    0,
    choices.findIndex((choice) => choice.value === chosen),
  );
  const write = (text: string) => {
    setTyped(text);
    setChosen('');
  };
  const close = () => {
    dispatch(tillOpened(false));
    write('');
    setFault(undefined);
    field.current?.blur();
  };
  const take = async (choice: Choice, { act }: Reading) => {
    if (choice.answer !== undefined) return write(choice.answer);
    if (choice.line === null) return;
    // The line is empty at once, so that the next key is never typed into what was taken already.
    const taken = typed;
    close();
    try {
      await act(run, choice.line, { member, today, now });
    } catch (thrown) {
      const words = wordsOf(thrown);
      dispatch(tillOpened(true));
      // What was refused comes back to be put right, unless something else was begun meanwhile.
      if (field.current?.value) return setFault(`“${taken}”: ${words}`);
      write(taken);
      setFault(words);
    }
  };
  /** Enter can be faster than what reads the line. */
  const takeEarly = async () => {
    const loaded = await import('./reading');
    const then = loaded.contextOf(pricer, member, likely, order, today);
    const [first] = loaded.choicesOf(typed, loaded.readLine(typed, then), then, pricer);
    if (first) await take(first, loaded);
  };
  const step = (by: number) => {
    const next = (place + by + choices.length) % Math.max(1, choices.length);
    setChosen(choices[next]?.value ?? '');
    panel.current?.querySelector(`[id="${listId}-${next}"]`)?.scrollIntoView({ block: 'nearest' });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const choice = choices[place];
    const completed = typed !== '' && choice?.completed;
    runKey(event, {
      'till.close': close,
      ...(typed === '' && {
        'till.stop': () => {
          close();
          if (timer) void attempt('timer.stop', { id: timer.id });
        },
      }),
      'till.next': () => step(1),
      'till.previous': () => step(-1),
      'till.take': () => void (choice && reading ? take(choice, reading) : takeEarly()),
      ...(completed && { 'till.complete': () => write(completed) }),
    });
  };
  return (
    <div
      data-till-line
      className={`relative order-last w-full ${open ? '' : 'max-md:hidden'} xl:order-none xl:ml-1 xl:w-auto xl:min-w-0 xl:max-w-[420px] xl:flex-1 xl:focus-within:max-w-[540px]`}
    >
      <div
        ref={panel}
        hidden={!open}
        className="absolute inset-x-0 bottom-[calc(100%+12px)] rounded-lg border border-strong bg-sheet text-ink shadow-lg md:min-w-[460px]"
      >
        {reading && line && line.tokens.length > 0 && <reading.Understood text={typed} line={line} />}
        {fault && (
          <p role="alert" className="border-b border-rule px-3 py-2 text-sm text-fault">
            {fault}
          </p>
        )}
        {/* Always there, since the field names it. */}
        <div
          role="listbox"
          id={listId}
          aria-label="What to do"
          className={`max-h-96 overflow-auto ${choices.length > 0 ? 'p-1' : ''}`}
        >
          {choices.map((choice, index) => (
            <div
              key={choice.value}
              id={`${listId}-${index}`}
              role="option"
              aria-selected={index === place}
              data-selected={index === place}
              className={itemLook}
              onMouseDown={(event) => event.preventDefault()}
              onMouseMove={() => setChosen(choice.value)}
              onClick={() => void take(choice, reading!)}
            >
              {choice.text}
            </div>
          ))}
        </div>
        <p className="border-t border-rule px-3 py-1.5 text-xs text-soft">
          {typed === ''
            ? 'Enter starts the job. Or write: 1:30 yesterday for a job, plot sheet 4, not billable'
            : 'Enter takes the first, arrows choose, Tab completes the name, “quotes” keep words in the note'}
        </p>
      </div>
      <input
        ref={field}
        role="combobox"
        aria-label="Switch jobs or write down what was done"
        aria-expanded={open}
        aria-controls={listId}
        aria-autocomplete="list"
        aria-activedescendant={open && choices.length > 0 ? `${listId}-${place}` : undefined}
        autoComplete="off"
        dir="auto"
        value={typed}
        onChange={(event) => {
          write(event.target.value);
          setFault(undefined);
        }}
        onFocus={() => dispatch(tillOpened(true))}
        onBlur={() => dispatch(tillOpened(false))}
        onKeyDown={onKeyDown}
        placeholder={timer ? 'Switch jobs, or write down time…' : 'Start a job, or write down time…'}
        aria-keyshortcuts={ariaKey('till.open')}
        className="h-9 w-full rounded-md border border-till-rule bg-transparent px-3 pr-9 text-ellipsis text-till-ink placeholder:text-till-soft"
      />
      <kbd
        aria-hidden
        className="absolute top-2 right-2.5 rounded-sm border border-till-rule px-1.5 font-mono text-xs text-till-soft"
      >
        .
      </kbd>
    </div>
  );
}
