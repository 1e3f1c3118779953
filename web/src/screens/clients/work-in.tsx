import type { Pricer } from '@half-penny/core/billing';
import { wordsOf } from '../../data/in-words';
import {
  guessWorkMapping,
  mapWork,
  readTable,
  TableError,
  workFields,
  workHeads,
  type Table,
  type TableFault,
  type WorkMapping,
  type WorkReading,
} from '@half-penny/formats/work';
import { showLength } from '@half-penny/core/time';
import { useMemo, useState, type DragEvent } from 'react';
import { useNavigate } from 'react-router';
import { usePricer } from '../../data/book';
import { newId } from '../../data/registry';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { ColumnFields } from '../../parts/column-fields';
import { FileButton } from '../../parts/file-button';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page, Section } from '../../parts/page';
import { TableFaults } from '../../parts/table-faults';

const ACCEPT = '.csv,.tsv,.txt,.xlsx,text/csv';

/** Clients, projects, tasks and services from a list: what its columns mean, what would come in, and taking it in. */
export default function WorkIn() {
  const pricer = usePricer();
  const [source, setSource] = useState<{ name: string; table: Table } | null>(null);
  const [faults, setFaults] = useState<readonly TableFault[]>([]);
  const read = async (file: File) => {
    try {
      setSource({ name: file.name, table: await readTable(file) });
      setFaults([]);
    } catch (thrown) {
      setSource(null);
      setFaults(thrown instanceof TableError ? thrown.faults : [{ row: 1, column: '', message: wordsOf(thrown) }]);
    }
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    const [file] = event.dataTransfer.files;
    if (file) void read(file);
  };
  const choose = (
    <FileButton
      kind={source ? 'plain' : 'main'}
      label={source ? 'Another file…' : 'Choose a file…'}
      of="List of clients and work"
      accept={ACCEPT}
      onFile={(file) => void read(file)}
    />
  );
  return (
    <Page title="Import clients and work" aside={source?.name} actions={source ? choose : null}>
      <div onDrop={onDrop} onDragOver={(event) => event.preventDefault()} className="min-h-96">
        {!source && (
          <div className="border-y border-ink py-8">
            <p className="mb-2 max-w-2xl">
              A list of clients, projects, tasks or services from any program, as CSV, TSV or XLSX: any of them on a
              row. “Spring double bill › Extras” is a project that is part of another.
            </p>
            <p className="mb-4 max-w-2xl text-soft">
              You see what was understood before anything is imported. What exists under the same name is left alone,
              and one undo removes the rest.
            </p>
            {choose}
          </div>
        )}
        <TableFaults faults={faults} />
        {source && pricer && <TakeIn key={source.name} pricer={pricer} table={source.table} />}
        {source && !pricer && <Loading />}
      </div>
    </Page>
  );
}

function TakeIn({ pricer, table }: { pricer: Pricer; table: Table }) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const [mapping, setMapping] = useState<WorkMapping>(() => guessWorkMapping(table));
  const [fault, setFault] = useState<string>();
  const reading = useMemo(() => {
    const { clients, projects, tasks, services, stages, taxes, workspace } = pricer.book;
    const book = { clients, projects, tasks, services, stages, currency: workspace.currency };
    return mapWork(table, mapping, { ...book, taxId: taxes[0]?.id ?? null }, newId);
  }, [pricer, table, mapping]);
  const rows = useMemo(() => rowsOf(pricer, reading), [pricer, reading]);
  const takeIn = async () => {
    const { faults: _faults, known: _known, ...lists } = reading;
    try {
      await run('work.import', lists);
      void navigate('/clients');
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  return (
    <>
      <Section title="What the columns mean">
        <div className="grid grid-cols-2 gap-x-5 gap-y-3 border-t border-ink pt-3 md:grid-cols-4">
          <ColumnFields table={table} fields={workFields} names={workHeads} columns={mapping} onChange={setMapping} />
        </div>
      </Section>
      <Section
        title="What will be imported"
        actions={
          <Button kind="main" disabled={reading.faults.length > 0 || rows.length === 0} onClick={() => void takeIn()}>
            {rows.length === 1 ? 'Import one row' : `Import ${rows.length} rows`}
          </Button>
        }
      >
        <p className="border-t border-ink pt-2 pb-3 text-soft">{summaryOf(reading)}</p>
        {fault && (
          <p role="alert" className="my-2 text-fault">
            {fault} Nothing was imported.
          </p>
        )}
        <TableFaults faults={reading.faults} />
        <Ledger
          label="What will be imported"
          rows={rows}
          rowId={(row) => row.id}
          rowName={(row) => row.name}
          columns={columns}
          empty="Nothing on this list is new."
        />
      </Section>
    </>
  );
}

interface NewRow {
  id: string;
  what: 'client' | 'project' | 'task' | 'service';
  name: string;
  of: string;
  more: string;
}

const columns: Column<NewRow>[] = [
  { key: 'what', head: 'New', width: '84px', cell: (row) => row.what },
  {
    key: 'name',
    head: 'Name',
    width: 'minmax(0,1fr)',
    cell: (row) => <span className="written clamp-2 font-semibold">{row.name}</span>,
  },
  {
    key: 'of',
    head: 'Of',
    width: 'minmax(0,1fr)',
    cell: (row) => <span className="written clamp-2 text-soft">{row.of}</span>,
  },
  {
    key: 'more',
    head: 'With',
    width: 'minmax(0,1fr)',
    wideOnly: true,
    cell: (row) => <span className="written clamp-2 text-sm text-soft">{row.more}</span>,
  },
];

function rowsOf(pricer: Pricer, reading: WorkReading): NewRow[] {
  const projects = new Map([...pricer.book.projects, ...reading.projects].map((row) => [row.id, row]));
  const clients = new Map([...pricer.book.clients, ...reading.clients].map((row) => [row.id, row]));
  const stage = (id: string | null) => (id === null ? '' : (pricer.stage.get(id)?.name ?? ''));
  const nameOf = (id: string | null, rows: ReadonlyMap<string, { name: string }>) =>
    id === null ? '' : (rows.get(id)?.name ?? '');
  const joined = (...parts: string[]) => parts.filter(Boolean).join(', ');
  return [
    ...reading.clients.map(({ id, name, currency, email }) => ({
      ...{ id, name, what: 'client' as const, of: '' },
      more: joined(currency, email),
    })),
    ...reading.projects.map(({ id, name, clientId, parentId, kind, jobNumber, stageId }) => ({
      ...{ id, name, what: 'project' as const },
      of: joined(nameOf(parentId, projects), nameOf(clientId, clients) || 'internal'),
      more: joined(kind, jobNumber, stage(stageId)),
    })),
    ...reading.tasks.map(({ id, name, projectId, estimate, stageId }) => ({
      ...{ id, name, what: 'task' as const },
      of: nameOf(projectId, projects),
      more: joined(estimate === null ? '' : `${showLength(estimate)} h`, stage(stageId)),
    })),
    ...reading.services.map(({ id, name, code }) => ({
      ...{ id, name, what: 'service' as const, of: '', more: code },
    })),
  ];
}

/** "2 clients, 5 projects; 3 rows name what is there already". */
function summaryOf({ clients, projects, tasks, services, known }: WorkReading): string {
  const counted = (
    [
      [clients.length, 'client'],
      [projects.length, 'project'],
      [tasks.length, 'task'],
      [services.length, 'service'],
    ] as const
  )
    .filter(([count]) => count > 0)
    .map(([count, name]) => `${count} ${name}${count === 1 ? '' : 's'}`);
  const there = known === 0 ? '' : `; ${known} ${known === 1 ? 'row names' : 'rows name'} what is there already`;
  return `${counted.join(', ') || 'Nothing new'}${there}.`;
}
