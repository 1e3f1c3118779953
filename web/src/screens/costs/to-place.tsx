import { useAll } from '../../data/read';
import { Select } from '../../parts/select';
import type { Pricer } from '@half-penny/core/billing';
import { placingOf, type Placed } from '@half-penny/core/costs';
import { noJob, type Job } from '@half-penny/core/entries';
import { showAmount } from '@half-penny/core/money';
import { showDayShort } from '@half-penny/core/time';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useBookkeeping, type CostRow } from '../../data/costs';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { headingOptions } from '../../parts/headings';
import { JobPicker } from '../../parts/job-picker';
import { Ledger, type Column } from '../../parts/ledger';
import { Progress } from '../../parts/progress';
import { showShortestDay } from '../../parts/days';

/** Lines that belong nowhere yet, to be worked down: one by one as they are likely to be, or many at once. */
export function ToPlace({ pricer, rows }: { pricer: Pricer; rows: readonly CostRow[] }) {
  const { attempt } = useChanges();
  const navigate = useNavigate();
  const books = useBookkeeping();
  const open = useMemo(() => rows.filter((row) => row.standing === 'to place'), [rows]);
  const rules = useAll('matchRules');
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [job, setJob] = useState<Job>(noJob);
  const [costCodeId, setCostCodeId] = useState('');
  const history = useMemo(() => placedBefore(rows), [rows]);
  const picked = open.filter((row) => selected.has(row.id)).map((row) => row.id);
  const place = async () => {
    const where = job.projectId ? { projectId: job.projectId } : { unlisted: job.unlisted };
    if (await attempt('cost.place', { lineIds: picked, ...where, costCodeId: costCodeId || null }))
      setSelected(new Set());
  };
  const likely = (row: CostRow) =>
    placingOf({ supplier: row.cost.supplier, text: row.line.text }, rules ?? [], history);
  const columns: Column<CostRow>[] = [
    { key: 'day', head: 'Day', width: '64px', cell: ({ cost }) => showShortestDay(cost.day) },
    {
      key: 'what',
      head: 'What',
      width: 'minmax(0,1fr)',
      cell: ({ cost, line }) => (
        <>
          <span className="written clamp-2">{cost.supplier || line.text}</span>
          <span className="written block truncate text-xs text-soft">
            {[line.text, line.unlisted].filter(Boolean).join(' · ')}
          </span>
        </>
      ),
    },
    {
      key: 'amount',
      head: 'Cost',
      width: '92px',
      align: 'end',
      cell: ({ net, cost }) => <span className="font-mono text-sm">{showAmount(net, cost.currency)}</span>,
    },
    {
      key: 'likely',
      head: 'Likely',
      width: 'minmax(0,1fr)',
      cell: (row) => {
        const placing = likely(row);
        if (!placing) return <span className="text-soft">–</span>;
        const name = placing.projectId ? pricer.tree.pathOf(placing.projectId) : 'not for a client';
        return (
          <button
            type="button"
            className="rounded-sm text-left underline-offset-4 hover:underline"
            onClick={() =>
              void attempt('cost.place', {
                lineIds: [row.id],
                projectId: placing.projectId,
                costCodeId: placing.costCodeId,
                forClient: placing.forClient,
              })
            }
          >
            <span className="written clamp-2 text-time">Place on {name}</span>
            <span className="block text-xs text-soft">
              {[pricer.costCode.get(placing.costCodeId ?? '')?.name, placing.why].filter(Boolean).join(', ')}
            </span>
          </button>
        );
      },
    },
    {
      key: 'internal',
      head: 'Not for a client',
      quietHead: true,
      width: '110px',
      align: 'end',
      wideOnly: true,
      cell: (row) => (
        <Button kind="quiet" onClick={() => void attempt('cost.place', { lineIds: [row.id], forClient: false })}>
          Not for a client
        </Button>
      ),
    },
  ];
  return (
    <>
      <div className="mb-4 flex flex-wrap items-center gap-3">
        <Button onClick={() => void books.read()} disabled={books.reading}>
          Read the bookkeeping
        </Button>
        <span className="text-sm text-soft">
          {books.feed
            ? `read last on ${showDayShort(new Date(books.feed.readAt).toISOString().slice(0, 10))}`
            : 'not read yet'}
        </span>
        <Button kind="quiet" onClick={() => void navigate('/costs/in')}>
          From a statement…
        </Button>
        <span role="status">{books.said}</span>
      </div>
      {books.fault && (
        <p role="alert" className="mb-3 border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention">
          {books.fault}
        </p>
      )}
      {books.reading && <Progress title="Reading the bookkeeping" share={null} onStop={books.stop} />}
      {picked.length > 0 && (
        <form
          aria-label="Place the picked lines"
          className="mb-3 flex flex-wrap items-center gap-3 border-y border-rule bg-time-ground px-3 py-2"
          onSubmit={(event) => {
            event.preventDefault();
            void place();
          }}
        >
          <span className="font-semibold">
            {picked.length} {picked.length === 1 ? 'line' : 'lines'} on
          </span>
          <JobPicker
            pricer={pricer}
            value={job}
            onPick={setJob}
            label="Job"
            none="Choose a job"
            boxed
            className="w-auto! min-w-48"
          />
          <Select
            name="Cost code"
            className="w-auto! max-w-60"
            value={costCodeId}
            onPick={(picked) => setCostCodeId(picked)}
            options={headingOptions(pricer, job.projectId, costCodeId || null)}
          />
          <Button type="submit" kind="main" disabled={!job.projectId && !job.unlisted}>
            Place
          </Button>
          <Button
            kind="quiet"
            onClick={() =>
              void attempt('cost.place', { lineIds: picked, forClient: false }).then(() => setSelected(new Set()))
            }
          >
            None is for a client
          </Button>
        </form>
      )}
      <Ledger
        label="Lines to place"
        rows={open}
        rowId={(row) => row.id}
        rowName={(row) => `${row.cost.supplier} ${row.line.text}`}
        columns={columns}
        selection={{ selected, onChange: setSelected }}
        onOpen={(row) => void navigate(`/costs/cost/${row.cost.id}`)}
        empty="Every cost has its place. Lines of the bookkeeping or a statement that no rule matches are listed here."
      />
    </>
  );
}

/** What was placed before, by which like lines are placed. */
const placedBefore = (rows: readonly CostRow[]): Placed[] =>
  rows
    .filter((row) => row.standing !== 'to place')
    .map(({ cost, line }) => ({
      supplier: cost.supplier,
      text: line.text,
      projectId: line.projectId,
      costCodeId: line.costCodeId,
      forClient: line.forClient,
      day: cost.day,
    }));
