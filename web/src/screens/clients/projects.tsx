import { noTally, tallyCurrency, type BudgetStanding, type Tally } from '@half-penny/core/costing';
import type { Pricer } from '@half-penny/core/billing';
import { whyClosed } from '@half-penny/core/entries';
import { projectColours, type Budget, type Id } from '@half-penny/core/model';
import { readHourly, showAmount } from '@half-penny/core/money';
import { ALWAYS } from '@half-penny/core/time';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useCallback, useMemo, useState, type ReactNode } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { useChanges } from '../../data/session';
import { useStandings, useTallies, useWorkRows, type WorkRows } from '../../data/work';
import { AddLine } from '../../parts/add-line';
import { BudgetFill } from '../../parts/budget-fill';
import { Button } from '../../parts/button';
import { Awaited, Length } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Swatch } from '../../parts/swatch';
import { DragRows, Handle } from './drag-rows';
import { FinishDialog } from './finish-dialog';
import { stepOf, treeRows, type Destination, type Step, type TreeRow } from './project-tree';
import { usualRate } from './usual-rate';
import { CheckBox } from '../../parts/check';
import { useMoneySeen } from '../../data/rights';

interface ProjectsProps {
  pricer: Pricer;
  clientId: Id | null;
  /** The project whose parts are shown; a client's top-level projects where null. */
  parentId?: Id | null;
  /** What was recorded on them, where somebody else reads that; null until it is read. */
  work?: WorkRows | null;
}

/** Projects as a tree with what each comes to, moved by drag or by Alt and the arrows, and a line to add the next. */
export function Projects({ pricer, clientId, parentId = null, work: given }: ProjectsProps) {
  const { attempt } = useChanges();
  const navigate = useNavigate();
  const [folded, setFolded] = useState<ReadonlySet<Id>>(new Set());
  const [selected, setSelected] = useState<ReadonlySet<Id>>(new Set());
  const [finishing, setFinishing] = useState<Id[] | null>(null);
  const [withFinished, setWithFinished] = useState(false);
  const all = useMemo(() => treeRows(pricer, { clientId, parentId }, folded), [pricer, clientId, parentId, folded]);
  const rows = withFinished ? all : all.filter(({ project }) => whyClosed(pricer, project) === null);
  const work = useWorkRows(
    useMemo(() => all.flatMap(({ project }) => pricer.tree.downFrom(project.id).map((each) => each.id)), [all, pricer]),
    given,
  );
  const tallies = useTallies(pricer, work);
  const standings = useStandings(pricer, work, ofProject);
  const standingOf = new Map(standings.map((standing) => [standing.budget.projectId, standing]));
  const currency = clientId === null ? pricer.book.workspace.currency : pricer.client.get(clientId)!.currency;
  const move = (id: Id, destination: Destination | null) => {
    if (destination) void attempt('project.move', { id, ...destination });
  };
  const step = (way: Step) => (row: TreeRow) => move(row.project.id, stepOf(pricer, row.project, way, parentId));
  const fold = (id: Id) =>
    setFolded((now) => (now.has(id) ? new Set([...now].filter((each) => each !== id)) : new Set([...now, id])));
  const figure = (of: (tally: Tally) => ReactNode) => (row: TreeRow) =>
    tallies ? of(tallies.rolled.get(row.project.id) ?? noTally) : <Awaited />;
  const seen = useMoneySeen();
  const columns: Column<TreeRow>[] = [
    {
      key: 'name',
      head: 'Project',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <NameCell
          {...{ pricer, row, currency }}
          rates={seen.worth}
          standing={seen.worth ? standingOf.get(row.project.id) : undefined}
          folded={folded.has(row.project.id)}
          onFold={() => fold(row.project.id)}
        />
      ),
    },
    {
      key: 'number',
      head: 'Job number',
      width: '92px',
      wideOnly: true,
      cell: ({ project }) => <span className="written clamp-2 font-mono text-sm">{project.jobNumber}</span>,
    },
    {
      key: 'hours',
      head: 'Hours',
      width: '92px',
      align: 'end',
      cell: figure(({ seconds }) => <Length seconds={seconds} />),
    },
    ...(seen.cost
      ? [
          {
            key: 'cost',
            head: 'Cost',
            width: '98px',
            align: 'end' as const,
            wideOnly: true,
            cell: figure(({ cost }) => <Money minor={cost} currency={currency} soft />),
          },
        ]
      : []),
    ...(clientId === null || !seen.worth
      ? []
      : ([
          {
            key: 'worth',
            head: 'Worth',
            width: '104px',
            align: 'end',
            wideOnly: true,
            cell: figure(({ worth }) => <Money minor={worth} currency={currency} />),
          },
          {
            key: 'toBill',
            head: 'To bill',
            width: '98px',
            align: 'end',
            wideOnly: true,
            cell: figure(({ toBill }) => <Money minor={toBill} currency={currency} />),
          },
        ] satisfies Column<TreeRow>[])),
  ];
  const closed = all.length - all.filter(({ project }) => whyClosed(pricer, project) === null).length;
  const chosen = rows.filter(({ project }) => selected.has(project.id)).map(({ project }) => project);
  return (
    <>
      <DragRows pricer={pricer} onMove={move}>
        <Ledger
          label="Projects"
          rows={rows}
          rowId={({ project }) => project.id}
          rowName={({ project }) => project.name}
          columns={columns}
          selection={{ selected, onChange: setSelected }}
          keys={{
            'order.up': step('up'),
            'order.down': step('down'),
            'order.in': step('in'),
            'order.out': step('out'),
          }}
          onOpen={({ project }) => void navigate(`/clients/project/${project.id}`)}
          onDelete={({ project }) => void attempt('project.remove', { id: project.id })}
          empty={emptyOf(clientId, parentId, closed)}
        />
      </DragRows>
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2 px-2 text-xs text-soft">
        {chosen.length > 0 && (
          <Button onClick={() => setFinishing(chosen.map((project) => project.id))}>
            {chosen.every((project) => project.finished) ? 'Bring back' : 'Finish'} {chosen.length}
          </Button>
        )}
        {closed > 0 && (
          <label className="flex items-center gap-2">
            <CheckBox checked={withFinished} onChange={setWithFinished} />
            with {closed} finished
          </label>
        )}
        {rows.length > 1 && (
          <span>Drag a project, or move it with Alt and the arrows: right makes it a part of the one above.</span>
        )}
      </div>
      <AddProject {...{ pricer, clientId, parentId }} count={all.length} />
      {finishing && (
        <FinishDialog
          pricer={pricer}
          ids={finishing}
          finish={!chosen.every((project) => project.finished)}
          onClose={() => {
            setFinishing(null);
            setSelected(new Set());
          }}
        />
      )}
    </>
  );
}

const ofProject = (budget: Budget): boolean => budget.projectId !== null && budget.costCodeId === null;

function emptyOf(clientId: Id | null, parentId: Id | null, closed: number): string {
  if (closed > 0) return 'All of these are finished.';
  if (parentId !== null) return 'It has no parts. A part is a project of its own: hours, rates, budget.';
  return clientId === null
    ? 'Work that is never invoiced, such as the studio’s own, goes on internal projects.'
    : 'No projects yet. Add the first below; time is recorded on projects.';
}

export function Money({ minor, currency, soft = false }: { minor: number; currency: string; soft?: boolean }) {
  if (minor === 0) return <span className="text-soft">–</span>;
  return (
    <span className={`font-mono text-sm whitespace-nowrap ${soft ? 'text-ink' : 'font-semibold text-money'}`}>
      {showAmount(minor, currency)}
    </span>
  );
}

interface NameCellProps {
  pricer: Pricer;
  row: TreeRow;
  currency: string;
  standing: BudgetStanding | undefined;
  folded: boolean;
  /** Whether its rate is for whoever looks. */
  rates: boolean;
  onFold: () => void;
}

function NameCell({ pricer, row, currency, rates, standing, folded, onFold }: NameCellProps) {
  const { project, depth, hasParts } = row;
  const stage = project.stageId === null ? undefined : pricer.stage.get(project.stageId);
  const contract = project.contractId === null ? undefined : pricer.contract.get(project.contractId);
  const words = [
    project.kind === 'hourly' ? rates && usualRate(pricer, project.id) : project.kind,
    project.fixedPrice === null || !rates ? '' : showAmount(project.fixedPrice, tallyCurrency(pricer, project.id)),
    contract?.name ?? '',
    stage?.name ?? '',
  ].filter(Boolean);
  return (
    <span className="flex items-start gap-1.5" style={{ paddingLeft: `${depth * 18}px` }}>
      <Handle project={project} />
      {hasParts ? (
        <button
          type="button"
          tabIndex={-1}
          className="mt-[3px] text-soft"
          aria-expanded={!folded}
          aria-label={`Parts of ${project.name.slice(0, 60)}`}
          onClick={onFold}
        >
          {folded ? <ChevronRight size={14} /> : <ChevronDown size={14} />}
        </button>
      ) : (
        <span className="w-3.5 max-md:hidden" />
      )}
      <span className="leading-5">
        <Swatch colour={project.colour} />
      </span>
      <span className="min-w-0">
        <Link
          to={`/clients/project/${project.id}`}
          tabIndex={-1}
          className={`written clamp-2 hover:underline ${whyClosed(pricer, project) ? 'text-soft line-through' : ''}`}
        >
          {project.name}
        </Link>
        {words.length > 0 && <span className="written block text-xs text-soft">{words.join(' · ')}</span>}
        {standing && <BudgetFill standing={standing} currency={currency} />}
      </span>
    </span>
  );
}

function AddProject({ pricer, clientId, parentId = null, count }: ProjectsProps & { count: number }) {
  const { run } = useChanges();
  const fresh = (useLocation().state as { fresh?: boolean } | null)?.fresh ?? false;
  const currency = clientId === null ? null : pricer.client.get(clientId)!.currency;
  const add = useCallback(
    async ({ name = '', rate = '' }: Readonly<Record<string, string>>) => {
      const price = rate.trim() ? readRate(rate) : null;
      await run('project.add', {
        clientId,
        parentId,
        name,
        ...(parentId === null ? { colour: projectColours[count % projectColours.length]! } : {}),
        ...(price === null ? {} : { rate: { price, from: ALWAYS } }),
      });
    },
    [run, clientId, parentId, count],
  );
  return (
    <AddLine
      label={parentId === null ? 'Add a project' : 'Add a part'}
      button={parentId === null ? 'Add the project' : 'Add the part'}
      fields={[
        { key: 'name', label: parentId === null ? 'New project' : 'New part', className: 'min-w-44 flex-1' },
        ...(currency
          ? [
              {
                key: 'rate',
                label: `Its rate, ${currency} an hour`,
                placeholder: parentId === null ? 'as the client’s' : 'as the parent',
                inputMode: 'decimal' as const,
                className: 'w-44',
              },
            ]
          : []),
      ]}
      autoFocus={fresh}
      folded={parentId !== null && count > 0}
      add={add}
    />
  );
}

/** A rate as typed; a fault says that it is the rate's. */
function readRate(text: string): string {
  try {
    return readHourly(text);
  } catch (thrown) {
    throw Object.assign(thrown as Error, { path: 'rate' });
  }
}
