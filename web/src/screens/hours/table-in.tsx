import { useRead } from '../../data/read';
import {
  guessMapping,
  headOf,
  hourFields,
  lengthForms,
  packMapping,
  unpackMapping,
  type HourField,
  type HoursReading,
  type MappedRow,
  type Mapping,
  type Table,
} from '@half-penny/formats/hours';
import type { Pricer } from '@half-penny/core/billing';
import { wordsOf } from '../../data/in-words';
import { showExactly } from '@half-penny/core/time';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { ColumnFields } from '../../parts/column-fields';
import { showShortDay } from '../../parts/days';
import { SelectField } from '../../parts/select';
import { Length } from '../../parts/figures';
import { JobLine } from '../../parts/jobs';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { showSpan } from '../../parts/spans';
import { TableFaults } from '../../parts/table-faults';
import { mapTable } from '../../workers/hours';

const fieldNames: Record<HourField, string> = {
  day: 'Day',
  length: 'Length',
  from: 'From',
  to: 'To',
  note: 'What was done',
  client: 'Client',
  project: 'Project',
  jobNumber: 'Job number',
  unlisted: 'Job not set up',
  task: 'Task',
  service: 'Service',
  member: 'Member',
  billable: 'Billable',
  tags: 'Tags',
};

const formNames: Record<Mapping['lengthForm'], string> = {
  'h:mm': '1:30, hours and minutes',
  hours: '1.5, hours',
  minutes: '90, minutes',
  seconds: '5400, seconds',
  days: '0.0625, parts of a day',
};

/** The mapping as it was remembered for tables with these heads, or as the heads and values suggest. */
function useMapping(table: Table): [Mapping | null, (mapping: Mapping) => void, boolean] {
  const known = useRead(async (reader) => (await reader.by('mappings', 'head', [headOf(table)]))[0] ?? null, [table]);
  const [chosen, setChosen] = useState<Mapping | null>(null);
  const first = useMemo(() => {
    if (known === undefined) return null;
    return known ? unpackMapping(table, known.columns) : guessMapping(table);
  }, [known, table]);
  return [chosen ?? first, setChosen, known != null];
}

interface Preview {
  reading: HoursReading;
  /** Sources of rows that were imported before. */
  known: ReadonlySet<string>;
}

/** A table of hours: what its columns mean, what its rows become, and importing it. */
export function TableIn({ pricer, table }: { pricer: Pricer; table: Table }) {
  const [mapping, setMapping, remembered] = useMapping(table);
  const preview = usePreview(pricer, table, mapping);
  const navigate = useNavigate();
  const { run } = useChanges();
  const [fault, setFault] = useState<string>();
  const [taking, setTaking] = useState(false);
  const [leaveOut, setLeaveOut] = useState(false);
  if (!mapping) return <Loading />;
  const fresh = preview?.reading.rows.filter((row) => !preview.known.has(row.hours.source)) ?? [];
  const faults = preview?.reading.faults ?? [];
  const badRows = new Set(faults.map((each) => each.row)).size;
  const left = leaveOut && badRows > 0 ? `, leave out ${badRows}` : '';
  const takeIn = async () => {
    setTaking(true);
    try {
      await run('hours.import', {
        rows: fresh.map((row) => row.hours),
        services: preview!.reading.services,
        mapping: { head: headOf(table), columns: packMapping(table, mapping) },
      });
      const days = fresh.map((row) => row.hours.day).sort();
      void navigate(`/week?day=${days.at(-1)}`);
    } catch (thrown) {
      setFault(wordsOf(thrown));
    } finally {
      setTaking(false);
    }
  };
  return (
    <>
      <Section
        title="What the columns mean"
        actions={remembered && <span className="text-sm text-soft">as last time</span>}
      >
        <Columns {...{ table, mapping }} plain={preview?.reading.plain ?? null} onChange={setMapping} />
      </Section>
      <Section
        title="What will be imported"
        actions={
          <Button
            kind="main"
            disabled={taking || !preview || (faults.length > 0 && !leaveOut) || fresh.length === 0}
            onClick={() => void takeIn()}
          >
            {taking ? 'Importing…' : `${fresh.length === 1 ? 'Import one row' : `Import ${fresh.length} rows`}${left}`}
          </Button>
        }
      >
        {preview ? <Summary {...{ pricer, preview }} fresh={fresh} /> : <Loading />}
        {fault && (
          <p role="alert" className="my-2 text-fault">
            {fault} Nothing was imported.
          </p>
        )}
        <TableFaults faults={faults} leaveOut={leaveOut} onLeaveOut={setLeaveOut} />
        {preview && <PreviewLedger {...{ pricer, preview }} />}
      </Section>
    </>
  );
}

function usePreview(pricer: Pricer, table: Table, mapping: Mapping | null): Preview | null {
  const { memberId } = useSession();
  const [reading, setReading] = useState<HoursReading | null>(null);
  useEffect(() => {
    if (!mapping || memberId === null) return;
    const { members, clients, projects, tasks, services } = pricer.book;
    const work = mapTable(table, mapping, {
      members: [...members],
      clients: [...clients],
      projects: [...projects],
      tasks: [...tasks],
      services: [...services],
      memberId,
    });
    work.result.then(setReading, () => undefined);
    return work.stop;
  }, [pricer, table, mapping, memberId]);
  const known = useRead(
    async (reader) => {
      if (!reading) return null;
      const sources = reading.rows.map((row) => row.hours.source);
      const there = await reader.by('entries', 'source', sources);
      return new Set(there.map((entry) => entry.source));
    },
    [reading],
  );
  return reading && known ? { reading, known } : null;
}

function Columns({
  table,
  mapping,
  plain,
  onChange,
}: {
  table: Table;
  mapping: Mapping;
  plain: HoursReading['plain'];
  onChange: (mapping: Mapping) => void;
}) {
  return (
    <div className="grid grid-cols-2 gap-x-5 gap-y-3 border-t border-ink pt-3 md:grid-cols-4">
      <ColumnFields
        table={table}
        fields={hourFields}
        names={fieldNames}
        columns={mapping.columns}
        onChange={(columns) => onChange({ ...mapping, columns })}
      />
      <SelectField
        label="Lengths are written as"
        value={mapping.lengthForm}
        onPick={(picked) => onChange({ ...mapping, lengthForm: picked as Mapping['lengthForm'] })}
        options={lengthForms.map((form) => [form, formNames[form]] as const)}
      />
      {plain && (
        <SelectField
          label={`${plain.count === 1 ? 'A plain figure' : `${plain.count} plain figures`}, such as ${plain.first.slice(0, 12)}`}
          value={mapping.plain ?? ''}
          fault={mapping.plain ? undefined : 'Hours or minutes?'}
          onPick={(picked) => onChange({ ...mapping, plain: picked as 'hours' })}
          options={[
            ...(mapping.plain ? [] : [['', 'Choose…'] as const]),
            ['hours', 'are hours'],
            ['minutes', 'are minutes'],
          ]}
        />
      )}
      <SelectField
        label="3/12 is"
        value={mapping.dayOrder}
        onPick={(picked) => onChange({ ...mapping, dayOrder: picked as Mapping['dayOrder'] })}
        options={[
          ['day first', '3 December'],
          ['month first', '12 March'],
        ]}
      />
    </div>
  );
}

function Summary({ preview, fresh }: { pricer: Pricer; preview: Preview; fresh: readonly MappedRow[] }) {
  const { rows, services } = preview.reading;
  const seconds = fresh.reduce((sum, row) => sum + row.hours.seconds, 0);
  const before = rows.length - fresh.length;
  const same = fresh.filter((row) => row.same !== null).length;
  const unlisted = new Set(fresh.map((row) => row.hours.unlisted).filter(Boolean)).size;
  return (
    <p className="border-t border-ink py-2">
      <b className="text-time">{showExactly(seconds)}</b> in {fresh.length === 1 ? 'one row' : `${fresh.length} rows`}
      {before > 0 && <>; {before === 1 ? 'one was' : `${before} were`} imported before and left out</>}
      {same > 0 && (
        <span className="text-attention">
          ; {same === 1 ? 'one row says' : `${same} rows say`} the same as one before it
        </span>
      )}
      {unlisted > 0 && (
        <span className="text-attention">
          ; {unlisted === 1 ? 'one job is' : `${unlisted} jobs are`} not set up and can be filed later in Clients
        </span>
      )}
      {services.length > 0 && (
        <>
          ; new:{' '}
          {services
            .map((service) => service.name)
            .join(', ')
            .slice(0, 200)}
        </>
      )}
    </p>
  );
}

function PreviewLedger({ pricer, preview }: { pricer: Pricer; preview: Preview }) {
  const { rows, services } = preview.reading;
  const serviceName = new Map([...pricer.book.services, ...services].map((service) => [service.id, service.name]));
  const columns: Column<MappedRow>[] = [
    {
      key: 'row',
      head: 'Row',
      width: '52px',
      align: 'end',
      cell: ({ row }) => <span className="font-mono text-sm text-soft">{row}</span>,
    },
    { key: 'day', head: 'Day', width: '104px', cell: ({ hours }) => showShortDay(hours.day) },
    {
      key: 'when',
      head: 'When',
      width: '116px',
      wideOnly: true,
      cell: ({ hours }) => (
        <span className="font-mono text-sm">
          {hours.span ? showSpan(hours.span, pricer.member.get(hours.memberId)?.zone ?? 'UTC') : '–'}
        </span>
      ),
    },
    {
      key: 'note',
      head: 'What was done',
      width: 'minmax(0,1.3fr)',
      cell: ({ hours }) => <span className="written clamp-2">{hours.note}</span>,
    },
    {
      key: 'job',
      head: 'Job',
      width: 'minmax(0,1.1fr)',
      cell: ({ hours }) => (
        <JobLine
          pricer={pricer}
          job={{ projectId: hours.projectId, unlisted: hours.unlisted ?? '', taskId: hours.taskId ?? null }}
          none="No job"
        />
      ),
    },
    {
      key: 'service',
      head: 'Service',
      width: 'minmax(0,0.7fr)',
      wideOnly: true,
      cell: ({ hours }) => (hours.serviceId && serviceName.get(hours.serviceId)) ?? '',
    },
    {
      key: 'member',
      head: 'Member',
      width: '120px',
      wideOnly: true,
      cell: ({ hours }) => pricer.member.get(hours.memberId)?.name,
    },
    {
      key: 'length',
      head: 'Length',
      width: '92px',
      align: 'end',
      cell: ({ hours }) => <Length seconds={hours.seconds} />,
    },
    {
      key: 'billable',
      head: 'Billable',
      width: '80px',
      align: 'end',
      wideOnly: true,
      cell: ({ hours }) =>
        hours.billableSeconds === null ? (
          <span className="text-soft">all</span>
        ) : hours.billableSeconds === 0 ? (
          'none'
        ) : (
          <Length seconds={hours.billableSeconds} />
        ),
    },
    {
      key: 'state',
      head: 'State',
      quietHead: true,
      width: '84px',
      wideOnly: true,
      cell: ({ hours, same }) =>
        preview.known.has(hours.source) ? (
          <span className="text-sm text-soft">imported already</span>
        ) : same === null ? null : (
          <span className="text-sm text-attention">same as row {same}</span>
        ),
    },
  ];
  return (
    <Ledger
      label="Rows to import"
      rows={rows}
      rowId={(row) => String(row.row)}
      rowName={({ row }) => `Row ${row}`}
      columns={columns}
      tone={({ hours }) => (preview.known.has(hours.source) ? 'bg-side text-soft' : '')}
      empty="No row can be read with these columns."
    />
  );
}
