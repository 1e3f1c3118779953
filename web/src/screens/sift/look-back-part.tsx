import {
  lookingAt,
  nameOf as nameOfPerson,
  outcomeOf,
  placeOn,
  type LookingAt,
  type Outcome,
  type PlacingRule,
  type Share,
  type WeightGroup,
} from '@half-penny/core/capture';
import { noJob, type Job } from '@half-penny/core/entries';
import { useMemo, useState } from 'react';
import { newId } from '../../data/registry';
import { useChanges, useSession } from '../../data/session';
import { useLookBack } from '../../data/use-look-back';
import { useRules } from '../../data/trail';
import { useTrailChanges } from '../../data/trail-changes';
import { Button } from '../../parts/button';
import { TextField } from '../../parts/field';
import { SelectField } from '../../parts/select';
import { JobPicker } from '../../parts/job-picker';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { captureWork, type Looked } from '../../workers/capture';
import { minutesOf, showOutcome } from './evidence';
import { ruleFor, type NewRule } from './new-rule';
import { useRange } from '../../parts/range';
import { RuleDialog } from './rule-dialog';
import { digitsOf } from '@half-penny/core/entries';
import type { PartProps } from './sift';

const names: Record<LookingAt, string> = {
  job: 'Job',
  program: 'Program',
  site: 'Site',
  document: 'Document',
  folder: 'Folder',
  person: 'Person',
  word: 'Word in titles',
};
const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Where the time went: by job, program, site, document, folder, person and word; by weekday and hour; and the weighted share. */
export default function BackPart({ pricer, member, today }: PartProps) {
  const { from, to, field } = useRange(today);
  const { entry: workspace } = useSession();
  const change = useTrailChanges();
  const rules = useRules();
  const [by, setBy] = useState<LookingAt>('job');
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [rule, setRule] = useState<NewRule | null>(null);
  const { contacts, workspace: studio } = pricer.book;
  const { weights } = studio;
  const looked = useLookBack(from, to, member.zone, weights);
  const people = useMemo(() => {
    const map = new Map<string, string>();
    for (const each of contacts) {
      if (each.email) map.set(each.email.toLowerCase(), each.name);
      if (digitsOf(each.telephone)) map.set(digitsOf(each.telephone), each.name);
    }
    return map;
  }, [contacts]);
  if (!looked || !rules) return <Loading />;
  const show = (key: string): string => {
    if (by === 'person') return `${nameOfPerson(key, people)} · ${key}`;
    if (by !== 'job') return key;
    const outcome = outcomeOf(key);
    return outcome ? showOutcome(pricer, outcome) : 'Not placed yet';
  };
  const rows = looked.by[by];
  const most = rows[0]?.seen ?? 1;
  const conditionOf = (key: string): PlacingRule['when'] | null => {
    switch (by) {
      case 'program':
        return { field: 'program', verb: 'is', text: key };
      case 'site':
        return { field: 'site', verb: 'is', text: key };
      case 'document':
        return { field: 'file', verb: 'is', text: key };
      case 'folder':
        return { field: 'folder', verb: 'begins with', text: key };
      case 'person':
        return { field: 'people', verb: 'has', text: key };
      case 'word':
        return { field: 'title', verb: 'has', text: key };
      default:
        return null;
    }
  };
  const give = (job: Job) => {
    const order = Math.max(0, ...rules.map((each) => each.order));
    const then: Outcome = placeOn({ ...job, workspaceId: workspace.id });
    const put = [...selected].flatMap((key, index): PlacingRule[] => {
      const when = conditionOf(key);
      return when ? [{ id: newId(), order: order + index + 1, when, then, since: 0, posts: false, on: true }] : [];
    });
    void change(put.length === 1 ? 'Rule made' : `${put.length} rules made`, { rules: { put } });
    setSelected(new Set());
  };
  const giveOnce = async (job: Job) => {
    const outcome = placeOn({ ...job, workspaceId: workspace.id });
    const found = await captureWork().mostlyOf({ from, to, zone: member.zone }, by, [...selected]);
    const put = found.map((each) => ({
      ...each,
      id: newId(),
      outcome,
      note: '',
      billableSeconds: null,
      at: Date.now(),
    }));
    void change(put.length === 1 ? 'Stretch placed' : `${put.length} stretches placed`, { placings: { put } });
    setSelected(new Set());
  };
  const columns: Column<Share>[] = [
    {
      key: 'name',
      head: names[by],
      width: 'minmax(0,1.4fr)',
      cell: (row) => <span className="written clamp-2 [overflow-wrap:anywhere]">{show(row.key)}</span>,
    },
    {
      key: 'share',
      head: 'Share',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <span className="flex items-center gap-2">
          <span aria-hidden className="h-2.5 bg-time" style={{ width: `${(row.seen / most) * 70}%` }} />
          <span className="text-sm text-soft">{row.percent < 1 ? 'under 1' : Math.round(row.percent)} %</span>
        </span>
      ),
    },
    {
      key: 'seen',
      head: 'Seen',
      width: '90px',
      align: 'end',
      cell: (row) => <span className="font-mono font-semibold text-time">{minutesOf(row.seen)}</span>,
    },
  ];
  return (
    <>
      <div className="mb-5 flex flex-wrap items-end gap-4">
        {field}
        <SelectField
          label="Time by"
          value={by}
          options={lookingAt.map((each) => [each, names[each]] as const)}
          onPick={(picked) => {
            setBy(picked as LookingAt);
            setSelected(new Set());
          }}
        />
        <p className="pb-1">
          Seen in all <b className="font-mono text-time">{minutesOf(looked.seen)}</b>
          <span className="text-soft">; private time is left out</span>
        </p>
      </div>
      <Section
        title={`Time by ${names[by].toLowerCase()}`}
        actions={
          selected.size > 0 &&
          by !== 'job' && (
            <>
              <JobPicker
                pricer={pricer}
                value={noJob}
                label="Job of what is selected"
                onPick={give}
                className="text-time"
              >
                Always give {selected.size} to a job…
              </JobPicker>
              <JobPicker
                pricer={pricer}
                value={noJob}
                label="Job of what is selected, this once"
                onPick={(job) => void giveOnce(job)}
                className="text-time"
              >
                This once…
              </JobPicker>
              {selected.size === 1 && (
                <Button kind="quiet" onClick={() => setRule(ruleFor(conditionOf([...selected][0]!)!, null))}>
                  Write a rule…
                </Button>
              )}
            </>
          )
        }
      >
        <Ledger
          label={`Time by ${names[by].toLowerCase()}`}
          rows={rows}
          rowId={(row) => row.key}
          rowName={(row) => show(row.key)}
          columns={columns}
          {...(by === 'job' ? {} : { selection: { selected, onChange: setSelected } })}
          empty="Nothing was seen in this period."
        />
      </Section>
      <HeatMap heat={looked.heat} />
      <WeightedTime {...{ pricer, looked, weights }} />
      {rule && <RuleDialog {...{ pricer, member }} rule={rule} onClose={() => setRule(null)} />}
    </>
  );
}

/** Hours by weekday: the more of an hour was seen, the darker; each cell says its minutes. */
function HeatMap({ heat }: { heat: readonly (readonly number[])[] }) {
  const most = Math.max(1, ...heat.flat());
  const used = heat.flatMap((line) => line.flatMap((ms, hour) => (ms > 0 ? [hour] : [])));
  if (used.length === 0) return null;
  const hours = Array.from({ length: 24 }, (_, hour) => hour).filter(
    (hour) => hour >= Math.min(...used) && hour <= Math.max(...used),
  );
  return (
    <Section title="Hours by weekday">
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Table of hours by weekday">
        <table className="border-separate border-spacing-0.5 font-mono text-xs">
          <thead>
            <tr>
              <td />
              {hours.map((hour) => (
                <th key={hour} scope="col" className="w-11 font-normal text-soft">
                  {String(hour).padStart(2, '0')}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {heat.map((line, day) => (
              <tr key={day}>
                <th scope="row" className="pr-2 text-left font-normal text-soft">
                  {WEEKDAYS[day]}
                </th>
                {hours.map((hour) => {
                  const share = line[hour]! / most;
                  return (
                    <td
                      key={hour}
                      className="h-7 text-center"
                      style={{
                        background: `color-mix(in srgb, var(--color-time) ${Math.round(share * 40)}%, var(--color-sheet))`,
                      }}
                    >
                      {line[hour]! >= 30_000 ? minutesOf(line[hour]!) : ''}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Section>
  );
}

function WeightedTime({
  pricer,
  looked,
  weights,
}: {
  pricer: PartProps['pricer'];
  looked: Looked;
  weights: readonly WeightGroup[];
}) {
  const { attempt } = useChanges();
  const [name, setName] = useState('');
  const save = (next: readonly WeightGroup[]) =>
    attempt('workspace.edit', { weights: next.map((each) => ({ ...each, projectIds: [...each.projectIds] })) });
  const edit = (group: WeightGroup, fields: Partial<WeightGroup>) =>
    void save(weights.map((each) => (each.id === group.id ? { ...group, ...fields } : each)));
  return (
    <Section title="Weighted time">
      <p className="mb-3 text-soft">
        {looked.spent.percent === null ? (
          'Put jobs into weight groups, and say how much an hour of each counts.'
        ) : (
          <>
            <b className="font-mono text-time">{Math.round(looked.spent.percent)} %</b> weighted share: weighted time ÷
            time in groups.
          </>
        )}
      </p>
      <ul className="flex flex-col gap-3">
        {weights.map((group) => (
          <li key={group.id} className="border-b border-rule pb-2">
            <div className="flex flex-wrap items-end gap-4">
              <b className="min-w-40">{group.name}</b>
              <TextField
                label="An hour counts, %"
                inputMode="numeric"
                className="w-36"
                defaultValue={String(group.percent)}
                onBlur={(event) =>
                  edit(group, { percent: Math.max(0, Math.min(100, Math.round(Number(event.target.value) || 0))) })
                }
              />
              <span className="font-mono text-time">
                {minutesOf(looked.spent.groups.find((each) => each.id === group.id)?.seen ?? 0)}
              </span>
              <Button
                kind="quiet"
                aria-label={`Remove ${group.name}`}
                onClick={() => void save(weights.filter((each) => each.id !== group.id))}
              >
                Remove
              </Button>
            </div>
            <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pt-1 text-sm">
              {group.projectIds.map((id) => (
                <span key={id} className="flex items-baseline gap-1">
                  {pricer.project.get(id)?.name ?? 'a project that is gone'}
                  <Button
                    kind="quiet"
                    aria-label={`Remove ${pricer.project.get(id)?.name ?? 'it'} from ${group.name}`}
                    onClick={() => edit(group, { projectIds: group.projectIds.filter((each) => each !== id) })}
                  >
                    ×
                  </Button>
                </span>
              ))}
              <JobPicker
                pricer={pricer}
                value={noJob}
                label={`A job of ${group.name}`}
                onPick={(job) =>
                  job.projectId && edit(group, { projectIds: [...new Set([...group.projectIds, job.projectId])] })
                }
                className="text-time"
              >
                Add a job…
              </JobPicker>
            </div>
          </li>
        ))}
      </ul>
      <form
        className="mt-3 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() === '') return;
          void save([...weights, { id: newId(), name: name.trim(), percent: 100, projectIds: [] }]);
          setName('');
        }}
      >
        <TextField label="New weight group" value={name} onChange={(event) => setName(event.target.value)} />
        <Button type="submit">Add the weight group</Button>
      </form>
    </Section>
  );
}
