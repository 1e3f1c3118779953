import { useBy } from '../../data/read';
import type { Milestone, Project } from '@half-penny/core/model';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Check } from '../../parts/check';
import { AddLine } from '../../parts/add-line';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';

/** Days by which something of a project is to be reached. */
export function Milestones({ project }: { project: Project }) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const rows = useBy('milestones', 'projectId', [project.id]);
  if (!rows) return null;
  const columns: Column<Milestone>[] = [
    {
      key: 'day',
      head: 'Day',
      width: '130px',
      cell: (row) => (
        <span className={late(row, today) ? 'text-attention' : ''}>
          {showShortDay(row.day)}
          {late(row, today) && <span className="block text-xs">passed</span>}
        </span>
      ),
      edit: { text: (row) => row.day, save: (row, day) => run('milestone.edit', { id: row.id, day: day.trim() }) },
    },
    {
      key: 'name',
      head: 'Milestone',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className={`written clamp-2 ${row.reached ? 'text-soft' : ''}`}>{row.name}</span>,
      edit: { text: (row) => row.name, save: (row, name) => run('milestone.edit', { id: row.id, name }) },
    },
    {
      key: 'reached',
      head: 'Reached',
      width: '92px',
      align: 'center',
      cell: (row) => (
        <Check
          aria-label={`${row.name.slice(0, 60)} is reached`}
          checked={row.reached}
          save={(checked) => attempt('milestone.edit', { id: row.id, reached: checked })}
        />
      ),
    },
  ];
  return (
    <>
      <Ledger
        label="Milestones"
        rows={rows.toSorted((a, b) => (a.day < b.day ? -1 : 1))}
        rowId={(row) => row.id}
        rowName={(row) => row.name}
        columns={columns}
        onDelete={(row) => void attempt('milestone.remove', { id: row.id })}
        empty="No milestones. A milestone is a day by which something is to be reached, such as a first night."
      />
      <AddLine
        label="Add a milestone"
        folded={rows.length > 0}
        button="Add the milestone"
        fields={[
          { key: 'name', label: 'New milestone', className: 'min-w-44 flex-1' },
          { key: 'day', label: 'Day', type: 'date', className: 'w-40', start: today },
        ]}
        add={({ name = '', day = '' }) => run('milestone.add', { projectId: project.id, name, day })}
      />
    </>
  );
}

const late = (row: Milestone, today: string): boolean => !row.reached && row.day < today;
