import { useTimer } from '../../data/book';
import type { Pricer } from '@half-penny/core/billing';
import type { Job } from '@half-penny/core/entries';
import type { Project, Task } from '@half-penny/core/model';
import { Pause, Play } from 'lucide-react';
import { lazy, Suspense } from 'react';
import { useMember, useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';

const AddTime = lazy(() => import('../../parts/add-time'));

interface RecordOnProps {
  job: Job;
  name: string;
  onLog: () => void;
}

/** Starts or stops the timer on a project or task, and opens the line to write time down on it. */
export function RecordOn({ job, name, onLog }: RecordOnProps) {
  const timer = useTimer();
  const { attempt } = useChanges();
  const runs = timer && timer.projectId === job.projectId && timer.taskId === job.taskId ? timer : null;
  const work = { ...job, serviceId: null, note: '' };
  return (
    <span className="inline-flex items-center gap-2">
      <Button
        kind="quiet"
        icon={runs ? <Pause size={13} aria-hidden /> : <Play size={13} aria-hidden />}
        aria-label={`${runs ? 'Stop' : 'Start'} the timer on ${name.slice(0, 60)}`}
        onClick={() => void (runs ? attempt('timer.stop', { id: runs.id }) : attempt('timer.start', work))}
      >
        {runs ? 'Stop' : 'Start'}
      </Button>
      <Button kind="quiet" aria-label={`Write time down on ${name.slice(0, 60)}`} onClick={onLog}>
        Log
      </Button>
    </span>
  );
}

interface LogTimeProps {
  pricer: Pricer;
  project: Project;
  task?: Task;
  onClose: () => void;
}

/** The line to write time down on a project or one of its tasks, where one stands. */
export function LogTime({ pricer, project, task, onClose }: LogTimeProps) {
  const member = useMember(pricer);
  const today = useToday();
  if (!member) return <p className="text-soft">Say in Setup → People who is working in this browser.</p>;
  const on: Job = { projectId: project.id, taskId: task?.id ?? null, unlisted: '' };
  return (
    <section aria-label={`Time on ${(task ?? project).name.slice(0, 60)}`} className="mt-3">
      <h3 className="mb-1 text-sm font-semibold">Time on {(task ?? project).name}</h3>
      <Suspense>
        <AddTime key={task?.id ?? project.id} {...{ pricer, member, on, onClose }} day={today} />
      </Suspense>
    </section>
  );
}
