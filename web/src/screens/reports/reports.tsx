import { useAll } from '../../data/read';
import { readyMade } from '@half-penny/core/reports';
import { Fault, type Report } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { readReport } from '@half-penny/formats/reports';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useToday } from '../../data/queries';
import { isReportDue } from '../../data/report-due';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { FileButton } from '../../parts/file-button';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page, Section } from '../../parts/page';
import { inAddress } from './address';

const MOST_BYTES = 1_000_000;

/** Reports that are no question of the builder’s. */
const standings = [
  {
    to: '/time',
    name: 'All time',
    says: 'Every entry in one list: to bill, on a draft, invoiced, paid or written off.',
  },
  {
    to: 'standing/burn',
    name: 'Budget burn',
    says: 'What is used of each budget, and when it is used up at this pace.',
  },
  { to: 'standing/to-bill', name: 'To bill, by age', says: 'How long ago the work was done that is not invoiced yet.' },
  {
    to: 'standing/owed',
    name: 'Owed to us, by age',
    says: 'What clients owe, how late it is, and how many days they take to pay.',
  },
  {
    to: 'standing/lost',
    name: 'What was lost',
    says: 'Time never placed, write-downs, hours above caps, and rounding.',
  },
  {
    to: 'standing/words',
    name: 'Attention by words in titles',
    says: 'How long each word stood in the title of what was in front, by this computer’s trail.',
  },
];

/** Reports that are kept, those that come with the product, and a question of one's own. */
export default function Reports() {
  const today = useToday();
  const { attempt } = useChanges();
  const navigate = useNavigate();
  const kept = useAll('reports');
  const [fault, setFault] = useState<string>();
  if (!kept) return <Loading />;
  const takeIn = async (file: File) => {
    try {
      if (file.size > MOST_BYTES) throw new Fault('This file is too large to be a report.', 'report');
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
      cell: (row) => (
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
          onDelete={(row) => void attempt('report.remove', { id: row.id })}
          empty="Nothing is kept yet. Open a report below, make it yours, and keep it: next month it is one press."
        />
      </Section>
      <Section title="Ready-made">
        <ul className="grid gap-x-8 border-t border-ink md:grid-cols-2">
          {[...readyMade.map((each) => ({ ...each, to: `made/${each.key}` })), ...standings].map((each) => (
            <li key={each.to} className="border-b border-rule py-2">
              <Link
                to={each.to.startsWith('/') ? each.to : `/reports/${each.to}`}
                className="font-semibold text-time hover:underline"
              >
                {each.name}
              </Link>
              <p className="text-sm text-soft">{each.says}</p>
            </li>
          ))}
        </ul>
      </Section>
    </Page>
  );
}
