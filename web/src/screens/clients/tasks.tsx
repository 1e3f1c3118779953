import { Select } from '../../parts/select';
import { noTally, type Tally, type TalliedWork } from '@half-penny/core/costing';
import { whyTaskClosed } from '@half-penny/core/entries';
import { goesWith } from '@half-penny/core/rates';
import type { Pricer } from '@half-penny/core/billing';
import type { Project, Task } from '@half-penny/core/model';
import { readLength, showLength } from '@half-penny/core/time';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Button } from '../../parts/button';
import { lengthForEditing } from '../../parts/editing';
import { Awaited, Length } from '../../parts/figures';

import { Ledger, type Column } from '../../parts/ledger';
import { stagesInOrder } from '../../parts/stage-choice';
import { Money } from './projects';
import { LogTime, RecordOn } from './record-on';
import { useMoneySeen } from '../../data/rights';

interface TasksProps {
  pricer: Pricer;
  project: Project;
  tallies: TalliedWork | undefined;
  currency: string;
}

/** A project's tasks: estimate against actual, stage, what they come to. */
export function Tasks({ pricer, project, tallies, currency }: TasksProps) {
  const seen = useMoneySeen();
  const { run, attempt } = useChanges();
  const tasks = pricer.book.tasks
    .filter(
      (task) =>
        task.projectId === project.id ||
        (task.projectId === null && goesWith(task, project) && tallies?.onTask(project.id, task.id)),
    )
    .sort(
      (a, b) =>
        Number(a.projectId === null) - Number(b.projectId === null) ||
        a.order - b.order ||
        a.name.localeCompare(b.name),
    );
  const figure = (of: (tally: Tally, task: Task) => ReactNode) => (task: Task) =>
    tallies ? of(tallies.onTask(project.id, task.id) ?? noTally, task) : <Awaited />;
  const isOwn = (task: Task) => task.projectId !== null;
  const [logging, setLogging] = useState<Task | null>(null);
  const columns: Column<Task>[] = [
    {
      key: 'name',
      head: 'Task',
      width: 'minmax(0,1fr)',
      cell: (task) => (
        <span className="block">
          <span className={`written clamp-2 ${whyTaskClosed(pricer, task) ? 'text-soft line-through' : ''}`}>
            {task.name}
          </span>
          {task.free && <span className="block text-xs text-soft">stands by itself, for {task.free}</span>}
        </span>
      ),
      edit: { when: isOwn, text: (task) => task.name, save: (task, name) => run('task.edit', { id: task.id, name }) },
    },
    {
      key: 'stage',
      head: 'Stage',
      width: '96px',
      wideOnly: true,
      cell: (task) => (
        <Select
          name={`Stage of ${task.name.slice(0, 60)}`}
          value={task.stageId ?? ''}
          onPick={(picked) => void attempt('task.edit', { id: task.id, stageId: picked || null })}
          look="quiet"
          className="-ml-1 text-sm"
          options={[['', 'None'], ...stagesInOrder(pricer).map((stage) => [stage.id, stage.name] as const)]}
        />
      ),
    },
    {
      key: 'estimate',
      head: 'Estimate',
      width: '80px',
      align: 'end',
      cell: (task) =>
        task.estimate === null ? (
          <span className="text-soft">–</span>
        ) : (
          <span className="font-mono text-time italic">{showLength(task.estimate)}</span>
        ),
      edit: {
        when: isOwn,
        text: (task) => (task.estimate === null ? '' : lengthForEditing(task.estimate)),
        save: (task, text) => run('task.edit', { id: task.id, estimate: readEstimate(text) }),
      },
    },
    {
      key: 'hours',
      head: 'Hours',
      width: '100px',
      align: 'end',
      cell: figure(({ seconds }, task) => (
        <Link tabIndex={-1} to={`/time?task=${task.id}&from=2000-01-01`} title={`The time on ${task.name}`}>
          <Length seconds={seconds} />
        </Link>
      )),
    },
    {
      key: 'left',
      head: 'Left',
      width: '80px',
      align: 'end',
      wideOnly: true,
      cell: figure(({ seconds }, task) => <Left estimate={task.estimate} used={seconds} />),
    },
    ...(project.clientId === null || !seen.worth
      ? []
      : ([
          {
            key: 'worth',
            head: 'Worth',
            width: '112px',
            align: 'end',
            wideOnly: true,
            cell: figure(({ worth }) => <Money minor={worth} currency={currency} />),
          },
        ] satisfies Column<Task>[])),
    {
      key: 'record',
      head: 'Record',
      quietHead: true,
      width: '112px',
      align: 'end',
      cell: (task) =>
        whyTaskClosed(pricer, task) ? null : (
          <RecordOn
            job={{ projectId: project.id, taskId: task.id, unlisted: '' }}
            name={task.name}
            onLog={() => setLogging(task)}
          />
        ),
    },
    {
      key: 'finish',
      head: 'Finish',
      quietHead: true,
      width: '88px',
      align: 'end',
      wideOnly: true,
      cell: (task) =>
        isOwn(task) && (
          <Button kind="quiet" onClick={() => void attempt('task.edit', { id: task.id, finished: !task.finished })}>
            {task.finished ? 'Bring back' : 'Finish'}
          </Button>
        ),
    },
  ];
  return (
    <>
      <Ledger
        label="Tasks"
        rows={tasks}
        rowId={(task) => task.id}
        rowName={(task) => task.name}
        columns={columns}
        onDelete={(task) => isOwn(task) && void attempt('task.remove', { id: task.id })}
        empty="No tasks. A task is a piece of the project that time can go to; it may have an estimate and rates of its own."
      />
      {logging && <LogTime {...{ pricer, project }} task={logging} onClose={() => setLogging(null)} />}
      <AddLine
        label="Add a task"
        folded={tasks.length > 0}
        button="Add the task"
        fields={[
          { key: 'name', label: 'New task', className: 'min-w-44 flex-1' },
          { key: 'estimate', label: 'Estimate', placeholder: '40 h', className: 'w-32' },
        ]}
        add={({ name = '', estimate = '' }) =>
          run('task.add', { projectId: project.id, name, estimate: readEstimate(estimate) })
        }
      />
    </>
  );
}

function Left({ estimate, used }: { estimate: number | null; used: number }) {
  if (estimate === null) return <span className="text-soft">–</span>;
  const left = estimate - used;
  if (left < 0) return <span className="font-mono text-attention">{showLength(-left)} over</span>;
  return <span className="font-mono text-soft">{showLength(left)}</span>;
}

/** Hours as typed; nothing where nothing is typed. An estimate may be longer than any entry. */
export function readEstimate(text: string): number | null {
  const plain = text.trim();
  if (plain === '') return null;
  const hours = /^(\d{1,5})(?:[.,](\d{1,2}))? ?h?(?:ours?)?$/i.exec(plain);
  if (hours) return Math.round(Number(`${hours[1]}.${hours[2] ?? 0}`) * 3600);
  const clock = /^(\d{1,5}):([0-5]\d)$/.exec(plain);
  if (clock) return Number(clock[1]) * 3600 + Number(clock[2]) * 60;
  try {
    return readLength(plain).seconds;
  } catch (thrown) {
    throw Object.assign(thrown as Error, { path: 'estimate' });
  }
}
