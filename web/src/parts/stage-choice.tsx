import type { Pricer } from '@half-penny/core/billing';
import type { Job } from '@half-penny/core/entries';
import { useChanges } from '../data/session';
import { SavedSelect } from './select';

/** The stage of what a job is on, to be set while recording; nothing where the studio names no stages. */
export function StageChoice({ pricer, job }: { pricer: Pricer; job: Job }) {
  const { run } = useChanges();
  const task = job.taskId === null ? undefined : pricer.task.get(job.taskId);
  const project = job.projectId === null ? undefined : pricer.project.get(job.projectId);
  const of = task ?? project;
  if (!of || pricer.book.stages.length === 0) return null;
  return (
    <SavedSelect
      label={`Stage of ${of.name.slice(0, 60)}`}
      value={of.stageId ?? ''}
      options={[['', 'None'], ...stagesInOrder(pricer).map((stage) => [stage.id, stage.name] as const)]}
      save={(value) => run(task ? 'task.edit' : 'project.edit', { id: of.id, stageId: value || null })}
    />
  );
}

export const stagesInOrder = (pricer: Pricer) =>
  pricer.book.stages.toSorted((a, b) => a.order - b.order || a.name.localeCompare(b.name));
