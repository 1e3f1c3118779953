import type { Pricer } from '@half-penny/core/billing';
import type { Stage } from '@half-penny/core/model';
import { useChanges } from '../../data/session';
import { Check } from '../../parts/check';
import { AddLine } from '../../parts/add-line';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { stagesInOrder } from '../../parts/stage-choice';

/** How far projects and tasks are, in the studio's own words. */
export function Stages({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const stages = stagesInOrder(pricer);
  const at = (stage: Stage) =>
    pricer.book.projects.filter((each) => each.stageId === stage.id).length +
    pricer.book.tasks.filter((each) => each.stageId === stage.id).length;
  /** Past its neighbour, up or down. */
  const move = (by: number) => (stage: Stage) => {
    const at = stages.findIndex((each) => each.id === stage.id);
    if (at + by < 0 || at + by >= stages.length) return;
    const ids = stages.map((each) => each.id);
    void attempt('stage.order', { ids: ids.toSpliced(at, 1).toSpliced(at + by, 0, stage.id) });
  };
  const columns: Column<Stage>[] = [
    {
      key: 'name',
      head: 'Stage',
      width: 'minmax(0,1fr)',
      cell: (stage) => <span className="written clamp-2">{stage.name}</span>,
      edit: { text: (stage) => stage.name, save: (stage, name) => run('stage.edit', { id: stage.id, name }) },
    },
    { key: 'at', head: 'Projects and tasks', width: '140px', align: 'end', cell: at },
    {
      key: 'finished',
      head: 'Final stage',
      width: '100px',
      align: 'center',
      cell: (stage) => (
        <Check
          aria-label={`${stage.name.slice(0, 60)} is the final stage`}
          checked={stage.finished}
          save={(checked) => attempt('stage.edit', { id: stage.id, finished: checked })}
        />
      ),
    },
  ];
  return (
    <Section title="Stages">
      <Ledger
        label="Stages"
        rows={stages}
        rowId={(stage) => stage.id}
        rowName={(stage) => stage.name}
        columns={columns}
        keys={{ 'order.up': move(-1), 'order.down': move(1) }}
        onDelete={(stage) => void attempt('stage.remove', { id: stage.id })}
        empty="No stages. With stages such as In hand or Handed over, projects and tasks say how far they are; what has reached the end leaves the pickers."
      />
      <AddLine
        label="Add a stage"
        button="Add the stage"
        fields={[{ key: 'name', label: 'New stage', className: 'w-64' }]}
        add={({ name = '' }) => run('stage.add', { name, order: (stages.at(-1)?.order ?? -1) + 1 })}
      />
    </Section>
  );
}
