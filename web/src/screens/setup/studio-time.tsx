import type { Pricer } from '@half-penny/core/billing';
import { projectJob, readDay, showBreakRule } from '@half-penny/core/entries';
import type { BreakRule, Periods } from '@half-penny/core/model';
import {
  firstOfMonth,
  periodOf,
  readLength,
  showLength,
  WEEKDAY_NAMES,
  weekPeriodOf,
  type Day,
} from '@half-penny/core/time';
import { useState } from 'react';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { DayField } from '../../parts/day-field';
import { showShortDay } from '../../parts/days';
import { SavedField, TextField } from '../../parts/field';
import { SavedSelect } from '../../parts/select';
import { JobPicker } from '../../parts/job-picker';
import { Section } from '../../parts/page';
import { useSubmit } from '../../parts/use-submit';

const FIRST_RULE: BreakRule = { after: 6 * 3600, take: 1800, projectId: null };

/** The rule by which a break is taken off a long day. */
export function Breaks({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const { breakRule } = pricer.book.workspace;
  const save = (rule: BreakRule | null) => run('workspace.edit', { breakRule: rule });
  return (
    <Section title="Breaks">
      <div className="border-t border-ink px-2 pt-3">
        <p className="mb-3 max-w-2xl text-soft">
          {breakRule ? `Now ${showBreakRule(breakRule)}. ` : 'No break is taken off by itself. '}
          What is taken off stands as a row of its own on the day and in the week; no length is changed.
        </p>
        <div className="grid max-w-3xl gap-4 md:grid-cols-4">
          <SavedSelect
            label="By itself"
            value={breakRule ? 'on' : 'off'}
            save={(value) => save(value === 'on' ? FIRST_RULE : null)}
            options={[
              ['off', 'No break'],
              ['on', 'A break by rule'],
            ]}
          />
          {breakRule && (
            <>
              <SavedField
                label="After working for"
                value={showLength(breakRule.after)}
                save={async (text) => save({ ...breakRule, after: readLength(text).seconds })}
              />
              <SavedField
                label="Take off"
                value={showLength(breakRule.take)}
                save={async (text) => save({ ...breakRule, take: readLength(text).seconds })}
              />
              <div>
                <div className="mb-1 text-xs font-semibold text-soft">Breaks are recorded on</div>
                <JobPicker
                  pricer={pricer}
                  boxed
                  label="Breaks are recorded on"
                  value={projectJob(breakRule.projectId)}
                  none="gaps only"
                  onPick={({ projectId }) => void save({ ...breakRule, projectId })}
                />
              </div>
            </>
          )}
        </div>
      </div>
    </Section>
  );
}

const kinds: readonly (readonly [Periods['kind'], string])[] = [
  ['monthly', 'Months'],
  ['fortnightly', 'Fortnights'],
  ['4-4-5', 'Four, four and five weeks'],
  ['own', 'A list of its own'],
];

/** The studio's own calendar: where its weeks end and its billing periods begin. */
export function Calendar({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const today = useToday();
  const { periods, cutOff } = pricer.book.workspace;
  const save = (next: Periods) => run('workspace.edit', { periods: next });
  const now = periodOf(periods, today);
  const begin = (kind: Periods['kind']): Periods => {
    const from = weekPeriodOf(firstOfMonth(`${today.slice(0, 4)}-01-01`), cutOff).from;
    if (kind === 'monthly') return { kind, startsOn: 1 };
    if (kind === 'own') return { kind, starts: [{ from: firstOfMonth(today), name: '' }] };
    return { kind, from };
  };
  return (
    <Section title="Weeks and billing periods">
      <div className="border-t border-ink px-2 pt-3">
        <p className="mb-3 text-soft">
          Now: {now ? now.name : 'before the first period'}; {weekPeriodOf(today, cutOff).name}. Offered wherever a
          period is chosen.
        </p>
        <div className="grid max-w-3xl gap-4 md:grid-cols-3">
          <SavedSelect
            label="The week ends, and is due, on"
            value={String(cutOff)}
            save={(text) => run('workspace.edit', { cutOff: Number(text) })}
            options={WEEKDAY_NAMES.map((name, index) => [String(index + 1), name] as const)}
          />
          <SavedSelect
            label="Billing periods are"
            value={periods.kind}
            save={(kind) => save(begin(kind as Periods['kind']))}
            options={kinds}
          />
          {periods.kind === 'monthly' && (
            <SavedSelect
              label="Beginning on day"
              value={String(periods.startsOn)}
              save={(text) => save({ kind: 'monthly', startsOn: Number(text) })}
              options={Array.from({ length: 28 }, (_, index) => [String(index + 1), String(index + 1)] as const)}
            />
          )}
          {(periods.kind === 'fortnightly' || periods.kind === '4-4-5') && (
            <DayField label="Counted from" value={periods.from} onPick={(from) => void save({ ...periods, from })} />
          )}
        </div>
        {periods.kind === 'own' && (
          <OwnPeriods starts={periods.starts} today={today} save={(starts) => save({ kind: 'own', starts })} />
        )}
      </div>
    </Section>
  );
}

type Start = Extract<Periods, { kind: 'own' }>['starts'][number];

function OwnPeriods({
  starts,
  today,
  save,
}: {
  starts: readonly Start[];
  today: Day;
  save: (starts: Start[]) => Promise<unknown>;
}) {
  const [from, setFrom] = useState('');
  const [name, setName] = useState('');
  const sorted = starts.toSorted((a, b) => (a.from < b.from ? -1 : 1));
  const { fault, submit } = useSubmit(async () => {
    const day = readDay(from, today);
    await save([...starts.filter((start) => start.from !== day), { from: day, name }]);
    setFrom('');
    setName('');
  });
  return (
    <div className="mt-4 max-w-xl">
      <ul className="border-t border-rule">
        {sorted.map((start) => (
          <li key={start.from} className="flex items-center gap-4 border-b border-rule py-1">
            <span className="w-28">{showShortDay(start.from)}</span>
            <span className="written flex-1">{start.name || <span className="text-soft">no name</span>}</span>
            <Button kind="quiet" onClick={() => void save(starts.filter((each) => each.from !== start.from))}>
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex items-end gap-3">
        <TextField
          label="A period begins on"
          value={from}
          fault={fault}
          onChange={(event) => setFrom(event.target.value)}
          placeholder="1 dec"
          className="w-40"
        />
        <TextField label="Called" value={name} onChange={(event) => setName(event.target.value)} className="flex-1" />
        <Button onClick={() => submit()}>Add</Button>
      </div>
    </div>
  );
}
