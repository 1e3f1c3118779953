import { fields, isDayField, type Definition, type FieldName, type ReportFilter } from '@half-penny/core/reports';
import type { Day } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import { useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { inputLook } from '../../parts/field';
import { SelectField } from '../../parts/select';
import { isKey } from '../../parts/keys';
import { reportsWork, type Choice } from '../../workers/reports';
import { Word } from './sentence-word';
import { CheckBox } from '../../parts/check';

interface FilterWordsProps {
  definition: Definition;
  today: Day;
  onChange: (change: Partial<Definition>) => void;
}

// Days are asked for by the period; single sources are what figures open.
const filterable = (Object.keys(fields) as FieldName[]).filter((name) => name !== 'entry' && name !== 'day');

/** What the report is narrowed to, nothing where it is not; each condition is pressed to be changed. */
export function FilterWords({ definition, today, onChange }: FilterWordsProps) {
  const { filters } = definition;
  const put = (index: number, filter: ReportFilter | null) =>
    onChange({ filters: filters.flatMap((each, i) => (i === index ? (filter ? [filter] : []) : [each])) });
  const said = filters.map((filter, index) => ({ filter, index, isFor: isFor(filter) }));
  // "for Fernhill Folk Museum, time only": whom it is for comes first, as one would say it.
  return [...said.filter((each) => each.isFor), ...said.filter((each) => !each.isFor)].map((each) => (
    <span key={`${each.filter.field} ${each.index}`}>
      {each.isFor ? ' for ' : ', '}
      <FilterWord filter={each.filter} today={today} onChange={(next) => put(each.index, next)} />
    </span>
  ));
}

/** The quiet addition that narrows a report further. */
export function AddFilter({ definition: { filters }, onChange }: Omit<FilterWordsProps, 'today'>) {
  return (
    <Word label="Add a condition" text="+ condition" quiet>
      <SelectField
        label="Only some"
        value=""
        options={[['', 'Choose…'], ...filterable.map((name) => [name, fields[name].label] as const)]}
        onPick={(picked) =>
          picked && onChange({ filters: [...filters, { field: picked as FieldName, keys: [], without: false }] })
        }
      />
    </Word>
  );
}

interface FilterWordProps {
  filter: ReportFilter;
  today: Day;
  onChange: (filter: ReportFilter | null) => void;
}

const MOST_NAMED = 3;
/** Fields whose names need no word before them: "for Fernhill Folk Museum". */
const forWhom: readonly FieldName[] = ['client', 'project', 'whole project', 'contract', 'task', 'member'];
const isFor = ({ field, without }: ReportFilter): boolean => !without && forWhom.includes(field);
/** Fields whose words say by themselves what they are of: "billable", "paid". */
const ownWords: readonly FieldName[] = ['billable', 'standing'];

/** "Fernhill Folk Museum", "time only", "service Meetings", "without service Meetings". */
function sayFilter({ field, without }: ReportFilter, label: string, listed: string): string {
  if (field === 'what') return without ? `without ${listed.toLowerCase()}` : `${listed.toLowerCase()} only`;
  if (ownWords.includes(field)) return `${without ? 'not ' : ''}${listed.toLowerCase()}`;
  if (forWhom.includes(field)) return without ? `without ${listed}` : listed;
  return `${without ? 'without ' : ''}${label} ${listed}`;
}

function FilterWord({ filter, today, onChange }: FilterWordProps) {
  const choices = useChoices(filter.field, today);
  const [find, setFind] = useState('');
  const names = new Map(choices?.map((each) => [each.key, each.label]));
  const nameOf = (key: string) => (choices ? (names.get(key) ?? 'what is no longer there') : '…');
  const { label } = fields[filter.field];
  const chosen = filter.keys.slice(0, MOST_NAMED).map(nameOf);
  const more = filter.keys.length - MOST_NAMED;
  const listed = chosen.length === 0 ? '…' : chosen.join(' or ') + (more > 0 ? ` or ${more} more` : '');
  const text = sayFilter(filter, label.toLowerCase(), listed);
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
    <Word label={`Condition on ${label.toLowerCase()}`} text={text}>
      <SelectField
        label={label}
        value={filter.without ? 'without' : 'only'}
        options={[
          ['only', 'is one of'],
          ['without', 'is none of'],
        ]}
        onPick={(picked) => onChange({ ...filter, without: picked === 'without' })}
      />
      <input
        aria-label={`Find among ${label.toLowerCase()}`}
        placeholder="Find…"
        className={`${inputLook} mt-2`}
        value={find}
        onChange={(event) => setFind(event.target.value)}
        onKeyDown={(event) => isKey(event, 'choose.first') && shown[0] && toggle(shown[0].key)}
      />
      <ul className="mt-2 max-h-64 overflow-auto" aria-label={`${label} to choose from`}>
        {shown.map((each) => (
          <li key={each.key}>
            <label className="flex items-start gap-2 py-0.5">
              <CheckBox className="mt-1" checked={wanted.has(each.key)} onChange={() => toggle(each.key)} />
              <span className="written clamp-2 min-w-0">{each.label}</span>
            </label>
          </li>
        ))}
        {choices && shown.length === 0 && <li className="text-soft">Nothing matches.</li>}
      </ul>
      <Button kind="quiet" className="mt-2" onClick={() => onChange(null)}>
        Remove this condition
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
