import { fields, isDayField, type Definition, type FieldName, type ReportFilter } from '@half-penny/core/reports';
import type { Day } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import { useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { inputLook, SelectField } from '../../parts/field';
import { reportsWork, type Choice } from '../../workers/reports';
import { Word } from './word';

interface FilterWordsProps {
  definition: Definition;
  today: Day;
  onChange: (change: Partial<Definition>) => void;
}

// Days are asked for by the period; single sources are what figures open.
const filterable = (Object.keys(fields) as FieldName[]).filter((name) => name !== 'entry' && name !== 'day');

/** "everything", or what it is narrowed to; each condition is pressed to be changed, and one more can be added. */
export function FilterWords({ definition, today, onChange }: FilterWordsProps) {
  const { filters } = definition;
  const put = (index: number, filter: ReportFilter | null) => {
    const next = filters.flatMap((each, i) => (i === index ? (filter ? [filter] : []) : [each]));
    onChange({ filters: index === filters.length && filter ? [...next, filter] : next });
  };
  return (
    <>
      {filters.length === 0 && 'everything'}
      {filters.map((filter, index) => (
        <span key={`${filter.field} ${index}`}>
          {index > 0 && ' and '}
          <FilterWord filter={filter} today={today} onChange={(next) => put(index, next)} />
        </span>
      ))}{' '}
      <Word label="Add a condition" text={filters.length === 0 ? 'narrowed by…' : 'and…'}>
        <SelectField
          label="Only some"
          value=""
          options={[['', 'Choose…'], ...filterable.map((name) => [name, fields[name].label] as const)]}
          onChange={(event) =>
            event.target.value &&
            put(filters.length, { field: event.target.value as FieldName, keys: [], without: false })
          }
        />
      </Word>
    </>
  );
}

interface FilterWordProps {
  filter: ReportFilter;
  today: Day;
  onChange: (filter: ReportFilter | null) => void;
}

const MOST_NAMED = 3;
const ownWords: readonly FieldName[] = ['what', 'billable', 'standing'];

function FilterWord({ filter, today, onChange }: FilterWordProps) {
  const choices = useChoices(filter.field, today);
  const [find, setFind] = useState('');
  const names = new Map(choices?.map((each) => [each.key, each.label]));
  const nameOf = (key: string) => (choices ? (names.get(key) ?? 'what is no longer there') : '…');
  const { label } = fields[filter.field];
  const chosen = filter.keys.slice(0, MOST_NAMED).map(nameOf);
  const more = filter.keys.length - MOST_NAMED;
  const listed = chosen.length === 0 ? '…' : chosen.join(' or ') + (more > 0 ? ` or ${more} more` : '');
  // "time", "paid" and "billable" say by themselves what they are of.
  const isPlain = ownWords.includes(filter.field);
  const parts = [
    isPlain ? '' : label.toLowerCase(),
    filter.without ? 'not' : '',
    isPlain ? listed.toLowerCase() : listed,
  ];
  const text = parts.filter(Boolean).join(' ');
  const wanted = new Set(filter.keys);
  const words = find.trim().toLowerCase();
  const gone = choices ? filter.keys.filter((key) => !names.has(key)).map((key) => ({ key, label: nameOf(key) })) : [];
  const shown = [...gone, ...(choices ?? [])].filter((each) => each.label.toLowerCase().includes(words)).slice(0, 200);
  const toggle = (key: string) => {
    const next = new Set(wanted);
    if (!next.delete(key)) next.add(key);
    onChange({ ...filter, keys: [...next] });
  };
  return (
    <Word label="Condition" text={text}>
      <SelectField
        label={label}
        value={filter.without ? 'without' : 'only'}
        options={[
          ['only', 'is one of'],
          ['without', 'is none of'],
        ]}
        onChange={(event) => onChange({ ...filter, without: event.target.value === 'without' })}
      />
      <input
        aria-label={`Find among ${label.toLowerCase()}`}
        placeholder="Find…"
        className={`${inputLook} mt-2`}
        value={find}
        onChange={(event) => setFind(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && shown[0] && toggle(shown[0].key)}
      />
      <ul className="mt-2 max-h-64 overflow-auto" aria-label={`${label} to choose from`}>
        {shown.map((each) => (
          <li key={each.key}>
            <label className="flex items-start gap-2 py-0.5">
              <input
                type="checkbox"
                className="mt-1 accent-time"
                checked={wanted.has(each.key)}
                onChange={() => toggle(each.key)}
              />
              <span className="written clamp-2 min-w-0">{each.label}</span>
            </label>
          </li>
        ))}
        {choices && shown.length === 0 && <li className="text-soft">Nothing of that name.</li>}
      </ul>
      <Button kind="quiet" className="mt-2" onClick={() => onChange(null)}>
        Without this condition
      </Button>
    </Word>
  );
}

/** What a field can be, among what there is. */
function useChoices(field: FieldName, today: Day): Choice[] | undefined {
  const { entry } = useSession();
  const [choices, setChoices] = useState<Choice[]>();
  useEffect(() => {
    let left = false;
    const work = reportsWork(entry.database, today);
    void work.ready
      .then(() => work.api.choices(field))
      .then((found) => {
        // What has none comes last among days, where it is never meant.
        if (!left) setChoices(isDayField(field) ? found.filter((each) => each.key) : found);
      });
    return () => void (left = true);
  }, [entry.database, field, today]);
  return choices;
}
