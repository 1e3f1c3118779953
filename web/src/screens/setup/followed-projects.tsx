import type { Pricer } from '@half-penny/core/billing';
import { noJob, projectJob } from '@half-penny/core/entries';
import type { OutsideList, OutsideProject, OutsideTask } from '@half-penny/core/model';
import { useChanges } from '../../data/session';
import { JobPicker } from '../../parts/job-picker';
import { Ledger, type Column } from '../../parts/ledger';

interface FollowedProjectsProps {
  pricer: Pricer;
  list: OutsideList;
  projects: readonly OutsideProject[];
  tasks: readonly OutsideTask[];
}

/** What the keeper of a list sorts its tasks by, and which project of the studio each is. */
export function FollowedProjects({ pricer, list, projects, tasks }: FollowedProjectsProps) {
  const { attempt } = useChanges();
  const open = (row: OutsideProject) => tasks.filter((task) => task.outsideProjectId === row.id && !task.closed).length;
  // The project may have been removed since.
  const isMapped = ({ projectId }: OutsideProject) => projectId !== null && pricer.project.has(projectId);
  const rows = projects.toSorted((a, b) => a.name.localeCompare(b.name));
  const columns: Column<OutsideProject>[] = [
    {
      key: 'name',
      head: 'Project there',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.name}</span>,
    },
    { key: 'open', head: 'Open', width: '64px', align: 'end', cell: (row) => open(row) },
    {
      key: 'project',
      head: 'Project here',
      width: 'minmax(0,1.2fr)',
      cell: (row) => {
        const mapped = isMapped(row);
        return (
          <JobPicker
            pricer={pricer}
            value={mapped ? projectJob(row.projectId!) : noJob}
            label={`Project for ${row.name}`}
            none="Choose its project"
            className={mapped ? '' : 'text-attention'}
            onPick={(job) => {
              if (job.projectId !== null && job.projectId !== row.projectId)
                void attempt('outside.map', { id: row.id, projectId: job.projectId });
            }}
          />
        );
      },
    },
  ];
  return (
    <div className="mb-5">
      <Ledger
        label={`Projects of ${list.name}`}
        rows={rows}
        rowId={(row) => row.id}
        rowName={(row) => row.name}
        columns={columns}
        marked={(row) => !isMapped(row)}
        empty="Nothing was read yet. What its tasks are sorted by will stand here, to be mapped to projects once."
      />
    </div>
  );
}
