import type { Table, TableFault } from '@half-penny/formats/hours';
import type { Pricer } from '@half-penny/core/billing';
import { useState, type ClipboardEvent, type DragEvent } from 'react';
import { usePricer } from '../../data/book';
import { useMember } from '../../data/queries';
import { FileButton } from '../../parts/file-button';
import { Loading, Page } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { useWork } from '../../parts/use-work';
import { readTableFile } from '../../workers/hours';
import { CalendarIn } from './calendar-in';
import { TableIn } from './table-in';

type Source = { kind: 'table'; name: string; table: Table } | { kind: 'calendar'; name: string; file: Blob };

/** Hours and calendars of other programs: a file is chosen, understood, looked through, and imported whole or not at all. */
export default function HoursIn() {
  const pricer = usePricer();
  if (!pricer)
    return (
      <Page title="Import hours">
        <Loading />
      </Page>
    );
  return <Sheet pricer={pricer} />;
}

function Sheet({ pricer }: { pricer: Pricer }) {
  const member = useMember(pricer);
  const work = useWork();
  const [source, setSource] = useState<Source | null>(null);
  const [faults, setFaults] = useState<{ name: string; faults: readonly TableFault[] } | null>(null);
  const read = (file: Blob, name: string) => {
    setFaults(null);
    setSource(null);
    if (/\.ics$|\.ical$/i.test(name) || file.type === 'text/calendar')
      return setSource({ kind: 'calendar', name, file });
    work.start(
      `Reading ${name}`,
      () => readTableFile(file),
      (reading) => {
        if (reading.ok) setSource({ kind: 'table', name, table: reading.table });
        else setFaults({ name, faults: reading.faults });
      },
    );
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    const file = event.dataTransfer.files[0];
    if (file) read(file, file.name);
  };
  const onPaste = (event: ClipboardEvent) => {
    if ((event.target as HTMLElement).closest('input, textarea')) return;
    const file = event.clipboardData.files[0];
    const text = event.clipboardData.getData('text/plain');
    if (file) read(file, file.name);
    else if (text.trim()) read(new Blob([text]), 'what was pasted');
  };
  const choose = (
    <FileButton
      kind={source ? 'plain' : 'main'}
      label={source ? 'Another file…' : 'Choose a file…'}
      of="File with hours"
      accept=".csv,.tsv,.txt,.xlsx,.ics,.ical,text/csv,text/calendar"
      onFile={(file) => read(file, file.name)}
    />
  );
  return (
    <Page title="Import hours" aside={source?.name} actions={source ? choose : null}>
      <div
        onDrop={onDrop}
        onDragOver={(event) => event.preventDefault()}
        onPaste={onPaste}
        tabIndex={-1}
        className="min-h-96 outline-none"
      >
        {!source && (
          <div className="border-y border-ink py-8">
            <p className="mb-2 max-w-2xl">
              A table of hours from any program, as CSV, TSV or XLSX, or a calendar as .ics. Drop the file here, paste a
              block, or choose it.
            </p>
            <p className="mb-4 max-w-2xl text-soft">
              You see what was understood before anything is imported. It is imported whole or not at all, and one undo
              removes it.
            </p>
            {choose}
          </div>
        )}
        {faults && <FileFaults {...faults} />}
        {work.fault && (
          <p role="alert" className="mt-3 text-fault">
            {work.fault} Nothing was imported.
          </p>
        )}
        {source?.kind === 'table' && <TableIn key={source.name} {...{ pricer }} table={source.table} />}
        {source?.kind === 'calendar' && member && (
          <CalendarIn key={source.name} {...{ pricer, member }} file={source.file} />
        )}
      </div>
      {work.title && <Progress title={work.title} share={null} onStop={work.stop} />}
    </Page>
  );
}

function FileFaults({ name, faults }: { name: string; faults: readonly TableFault[] }) {
  return (
    <div role="alert" className="mt-4 border-l-[3px] border-fault px-3 text-fault">
      <p className="font-semibold">{name.slice(0, 80)} cannot be read. Nothing was imported.</p>
      <ul className="mt-1 max-h-64 overflow-auto font-mono text-sm">
        {faults.map((fault, index) => (
          <li key={index} className="written py-0.5">
            Row {fault.row}, column {fault.column}: {fault.message}
          </li>
        ))}
      </ul>
    </div>
  );
}
