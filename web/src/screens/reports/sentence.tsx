import {
  fields,
  measureNames,
  measureOf,
  movings,
  columnFields,
  showWhen,
  type Definition,
  type FieldName,
  type MeasureName,
  type Moving,
  type When,
} from '@half-penny/core/reports';
import type { Day } from '@half-penny/core/time';
import { DayField } from '../../parts/day-field';
import { FilterWords } from './filters';
import { OrderedChoice } from './ordered-choice';
import { Word, wordLook } from './word';

interface SentenceProps {
  definition: Definition;
  today: Day;
  /** Changes some of it. */
  onChange: (change: Partial<Definition>) => void;
}

const charts = { bars: 'bars', shares: 'shares of the whole', heat: 'a heat map', line: 'a line' } as const;

/** What can be grouped by, in the order that it is offered. */
const groupable = Object.keys(fields) as FieldName[];

/** A report's question as a sentence; each underlined part of it is pressed to be changed. */
export function Sentence({ definition, today, onChange: set }: SentenceProps) {
  const measures = definition.measures.map((each) => measureOf(each).label.toLowerCase());
  return (
    <p className="mb-4 max-w-4xl text-lg leading-9 print:hidden" role="group" aria-label="What this report asks">
      <Word label="What is measured" text={listed(measures)} first>
        <OrderedChoice<MeasureName>
          label="Measures"
          chosen={definition.measures}
          offered={measureNames}
          nameOf={(each) => measureOf(each).label}
          hintOf={(each) => measureOf(each).says}
          least={1}
          onChange={(list) => set({ measures: list })}
        />
      </Word>{' '}
      of <FilterWords definition={definition} today={today} onChange={set} />{' '}
      <WhenWord when={definition.when} today={today} onChange={(when) => set({ when })} />
      {', by '}
      <Word
        label="Grouped by"
        text={
          definition.rows.length === 0
            ? 'nothing, all in one'
            : definition.rows.map((each) => fields[each].label.toLowerCase()).join(', then ')
        }
      >
        <OrderedChoice<FieldName>
          label="Groups"
          chosen={definition.rows}
          offered={groupable}
          nameOf={(each) => fields[each].label}
          least={0}
          onChange={(rows) => set({ rows })}
        />
      </Word>
      {'; '}
      <Choice
        label="Columns"
        value={definition.columns ?? ''}
        options={[['', 'in one column'], ...columnFields.map((each) => [each, `a column for each ${each}`] as const)]}
        onChange={(columns) => set({ columns: (columns || null) as Definition['columns'] })}
      />
      {', '}
      <Choice
        label="Compared"
        value={definition.compare ?? ''}
        options={[
          ['', 'compared with nothing'],
          ['before', 'against the period before'],
          ['year before', 'against the year before'],
        ]}
        onChange={(compare) => set({ compare: (compare || null) as Definition['compare'] })}
      />
      {', '}
      <Choice
        label="Order"
        value={definition.sortBy ?? ''}
        options={[
          ['', 'in the order of names'],
          ...definition.measures.map((each) => [each, `most ${measureOf(each).label.toLowerCase()} first`] as const),
        ]}
        onChange={(sortBy) => set({ sortBy: (sortBy || null) as Definition['sortBy'] })}
      />
      {', '}
      <Choice
        label="Picture"
        value={definition.chart ?? ''}
        options={[
          ['', 'without a picture'],
          ...Object.entries(charts).map(([key, name]) => [key, `with ${name}`] as const),
        ]}
        onChange={(chart) => set({ chart: (chart || null) as Definition['chart'] })}
      />
      .
    </p>
  );
}

const listed = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** A part of the sentence that is one of a few. */
function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  const known = options.some(([key]) => key === value);
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className={`field-sizing-content max-w-full cursor-pointer appearance-none border-0 bg-transparent px-0.5 ${value ? wordLook : 'rounded-sm text-soft underline decoration-dotted underline-offset-4 hover:bg-time-ground'}`}
    >
      {!known && <option value={value}>{value}</option>}
      {options.map(([key, text]) => (
        <option key={key} value={key}>
          {text}
        </option>
      ))}
    </select>
  );
}

/** When: one of the periods that move with the day of the run, or two days. */
function WhenWord({ when, today, onChange }: { when: When; today: Day; onChange: (when: When) => void }) {
  const fixed = when.kind === 'fixed' ? when : { from: `${today.slice(0, 8)}01`, to: today };
  const radio = (checked: boolean, text: string, next: When) => (
    <label key={text} className="flex items-center gap-2 py-0.5">
      <input type="radio" name="when" className="accent-time" checked={checked} onChange={() => onChange(next)} />
      {text}
    </label>
  );
  const backwards = when.kind === 'fixed' && when.to < when.from;
  return (
    <Word
      label="When"
      text={when.kind === 'fixed' ? `from ${showWhen(when)}` : when.kind === 'all' ? 'of all time' : showWhen(when)}
    >
      <fieldset>
        <legend className="mb-1 text-xs font-semibold text-soft">Moves with the day it is run on</legend>
        {(Object.entries(movings) as [Moving, string][]).map(([name, text]) =>
          radio(when.kind === 'moving' && when.name === name, text, { kind: 'moving', name }),
        )}
        <div className="my-2 border-t border-rule" />
        {radio(when.kind === 'all', 'All time', { kind: 'all' })}
        {radio(when.kind === 'fixed', 'These days', { kind: 'fixed', ...fixed })}
        <div className="flex items-center gap-2 pl-6">
          <DayField
            label="From"
            bare
            value={fixed.from}
            today={today}
            onPick={(from) => onChange({ kind: 'fixed', from, to: fixed.to })}
            className="w-28"
          />
          <span className="text-soft">to</span>
          <DayField
            label="To"
            bare
            value={fixed.to}
            today={today}
            onPick={(to) => onChange({ kind: 'fixed', from: fixed.from, to })}
            className="w-28"
          />
        </div>
        {backwards && (
          <p role="alert" className="mt-1 text-sm text-fault">
            The period ends before it starts.
          </p>
        )}
      </fieldset>
    </Word>
  );
}
