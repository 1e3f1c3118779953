import { clientRecords, toBillWorking, type Pricer, type ToBill } from '@half-penny/core/billing';
import { tagsOf, type Client, type Id, type Project } from '@half-penny/core/model';
import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { useInvoices, useToBill } from '../../data/billing';
import { usePricer } from '../../data/book';
import { useToday } from '../../data/queries';
import { Button } from '../../parts/button';
import { inputLook } from '../../parts/field';
import { Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page, Section } from '../../parts/page';
import { useChanges } from '../../data/session';
import { save } from '../../data/workspaces';
import { collator, knownJobs } from '../../parts/known-jobs';
import { Swatch } from '../../parts/swatch';
import { AddClient } from './add-client';
import { ArchiveDialog } from './archive-dialog';
import { recordColumns } from './client-columns';
import { Projects } from './projects';
import { Unlisted } from '../../parts/unlisted-jobs';
import { CheckBox } from '../../parts/check';
import { useMoneySeen } from '../../data/rights';

/** Everybody who is invoiced, and the studio's own internal projects. */
export default function Clients() {
  const seen = useMoneySeen();
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const pricer = usePricer();
  const open = useToBill(pricer, 'every client');
  const invoices = useInvoices();
  const today = useToday();
  const records = useMemo(() => clientRecords(invoices ?? [], today), [invoices, today]);
  const { attempt } = useChanges();
  const [selected, setSelected] = useState<ReadonlySet<Id>>(new Set());
  const [archiving, setArchiving] = useState(false);
  const toBillOf = useMemo(() => new Map(open?.map((each) => [each.client.id, each])), [open]);
  if (!pricer || !open || !invoices)
    return (
      <Page title="Clients">
        <Loading />
      </Page>
    );
  const typed = (params.get('find') ?? '').toLowerCase();
  const withArchived = params.get('archived') !== null;
  const set = (key: string, value: string | null) => {
    const next = new URLSearchParams(params);
    if (value === null || value === '') next.delete(key);
    else next.set(key, value);
    setParams(next, { replace: true });
  };
  const words = typed.split(/\s+/).filter(Boolean);
  const found = findClients(pricer, words);
  const clients = found.filter(({ client }) => withArchived || !client.archived);
  const archived = found.length - found.filter(({ client }) => !client.archived).length;
  const chosen = clients.filter(({ client }) => selected.has(client.id)).map(({ client }) => client);
  const exportWork = async () => {
    const { writeWork } = await import('@half-penny/formats/work');
    save(new Blob([writeWork(pricer)], { type: 'text/csv' }), 'clients-and-work.csv');
  };
  const columns: Column<FoundClient>[] = [
    {
      key: 'name',
      head: 'Client',
      width: 'minmax(0,1fr)',
      cell: ({ client, projects, open }) => (
        <span className="block">
          <Link
            to={`/clients/${client.id}`}
            tabIndex={-1}
            className={`written clamp-2 font-semibold hover:underline ${client.archived ? 'text-soft' : ''}`}
          >
            {client.name}
            {client.archived && ' (archived)'}
          </Link>
          <span className="block text-xs text-soft">{openProjects(open)}</span>
          {words.length > 0 &&
            projects.slice(0, MOST_PROJECTS).map((project) => (
              <Link
                key={project.id}
                to={`/clients/project/${project.id}`}
                tabIndex={-1}
                className="written flex items-baseline gap-2 text-sm hover:underline"
              >
                <Swatch colour={project.colour} /> {pricer.tree.pathOf(project.id)}
              </Link>
            ))}
        </span>
      ),
    },
    ...(seen.worth
      ? [
          ...recordColumns<FoundClient>(records, today),
          {
            key: 'worth',
            head: 'To bill',
            width: '120px',
            align: 'end' as const,
            cell: ({ client }: FoundClient) => <ToBillCell pricer={pricer} own={toBillOf.get(client.id)} />,
          },
        ]
      : []),
  ];
  const add = (
    <Button kind="main" icon={<Plus size={16} />} onClick={() => set('add', '1')}>
      Add a client
    </Button>
  );
  return (
    <Page
      title="Clients"
      actions={
        <>
          <Link
            to="/clients/in"
            className="inline-flex min-h-8 items-center rounded-md border border-strong bg-sheet px-3 py-1 hover:bg-time-ground"
          >
            Import…
          </Link>
          {seen.worth && <Button onClick={() => void exportWork()}>Export</Button>}
          {add}
        </>
      }
    >
      <div className="mb-3 flex flex-wrap items-center gap-4">
        <input
          type="search"
          aria-label="Find a client or project"
          placeholder="Find a client, project, job number or tag…"
          className={`${inputLook} max-w-72`}
          value={params.get('find') ?? ''}
          onChange={(event) => set('find', event.target.value)}
        />
        <label className="flex items-center gap-2 text-soft">
          <CheckBox checked={withArchived} onChange={(checked) => set('archived', checked ? '1' : null)} />
          Show archived{archived > 0 && ` (${archived})`}
        </label>
        {chosen.length > 0 && (
          <Button onClick={() => setArchiving(true)}>
            {chosen.every((client) => client.archived) ? 'Bring back' : 'Archive'} {chosen.length}
          </Button>
        )}
      </div>
      <div className="mb-8">
        <Ledger
          label="Clients"
          rows={clients}
          rowId={({ client }) => client.id}
          rowName={({ client }) => client.name}
          columns={columns}
          selection={{ selected, onChange: setSelected }}
          onOpen={({ client }) => void navigate(`/clients/${client.id}`)}
          onDelete={({ client }) => void attempt('client.remove', { id: client.id })}
          empty={
            typed ? (
              'Nothing matches.'
            ) : (
              <>
                <p className="mb-3">Clients are who you invoice. Add the first, then a project with an hourly rate.</p>
                {add}
              </>
            )
          }
        />
      </div>
      <Unlisted pricer={pricer} />
      <Section title="Internal projects">
        <Projects pricer={pricer} clientId={null} />
      </Section>
      {archiving && (
        <ArchiveDialog
          pricer={pricer}
          ids={chosen.map((client) => client.id)}
          archive={!chosen.every((client) => client.archived)}
          onClose={() => {
            setArchiving(false);
            setSelected(new Set());
          }}
        />
      )}
      {params.get('add') !== null && <AddClient pricer={pricer} onClose={() => set('add', null)} />}
    </Page>
  );
}

const MOST_PROJECTS = 5;

/** A client of the list, with those of its projects that the typed words fit, and how many are open. */
interface FoundClient {
  client: Client;
  projects: Project[];
  open: number;
}

/** Clients whose name, or one of whose projects' names, job numbers or tags, has every typed word. */
function findClients(pricer: Pricer, words: readonly string[]): FoundClient[] {
  const known = knownJobs(pricer, 'client first').filter(({ job }) => job.taskId === null);
  const found = new Map<Id, FoundClient>(
    pricer.book.clients.map((client) => [client.id, { client, projects: [], open: 0 }]),
  );
  for (const { job, open, lower } of known) {
    const project = pricer.project.get(job.projectId!)!;
    const own = project.clientId === null ? undefined : found.get(project.clientId);
    if (!own) continue;
    if (open) own.open++;
    const text = `${lower} ${tagsOf(project).join(' ').toLowerCase()}`;
    if (words.length > 0 && words.every((word) => text.includes(word))) own.projects.push(project);
  }
  return [...found.values()]
    .filter(({ client, projects }) => {
      const lower = client.name.toLowerCase();
      return projects.length > 0 || words.every((word) => lower.includes(word));
    })
    .sort((a, b) => collator.compare(a.client.name, b.client.name));
}

const openProjects = (count: number): string =>
  count === 0 ? 'no open project' : count === 1 ? '1 open project' : `${count} open projects`;

function ToBillCell({ pricer, own }: { pricer: Pricer; own: ToBill | undefined }) {
  if (!own) return <span className="text-soft">–</span>;
  const working = () => toBillWorking(pricer, own);
  return <Worth amount={own.amount} currency={own.currency} of={`${own.client.name}, to bill`} working={working} />;
}
