import { Select } from '../../parts/select';
import type { Pricer } from '@half-penny/core/billing';
import { whyTaskClosed } from '@half-penny/core/entries';
import { freeTaskKinds, type FreeTaskKind, type Task } from '@half-penny/core/model';
import { Link } from 'react-router';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Button } from '../../parts/button';

import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

const KINDS: Record<FreeTaskKind, string> = {
  internal: 'internal work',
  'any client': 'any client’s work',
};
const options = freeTaskKinds.map((kind) => [kind, KINDS[kind]] as const);

/** Tasks of no project: what comes up in every client's work, or in the studio's own. */
export function FreeTasks({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const { tasks, projects } = pricer.book;
  const free = tasks.filter((task) => task.projectId === null).sort((a, b) => a.order - b.order);
  const columns: Column<Task>[] = [
    {
      key: 'name',
      head: 'Task',
      width: 'minmax(0,1fr)',
      cell: (task) => (
        <span className={`written clamp-2 ${whyTaskClosed(pricer, task) ? 'text-soft line-through' : ''}`}>
          {task.name}
        </span>
      ),
      edit: { text: (task) => task.name, save: (task, name) => run('task.edit', { id: task.id, name }) },
    },
    {
      key: 'kind',
      head: 'Goes with',
      width: '170px',
      cell: (task) => (
        <Select
          name={`What ${task.name.slice(0, 60)} goes with`}
          value={task.free ?? ''}
          onPick={(picked) => void attempt('task.edit', { id: task.id, free: picked as FreeTaskKind })}
          look="quiet"
          className="-ml-1 text-sm"
          options={options}
        />
      ),
    },
    {
      key: 'time',
      head: 'Its time',
      quietHead: true,
      width: '90px',
      align: 'end',
      cell: (task) => (
        <Link
          tabIndex={-1}
          to={`/time?task=${task.id}&from=2000-01-01`}
          aria-label={`The time on ${task.name.slice(0, 60)}`}
          className="text-time underline-offset-4 hover:underline"
        >
          Its time
        </Link>
      ),
    },
    {
      key: 'finish',
      head: 'Finish',
      quietHead: true,
      width: '98px',
      align: 'end',
      cell: (task) => (
        <Button kind="quiet" onClick={() => void attempt('task.edit', { id: task.id, finished: !task.finished })}>
          {task.finished ? 'Bring back' : 'Finish'}
        </Button>
      ),
    },
  ];
  const isHomeless = free.some((task) => task.free === 'internal') && !projects.some((each) => each.clientId === null);
  return (
    <Section title="Tasks that stand by themselves">
      <Ledger
        label="Tasks that stand by themselves"
        rows={free}
        rowId={(task) => task.id}
        rowName={(task) => task.name}
        columns={columns}
        onDelete={(task) => void attempt('task.remove', { id: task.id })}
        empty="None. A task such as Telephone or Bookkeeping is set up once here and goes with every project of its kind: pickers and the Till offer it there."
      />
      {isHomeless && (
        <p role="status" className="mt-2 px-2 text-sm text-attention">
          Internal tasks go with internal projects, and there is none yet.{' '}
          <Link to="/clients" className="underline">
            Add one in Clients
          </Link>
        </p>
      )}
      <AddLine
        label="Add a task that stands by itself"
        button="Add the task"
        fields={[
          { key: 'name', label: 'New task', className: 'min-w-44 flex-1' },
          { key: 'free', label: 'Goes with', options, start: 'any client', className: 'w-48' },
        ]}
        add={({ name = '', free: kind = 'any client' }) =>
          run('task.add', { projectId: null, free: kind as FreeTaskKind, name })
        }
      />
    </Section>
  );
}
