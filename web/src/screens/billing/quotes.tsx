import type { Pricer } from '@half-penny/core/billing';
import type { Quote } from '@half-penny/core/model';
import { lastVersion, quoteStanding, quoteSums, type QuoteStanding } from '@half-penny/core/quotes';
import { showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { CameAnswer } from '../../data/online';
import { useToday } from '../../data/queries';
import { useAll } from '../../data/read';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { AnswersCame } from './answers-came';
import { showShortDay } from '../../parts/days';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { SelectField } from '../../parts/select';
import { useSubmit } from '../../parts/use-submit';

/** What was offered to clients, and what they said. */
export function Quotes({ pricer, answers }: { pricer: Pricer; answers: readonly CameAnswer[] }) {
  const quotes = useAll('quotes');
  const today = useToday();
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  if (!quotes) return <Loading />;
  const rows = [...quotes].sort((a, b) => (b.seq ?? Infinity) - (a.seq ?? Infinity) || b.createdAt - a.createdAt);
  const standing = (row: Quote) => quoteStanding(row, today);
  const columns: Column<Quote>[] = [
    {
      key: 'number',
      head: 'Number',
      width: '100px',
      cell: (row) => (
        <Link className="font-mono text-sm font-semibold hover:underline" to={`/billing/quote/${row.id}`} tabIndex={-1}>
          {lastVersion(row)?.frozen.number ?? 'Draft'}
        </Link>
      ),
    },
    {
      key: 'title',
      head: 'For',
      ownLine: true,
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <>
          <span className="written clamp-2">{row.title}</span>
          <span className="written block truncate text-xs text-soft">{pricer.client.get(row.clientId)?.name}</span>
        </>
      ),
    },
    {
      key: 'until',
      head: 'Valid until',
      width: '110px',
      align: 'end',
      wideOnly: true,
      cell: (row) => (row.answer ? '' : showShortDay(row.validUntil)),
    },
    { key: 'standing', head: 'Standing', width: '130px', cell: (row) => <QuoteMark standing={standing(row)} /> },
    {
      key: 'sum',
      head: 'Before tax',
      width: '120px',
      align: 'end',
      cell: (row) => (
        <span className="font-mono text-sm font-semibold text-money">
          {showAmount(
            row.answer ? lastVersion(row)!.frozen.net : quoteSums(pricer, row, today).firm.totals.net,
            row.currency,
          )}
        </span>
      ),
    },
  ];
  return (
    <Section
      title="Quotes"
      actions={
        <>
          <AnswersCame {...{ pricer, quotes, answers, today }} />
          <Button kind="main" onClick={() => setAdding(true)}>
            New quote
          </Button>
        </>
      }
    >
      <Ledger
        label="Quotes"
        rows={rows}
        rowId={(row) => row.id}
        rowName={(row) => row.title}
        columns={columns}
        marked={(row) => standing(row) === 'out of date'}
        onOpen={(row) => void navigate(`/billing/quote/${row.id}`)}
        empty="Nothing was offered yet. A quote says what work will cost before it is done; accepted, it becomes the project’s agreed amounts and its budget."
      />
      {adding && <NewQuote pricer={pricer} onClose={() => setAdding(false)} />}
    </Section>
  );
}

/** Where a quote stands, in words; amber where it wants attention. */
export function QuoteMark({ standing }: { standing: QuoteStanding }) {
  const looks: Record<QuoteStanding, string> = {
    draft: 'text-soft italic',
    given: 'text-ink',
    'out of date': 'rounded-sm bg-attention-ground px-1.5 py-0.5 font-semibold text-attention',
    accepted: 'font-semibold text-time',
    'accepted in part': 'font-semibold text-time',
    declined: 'text-soft',
  };
  return <span className={`whitespace-nowrap ${looks[standing]}`}>{standing}</span>;
}

function NewQuote({ pricer, onClose }: { pricer: Pricer; onClose: () => void }) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const clients = pricer.book.clients.filter((client) => !client.archived);
  const [clientId, setClientId] = useState(clients[0]?.id ?? '');
  const [projectId, setProjectId] = useState('');
  const [title, setTitle] = useState('');
  const projects = pricer.book.projects.filter((row) => row.clientId === clientId && !row.finished);
  const { fault, faults, submit } = useSubmit(async () => {
    const row = await run('quote.add', { clientId, projectId: projectId || null, title });
    void navigate(`/billing/quote/${row.changes[0]!.id}`);
  }, ['title', 'clientId', 'projectId']);
  if (clients.length === 0)
    return (
      <Dialog open onClose={onClose} title="New quote">
        <p className="text-soft">A quote is for a client; add one under Clients first.</p>
      </Dialog>
    );
  return (
    <Dialog open onClose={onClose} title="New quote">
      <form onSubmit={submit} className="flex flex-col gap-3">
        <TextField
          label="What it is for"
          value={title}
          fault={faults.title ?? fault}
          onChange={(event) => setTitle(event.target.value)}
        />
        <SelectField
          label="Client"
          value={clientId}
          fault={faults.clientId}
          options={clients.map(({ id, name }) => [id, name] as const)}
          onPick={(id) => {
            setClientId(id);
            setProjectId('');
          }}
        />
        <SelectField
          label="Project"
          hint="A change to work that is going on, or new work: its project is made once the quote is accepted."
          value={projectId}
          fault={faults.projectId}
          options={[['', 'New work'], ...projects.map(({ id }) => [id, pricer.tree.pathOf(id)] as const)]}
          onPick={setProjectId}
        />
        <Button type="submit" kind="main" className="self-end">
          Write it
        </Button>
      </form>
    </Dialog>
  );
}
