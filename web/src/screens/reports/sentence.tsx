import { Select } from '../../parts/select';
import {
  fields,
  measureNames,
  measureOf,
  rightsForMeasure,
  movings,
  columnFields,
  sayMeasures,
  showWhen,
  type Definition,
  type FieldName,
  type MeasureName,
  type Moving,
  type When,
} from '@half-penny/core/reports';
import type { Day } from '@half-penny/core/time';
import { useRights } from '../../data/rights';
import { DayField } from '../../parts/day-field';
import { AddFilter, FilterWords } from './filters';
import { OrderedChoice } from './ordered-choice';
import { quietLook, Word, wordLook } from './sentence-word';

interface SentenceProps {
  definition: Definition;
  today: Day;
  /** Changes some of it. */
  onChange: (change: Partial<Definition>) => void;
}

const charts = { bars: 'bars', shares: 'shares of the whole', heat: 'a heat map', line: 'a line' } as const;

/** What can be grouped by, in the order that it is offered. */
const groupable = Object.keys(fields) as FieldName[];

/** What a sentence can say besides; what is left out is a quiet addition after it. */
function additionsOf(definition: Definition, set: SentenceProps['onChange']): Omit<ChoiceProps, 'none'>[] {
  return [
    {
      label: 'Columns',
      value: definition.columns ?? '',
      options: columnFields.map((each) => [each, `with a column for each ${each}`]),
      onChange: (columns) => set({ columns: (columns || null) as Definition['columns'] }),
    },
    {
      label: 'Compare',
      value: definition.compare ?? '',
      options: [
        ['before', 'against the period before'],
        ['year before', 'against the year before'],
      ],
      onChange: (compare) => set({ compare: (compare || null) as Definition['compare'] }),
    },
    {
      label: 'Order',
      value: definition.sortBy ?? '',
      options: definition.measures.map((each) => [each, `most ${sayMeasures([each])} first`]),
      onChange: (sortBy) => set({ sortBy: (sortBy || null) as Definition['sortBy'] }),
    },
    {
      label: 'Chart',
      value: definition.chart ?? '',
      options: Object.entries(charts).map(([key, name]) => [key, `with ${name}`] as const),
      onChange: (chart) => set({ chart: (chart || null) as Definition['chart'] }),
    },
  ];
}

/** A report's question as a sentence; each underlined part of it is pressed to be changed. */
export function Sentence({ definition, today, onChange: set }: SentenceProps) {
  const additions = additionsOf(definition, set);
  const rights = useRights();
  return (
    <p className="mb-4 max-w-4xl text-lg leading-9 print:hidden" role="group" aria-label="What this report asks">
      <Word label="What is measured" text={sayMeasures(definition.measures)} first>
        <OrderedChoice<MeasureName>
          label="Measures"
          chosen={definition.measures}
          offered={measureNames.filter((name) => rightsForMeasure(name).every((right) => rights.has(right)))}
          nameOf={(each) => measureOf(each).label}
          hintOf={(each) => measureOf(each).says}
          least={1}
          onChange={(list) => set({ measures: list })}
        />
      </Word>
      <FilterWords definition={definition} today={today} onChange={set} />
      {', '}
      <WhenWord when={definition.when} today={today} onChange={(when) => set({ when })} />
      {definition.rows.length === 0 ? ', ' : ', by '}
      <Word
        label="Grouped by"
        text={
          definition.rows.length === 0
            ? 'all in one'
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
      {additions
        .filter((each) => each.value !== '')
        .map((each) => (
          <span key={each.label}>
            {', '}
            <Choice {...each} none={`no ${each.label.toLowerCase()}`} />
          </span>
        ))}
      .{' '}
      <span className="text-sm">
        <AddFilter definition={definition} onChange={set} />
        {additions
          .filter((each) => each.value === '')
          .map((each) => (
            <span key={each.label}>
              {' '}
              <Choice {...each} none={`+ ${each.label.toLowerCase()}`} />
            </span>
          ))}
      </span>
    </p>
  );
}

interface ChoiceProps {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  /** Said where none is chosen. */
  none: string;
  onChange: (value: string) => void;
}

/** A part of the sentence that is one of a few. */
function Choice({ label, value, options, none, onChange }: ChoiceProps) {
  const known = value === '' || options.some(([key]) => key === value);
  return (
    <Select
      name={label}
      value={value}
      onPick={(picked) => onChange(picked)}
      look="word"
      className={value ? wordLook : quietLook}
      options={[...(known ? [] : [[value, value] as const]), ['', none], ...options]}
    />
  );
}

/** When: one of the periods that move with the day of the run, or two days. */
function WhenWord({ when, today, onChange }: { when: When; today: Day; onChange: (when: When) => void }) {
  const fixed = when.kind === 'fixed' ? when : { from: `${today.slice(0, 8)}01`, to: today };
  const radio = (checked: boolean, text: string, next: When) => (
    <label key={text} className="flex items-center gap-2 py-0.5">
      <input type="radio" name="when" checked={checked} onChange={() => onChange(next)} />
      {text}
    </label>
  );
  const backwards = when.kind === 'fixed' && when.to < when.from;
  return (
    <Word
      label="When"
      text={when.kind === 'fixed' ? `from ${showWhen(when)}` : when.kind === 'all' ? 'over all time' : showWhen(when)}
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
            onPick={(from) => onChange({ kind: 'fixed', from, to: fixed.to })}
            className="w-36"
          />
          <span className="text-soft">to</span>
          <DayField
            label="To"
            bare
            value={fixed.to}
            onPick={(to) => onChange({ kind: 'fixed', from: fixed.from, to })}
            className="w-36"
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
