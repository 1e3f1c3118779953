import { type Reader } from '@half-penny/core/engine';
import { useRead } from '../../data/read';
import type { Pricer } from '@half-penny/core/billing';
import type { LedgerLine } from '@half-penny/core/commands';
import { wordsOf } from '../../data/in-words';
import { addExact, showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { CheckBox } from '../../parts/check';
import { StatementButton, StatementColumns, StatementFaults, useStatement } from '../../parts/statement';

/** A bank statement or another program's list of transactions: CSV with mapping, OFX 2 or camt.053, previewed before it comes in. */
export function StatementIn({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const reading = useStatement(pricer.book.workspace.currency);
  const [incoming, setIncoming] = useState(false);
  const statement = reading.read(incoming);
  const sources = statement?.lines.flatMap((line) => [line.source, ...(line.was ? [line.was] : [])]) ?? [];
  const key = sources.join('\n');
  const known = useRead((reader) => knownLines(reader, key ? key.split('\n') : []), [key]);
  const [changedToo, setChangedToo] = useState(false);
  const before = (line: LedgerLine) => known && hereAs(line, known);
  const fresh = statement?.lines.filter((line) => !before(line)) ?? [];
  const changed = statement?.lines.filter((line) => differs(line, before(line))) ?? [];
  const meant = changedToo ? [...fresh, ...changed] : fresh;
  const importLines = async () => {
    try {
      await run('ledger.take', { lines: meant });
      void navigate('/costs/place');
    } catch (thrown) {
      reading.setFault(wordsOf(thrown));
    }
  };
  return (
    <>
      <Section title="A statement">
        <p className="mb-3 max-w-2xl text-soft">
          CSV or XLSX from a bank or bookkeeping, OFX 2, or camt.053. Nothing is imported before you have seen it, and
          nothing twice.
        </p>
        <StatementButton statement={reading} />
      </Section>
      <StatementColumns statement={reading} />
      {statement && (
        <Section
          title="What will be imported"
          actions={
            <Button
              kind="main"
              disabled={!known || statement.faults.length > 0 || meant.length === 0}
              onClick={() => void importLines()}
            >
              Import {meant.length} {meant.length === 1 ? 'line' : 'lines'}
            </Button>
          }
        >
          <StatementFaults faults={statement.faults} />
          <p className="mb-2 text-sm text-soft">
            {statement.lines.length - fresh.length - changed.length > 0 &&
              `${statement.lines.length - fresh.length - changed.length} are here already and are left out. `}
            {changed.length > 0 && (
              <label className="mr-2 inline-flex items-center gap-2 text-attention">
                <CheckBox checked={changedToo} onChange={setChangedToo} />
                {changed.length === 1
                  ? '1 is here with another day or amount: change it'
                  : `${changed.length} are here with another day or amount: change them`}
              </label>
            )}
            {statement.incoming > 0 && (
              <label className="ml-2 inline-flex items-center gap-2">
                <CheckBox checked={incoming} onChange={setIncoming} />
                also {statement.incoming} that came in, as refunds
              </label>
            )}
          </p>
          <Ledger
            label="Lines of the statement"
            rows={statement.lines}
            rowId={(line) => line.source}
            rowName={(line) => `${line.supplier} ${line.text}`}
            columns={columnsOf(before)}
            empty="This statement holds no money that was spent."
          />
        </Section>
      )}
    </>
  );
}

/** A line that is here, as it stands now. */
interface Here {
  source: string;
  day: string;
  amount: number;
  currency: string;
}

async function knownLines(reader: Reader, sources: readonly string[]): Promise<Here[]> {
  const costs = await reader.by('costs', 'source', [...new Set(sources)]);
  const rows = await reader.by(
    'costLines',
    'costId',
    costs.map((cost) => cost.id),
  );
  return costs.map(({ id, source, day, currency }) => ({
    source,
    day,
    currency,
    amount: rows.filter((row) => row.costId === id).reduce((sum, row) => addExact(sum, row.amount ?? 0), 0),
  }));
}

/** The line as it is here: by its number, or by what an older reading told it apart by where that says the same. */
const hereAs = (line: LedgerLine, known: readonly Here[]): Here | undefined =>
  known.find((each) => each.source === line.source) ??
  known.find((each) => each.source === line.was && !differs(line, each));

const differs = (line: LedgerLine, here: Here | undefined): boolean =>
  here !== undefined && (here.day !== line.day || here.amount !== line.amount || here.currency !== line.currency);

const columnsOf = (before: (line: LedgerLine) => Here | undefined): Column<LedgerLine>[] => [
  { key: 'day', head: 'Day', width: '120px', cell: (line) => showShortDay(line.day) },
  {
    key: 'what',
    head: 'What',
    width: 'minmax(0,1fr)',
    cell: (line) => (
      <>
        <span className="written clamp-2">{line.supplier || line.text}</span>
        {line.supplier && <span className="written block truncate text-xs text-soft">{line.text}</span>}
      </>
    ),
  },
  {
    key: 'here',
    head: 'Here',
    quietHead: true,
    width: '170px',
    cell: (line) => {
      const here = before(line);
      if (!here) return null;
      if (!differs(line, here)) return <span className="text-soft">here already</span>;
      return (
        <span className="text-attention">
          is {showAmount(here.amount, here.currency)} of {showShortDay(here.day)} here
        </span>
      );
    },
  },
  {
    key: 'amount',
    head: 'Spent',
    width: '110px',
    align: 'end',
    cell: (line) => <span className="font-mono text-sm">{showAmount(line.amount, line.currency)}</span>,
  },
];
