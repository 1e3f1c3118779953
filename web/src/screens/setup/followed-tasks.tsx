import type { Pricer } from '@half-penny/core/billing';
import type { OutsideList, OutsideProject, OutsideTask } from '@half-penny/core/model';
import { showLength } from '@half-penny/core/time';
import { useState } from 'react';
import { Link } from 'react-router';
import { CheckBox } from '../../parts/check';
import { Ledger, type Column } from '../../parts/ledger';

interface FollowedTasksProps {
  pricer: Pricer;
  list: OutsideList;
  projects: readonly OutsideProject[];
  tasks: readonly OutsideTask[];
}

/** Tasks as they stand elsewhere, and the task that follows each. */
export function FollowedTasks({ pricer, list, projects, tasks }: FollowedTasksProps) {
  const [closedToo, setClosedToo] = useState(false);
  if (tasks.length === 0) return null;
  const closed = tasks.filter((row) => row.closed).length;
  const nameOf = new Map(projects.map((row) => [row.id, row.name]));
  const rows = tasks
    .filter((row) => closedToo || !row.closed)
    .toSorted(
      (a, b) =>
        (nameOf.get(a.outsideProjectId) ?? '').localeCompare(nameOf.get(b.outsideProjectId) ?? '') ||
        a.number.localeCompare(b.number, 'en', { numeric: true }) ||
        a.title.localeCompare(b.title),
    );
  const columns: Column<OutsideTask>[] = [
    {
      key: 'task',
      head: 'Task there',
      width: 'minmax(0,1.6fr)',
      ownLine: true,
      cell: (row) => (
        <span className="written clamp-2">
          {row.number && <span className="font-mono text-sm text-soft">{row.number} </span>}
          {row.address ? (
            <a href={row.address} target="_blank" rel="noreferrer" className="text-time underline underline-offset-2">
              {row.title}
            </a>
          ) : (
            row.title
          )}
        </span>
      ),
    },
    { key: 'state', head: 'State', width: '112px', cell: (row) => <span className="clamp-1">{row.state}</span> },
    {
      key: 'assignee',
      head: 'Whose',
      width: '112px',
      wideOnly: true,
      cell: (row) => <span className="written clamp-1">{row.assignee}</span>,
    },
    {
      key: 'estimate',
      head: 'Estimate',
      width: '80px',
      align: 'end',
      wideOnly: true,
      cell: (row) => row.estimate !== null && showLength(row.estimate, pricer.book.workspace.lengthStyle),
    },
    { key: 'here', head: 'Here', width: 'minmax(0,1fr)', cell: (row) => <Here {...{ pricer, row }} /> },
  ];
  return (
    <div className="mb-5">
      <Ledger
        label={`Tasks of ${list.name}`}
        rows={rows}
        rowId={(row) => row.id}
        rowName={(row) => [row.number, row.title].filter(Boolean).join(' ')}
        columns={columns}
        empty="Every task of this list is closed."
        dense
      />
      {closed > 0 && (
        <label className="mt-2 flex items-center gap-2 px-2 text-sm text-soft">
          <CheckBox checked={closedToo} onChange={setClosedToo} />
          {closed === 1 ? 'The closed one too' : `The ${closed} closed ones too`}
        </label>
      )}
    </div>
  );
}

function Here({ pricer, row }: { pricer: Pricer; row: OutsideTask }) {
  const task = pricer.task.get(row.taskId ?? '');
  if (!task?.projectId)
    return (
      <span className="text-soft">
        {row.closed ? 'closed' : row.taskId ? 'deleted here' : 'its project is not said yet'}
      </span>
    );
  return (
    <span className="written clamp-2">
      <Link to={`/clients/project/${task.projectId}`} className="text-time hover:underline">
        {pricer.tree.pathOf(task.projectId)}
      </Link>
      {task.finished && <span className="text-soft"> · finished</span>}
    </span>
  );
}
