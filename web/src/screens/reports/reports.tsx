import { useAll } from '../../data/read';
import { Fault, type Report } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { readReport } from '@half-penny/formats/reports';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { usePricer } from '../../data/book';
import { useToday } from '../../data/queries';
import { isReportDue } from '../../data/report-due';
import { useRights } from '../../data/rights';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { FileButton } from '../../parts/file-button';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page, Section } from '../../parts/page';
import { inAddress } from './address';
import { ReadyMadeReports, useReportPictures } from './ready-made-reports';
import { SmallChart } from './small-chart';

const MOST_BYTES = 1_000_000;

const NONE: readonly Report[] = [];

/** Reports that are kept, those that come with the product, and a question of one's own. */
export default function Reports() {
  const today = useToday();
  const { attempt } = useChanges();
  const navigate = useNavigate();
  const keeps = useRights().has('reports');
  const kept = useAll('reports');
  const [fault, setFault] = useState<string>();
  const pictures = useReportPictures(kept ?? NONE, today);
  const style = usePricer()?.book.workspace.lengthStyle ?? 'h:mm';
  if (!kept) return <Loading />;
  const takeIn = async (file: File) => {
    try {
      if (file.size > MOST_BYTES) throw new Fault('too-large', 'This file is too large to be a report.', 'report');
      const { name, definition } = readReport(await file.text());
      const search = new URLSearchParams({ ask: inAddress(definition), name });
      void navigate(`/reports/ask/new?${search.toString()}`);
    } catch (thrown) {
      setFault(`${file.name.slice(0, 80)}: ${wordsOf(thrown)} Nothing was kept.`);
    }
  };
  const columns: Column<Report>[] = [
    {
      key: 'name',
      head: 'Name',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <Link to={`/reports/kept/${row.id}`} tabIndex={-1} className="written clamp-2 font-semibold hover:underline">
          {row.name}
        </Link>
      ),
    },
    {
      key: 'picture',
      head: 'In small',
      quietHead: true,
      width: '112px',
      cell: (row) => <SmallChart picture={pictures.get(row.id)} style={style} />,
    },
    {
      key: 'ready',
      head: 'Each month',
      width: 'minmax(96px,180px)',
      cell: (row) =>
        isReportDue(row, today) ? (
          <span className="font-semibold text-time">Ready</span>
        ) : (
          <span className="text-soft">{row.readyOn === null ? 'When asked for' : `From day ${row.readyOn}`}</span>
        ),
    },
    {
      key: 'remove',
      head: 'Remove',
      quietHead: true,
      width: '90px',
      align: 'end',
      wideOnly: true,
      cell: (row) =>
        keeps && (
          <Button kind="quiet" tabIndex={-1} onClick={() => void attempt('report.remove', { id: row.id })}>
            Remove
          </Button>
        ),
    },
  ];
  return (
    <Page
      title="Reports"
      actions={
        <>
          <FileButton
            label="Open a report file…"
            accept=".json,application/json"
            onFile={(file) => void takeIn(file)}
          />
          <Button kind="main" onClick={() => void navigate('/reports/ask/new')}>
            Ask a question
          </Button>
        </>
      }
    >
      {fault && (
        <p role="alert" className="mb-4 text-fault">
          {fault}
        </p>
      )}
      <Section title="Kept">
        <Ledger
          label="Kept reports"
          rows={kept.sort((a, b) => a.name.localeCompare(b.name))}
          rowId={(row) => row.id}
          rowName={(row) => row.name}
          columns={columns}
          marked={(row) => isReportDue(row, today)}
          onOpen={(row) => void navigate(`/reports/kept/${row.id}`)}
          {...(keeps && { onDelete: (row: Report) => void attempt('report.remove', { id: row.id }) })}
          empty="Nothing is kept yet. Open a report below, make it yours, and keep it: next month it is one press."
        />
      </Section>
      <ReadyMadeReports pictures={pictures} style={style} />
    </Page>
  );
}
