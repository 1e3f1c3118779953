import { type Reader } from '@half-penny/core/engine';
import { useRead } from '../../data/read';
import type { Pricer } from '@half-penny/core/billing';
import type { LedgerLine } from '@half-penny/core/commands';
import { wordsOf } from '../../data/in-words';
import { addExact, showAmount } from '@half-penny/core/money';
import { sourcesPaid, type PayOffer } from '@half-penny/core/paying-out';
import { useMemo, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { usePayOffers } from '../../data/pay-offers';
import { askedTransfers, usePayingOut } from '../../data/paying-out';
import { useToday } from '../../data/queries';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { CheckBox } from '../../parts/check';
import { Select, type Option } from '../../parts/select';
import { StatementButton, StatementColumns, StatementFaults, useStatement } from '../../parts/statement';

/** A bank statement or another program's list of transactions: CSV with mapping, OFX 2 or camt.053, previewed before it comes in. */
export function StatementIn({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const { entry } = useSession();
  const today = useToday();
  const waiting = usePayingOut(pricer);
  const reading = useStatement(pricer.book.workspace.currency);
  const [incoming, setIncoming] = useState(false);
  const statement = reading.read(incoming);
  const sources = statement?.lines.flatMap((line) => [line.source, ...(line.was ? [line.was] : [])]) ?? [];
  const key = sources.join('\n');
  const known = useRead((reader) => knownLines(reader, key ? key.split('\n') : []), [key]);
  const [picked, setPicked] = useState<Readonly<Record<string, string>>>({});
  const [changedToo, setChangedToo] = useState(false);
  const before = (line: LedgerLine) => known && hereAs(line, known);
  const fresh = useMemo(
    () => statement?.lines.filter((line) => known && !hereAs(line, known)) ?? [],
    // The lines are made again at each look; what they are told apart by is not.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [key, known],
  );
  const offers = usePayOffers(pricer, waiting, fresh);
  /** What a line is chosen to pay; what is sure is chosen from the start. */
  const paying = (line: LedgerLine): PayOffer | undefined => {
    const own = offers?.get(line.source) ?? [];
    return own[Number(picked[line.source] ?? (own[0]?.sure ? '0' : '-1'))];
  };
  const changed = statement?.lines.filter((line) => differs(line, before(line))) ?? [];
  const meant = changedToo ? [...fresh, ...changed] : fresh;
  const whatItIs = (line: LedgerLine) => {
    const own = offers?.get(line.source) ?? [];
    if (own.length === 0 || before(line)) return null;
    const chosen = paying(line);
    return (
      <>
        <Select
          name={`What ${line.supplier || line.text} is`}
          look="quiet"
          className="text-ink!"
          value={chosen ? String(own.indexOf(chosen)) : '-1'}
          onPick={(value) => setPicked((now) => ({ ...now, [line.source]: value }))}
          options={[...own.map((offer, index): Option => [String(index), offer.says]), ['-1', 'is a cost']]}
        />
        <span className="block px-1 text-xs text-soft">{(chosen ?? own[0]!).reasons.join(' · ')}</span>
      </>
    );
  };
  const askBank = async () => {
    const { bankPayments } = await import('@half-penny/demo/bank');
    const text = bankPayments(askedTransfers(waiting!, pricer), waiting!.dues, pricer.book.workspace.currency, today);
    await reading.open(new File([text], `paid-${today}.xml`, { type: 'application/xml' }));
  };
  const importLines = async () => {
    try {
      const lines = meant.map((line) => ({ ...line, ...(paying(line) && { pays: paying(line)!.parts }) }));
      await run('ledger.take', { lines });
      void navigate(lines.every((line) => 'pays' in line) ? '/costs/pay' : '/costs/place');
    } catch (thrown) {
      reading.setFault(wordsOf(thrown));
    }
  };
  return (
    <>
      <Section title="A statement">
        <p className="mb-3 max-w-2xl text-soft">
          CSV or XLSX from a bank or bookkeeping, OFX 2, or camt.053. Nothing is imported before you have seen it, and
          nothing twice. What pays a bill, a member or a client back is told from what is bought.
        </p>
        <div className="flex flex-wrap items-center gap-3">
          <StatementButton statement={reading} />
          {entry.demo && (
            <Button disabled={!waiting} onClick={() => void askBank()}>
              Ask the demo’s bank
            </Button>
          )}
        </div>
      </Section>
      <StatementColumns statement={reading} />
      {statement && (
        <Section
          title="What will be imported"
          actions={
            <Button
              kind="main"
              disabled={!known || !offers || statement.faults.length > 0 || meant.length === 0}
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
            columns={columnsOf(before, whatItIs)}
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
  /** Null where it paid something: what it paid is not corrected by a statement. */
  told: { day: string; amount: number; currency: string } | null;
}

async function knownLines(reader: Reader, sources: readonly string[]): Promise<Here[]> {
  const costs = await reader.by('costs', 'source', [...new Set(sources)]);
  const rows = await reader.by(
    'costLines',
    'costId',
    costs.map((cost) => cost.id),
  );
  const bought = costs.map(({ id, source, day, currency }) => ({
    source,
    told: {
      day,
      currency,
      amount: rows.filter((row) => row.costId === id).reduce((sum, row) => addExact(sum, row.amount ?? 0), 0),
    },
  }));
  const paid = [...(await sourcesPaid(reader, [...new Set(sources)]))].map((source) => ({ source, told: null }));
  return [...bought, ...paid];
}

/** The line as it is here: by its number, or by what an older reading told it apart by where that says the same. */
const hereAs = (line: LedgerLine, known: readonly Here[]): Here | undefined =>
  known.find((each) => each.source === line.source) ??
  known.find((each) => each.source === line.was && !differs(line, each));

const differs = (line: LedgerLine, here: Here | undefined): boolean =>
  here?.told != null &&
  (here.told.day !== line.day || here.told.amount !== line.amount || here.told.currency !== line.currency);

const columnsOf = (
  before: (line: LedgerLine) => Here | undefined,
  whatItIs: (line: LedgerLine) => ReactNode,
): Column<LedgerLine>[] => [
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
    head: 'What it is',
    width: 'minmax(0,1fr)',
    cell: (line) => {
      const here = before(line);
      if (!here) return whatItIs(line) ?? <span className="text-soft">a cost</span>;
      if (!differs(line, here)) return <span className="text-soft">here already</span>;
      return (
        <span className="text-attention">
          is {showAmount(here.told!.amount, here.told!.currency)} of {showShortDay(here.told!.day)} here
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
