import type { WeightGroup } from '@half-penny/core/capture';
import { noJob } from '@half-penny/core/entries';
import { useState } from 'react';
import { newId } from '../../../data/registry';
import { useChanges } from '../../../data/session';
import { Button } from '../../../parts/button';
import { TextField } from '../../../parts/field';
import { JobPicker } from '../../../parts/job-picker';
import type { Looked } from '../../../workers/capture';
import { minutesOf } from '../evidence';
import type { PartProps } from '../sift';

/** Groups of jobs and how much an hour of each counts; what comes of it. */
export function WeightGroups({
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
    <details className="mb-8" open={weights.length === 0}>
      <summary className="cursor-pointer border-b border-ink pb-2 text-md font-bold">Weight groups</summary>
      <p className="mt-3 mb-3 text-soft">
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
    </details>
  );
}
