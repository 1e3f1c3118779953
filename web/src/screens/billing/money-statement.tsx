import type { InvoiceBalance, Pricer } from '@half-penny/core/billing';
import type { MoneyInLine } from '@half-penny/core/commands';
import { showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import { wordsOf } from '../../data/in-words';
import { useRead } from '../../data/read';
import { useToday } from '../../data/queries';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortestDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { StatementButton, StatementColumns, StatementFaults, useStatement } from '../../parts/statement';

interface MoneyStatementProps {
  pricer: Pricer;
  invoices: readonly InvoiceBalance[];
  /** Nothing came in yet. */
  none: boolean;
}

/** Reads a statement for what came in; shown before anything is taken. */
export function MoneyStatement({ pricer, invoices, none }: MoneyStatementProps) {
  const { run } = useChanges();
  const { entry } = useSession();
  const today = useToday();
  const reading = useStatement(pricer.book.workspace.currency, 'came in');
  const [said, setSaid] = useState('');
  const statement = reading.read(false);
  const lines = statement?.moneyIn ?? [];
  const key = lines.flatMap(({ source, was }) => (was ? [source, was] : [source])).join('\n');
  const known = useRead(
    async (reader) =>
      new Set((await reader.by('moneyIn', 'source', key ? key.split('\n') : [])).map((row) => row.source)),
    [key],
  );
  const fresh = lines.filter((line) => known && !known.has(line.source) && !known.has(line.was ?? ''));
  const askBank = async () => {
    const { bankStatement } = await import('@half-penny/demo/bank');
    const text = bankStatement(invoices, pricer.book.workspace.currency, pricer.rates.exchange, today);
    await reading.open(new File([text], `statement-${today}.xml`, { type: 'application/xml' }));
  };
  const take = async () => {
    try {
      await run('money.take', { lines: fresh });
      setSaid(
        `${fresh.length} ${fresh.length === 1 ? 'sum' : 'sums'} read from ${reading.file?.name ?? 'the statement'}.`,
      );
      reading.setFile(null);
    } catch (thrown) {
      reading.setFault(wordsOf(thrown));
    }
  };
  return (
    <>
      <div className="mb-6 flex flex-wrap items-center gap-3">
        <StatementButton statement={reading} kind={none ? 'main' : 'plain'} label="Choose a statement" />
        {entry.demo && <Button onClick={() => void askBank()}>Ask the demo’s bank</Button>}
        <p className="max-w-2xl text-soft">
          {none
            ? 'A statement of your bank, as camt.053, OFX 2, CSV or XLSX, tells what came in. It is matched to invoices by reference, number, sum and name; what is not sure is asked.'
            : 'camt.053, OFX 2, CSV or XLSX. Nothing comes in twice.'}
        </p>
        <span role="status">{said}</span>
      </div>
      <StatementColumns statement={reading} />
      {statement && (
        <Section
          title={`What came in by ${reading.file?.name.slice(0, 80)}`}
          actions={
            <>
              <Button onClick={() => reading.setFile(null)}>Cancel</Button>
              <Button
                kind="main"
                disabled={!known || statement.faults.length > 0 || fresh.length === 0}
                onClick={() => void take()}
              >
                Import {fresh.length} {fresh.length === 1 ? 'sum' : 'sums'}
              </Button>
            </>
          }
        >
          <StatementFaults faults={statement.faults} />
          {lines.length > fresh.length && known && (
            <p className="mb-2 text-sm text-soft">
              {lines.length - fresh.length} {lines.length - fresh.length === 1 ? 'is' : 'are'} here already and left
              out.
            </p>
          )}
          <Ledger
            label="Sums of the statement"
            rows={fresh}
            rowId={(line) => line.source}
            rowName={(line) => `${line.payer} ${line.text}`}
            columns={columns}
            empty={lines.length > 0 ? 'All of it is here already.' : 'No money came in by this statement.'}
          />
        </Section>
      )}
    </>
  );
}

const columns: Column<MoneyInLine>[] = [
  { key: 'day', head: 'Day', width: '64px', cell: (line) => showShortestDay(line.day) },
  {
    key: 'payer',
    head: 'From',
    width: 'minmax(0,1fr)',
    cell: (line) => (
      <>
        <span className="written clamp-2">{line.payer || 'Nobody named'}</span>
        <span className="written block truncate text-xs text-soft">
          {[line.reference, line.text].filter(Boolean).join(' · ')}
        </span>
      </>
    ),
  },
  {
    key: 'amount',
    head: 'Came in',
    width: '120px',
    align: 'end',
    cell: (line) => <span className="font-mono text-sm">{showAmount(line.amount, line.currency)}</span>,
  },
];
