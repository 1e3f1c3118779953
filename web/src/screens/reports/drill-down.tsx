import {
  Charges,
  explainCharge,
  explainPriced,
  jobName,
  worthOf,
  type PricedEntry,
  type Pricer,
} from '@half-penny/core/billing';
import type { CostLine, Entry, Id } from '@half-penny/core/model';
import { measureOf, showFigure, type BaseMeasure, type Definition } from '@half-penny/core/reports';
import type { Working } from '@half-penny/core/rates';
import type { Day, LengthStyle } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { DexieReader } from '../../data/executor';
import { useSession } from '../../data/session';
import { showShortDay } from '../../parts/days';
import { Dialog } from '../../parts/dialog';
import { Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading } from '../../parts/page';
import { reportsWork, type Behind } from '../../workers/reports';
import type { Pressed } from './report-table';

const MOST = 500;

/** One source behind a figure, in words. */
interface Source extends Behind {
  job: string;
  who: string;
  text: string;
  to: string | null;
  working: (() => Working) | null;
}

interface BehindProps {
  pressed: Pressed;
  definition: Definition;
  pricer: Pricer;
  today: Day;
  style: LengthStyle;
  onClose: () => void;
}

/** What stands behind a figure: each entry and cost with what it brings, and from there its slip. */
export function BehindDialog({ pressed, definition, pricer, today, style, onClose }: BehindProps) {
  const { entry, reader } = useSession();
  const [found, setFound] = useState<{ rows: Source[]; more: boolean }>();
  useEffect(() => {
    let left = false;
    void reportsWork(entry.database, today)
      .api.behind(pressed.path, pressed.column, MOST)
      .then(async ({ rows, more }) => {
        const { needs } = measureOf(pressed.measure);
        const own = rows.filter((row) => needs.some((base) => row.values[base]));
        return { rows: await inWords(reader, pricer, own), more };
      })
      .then((each) => !left && setFound(each));
    return () => void (left = true);
  }, [entry.database, today, pressed, reader, pricer]);
  const { kind, label, says } = measureOf(pressed.measure);
  const asked = [pressed.measure, ...definition.measures.filter((each) => each !== pressed.measure)].slice(0, 2);
  const figures = asked.map((measure): Column<Source> => ({
    key: measure,
    head: measureOf(measure).label,
    width: '104px',
    align: 'end',
    cell: (row) => <SourceFigure row={row} measure={measure} style={style} />,
  }));
  const columns: Column<Source>[] = [
    { key: 'day', head: 'Day', width: '92px', cell: (row) => row.day && showShortDay(row.day) },
    {
      key: 'who',
      head: 'Who',
      width: '104px',
      wideOnly: true,
      cell: (row) => <span className="clamp-2">{row.who}</span>,
    },
    {
      key: 'text',
      head: 'What',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <>
          {row.to ? (
            <Link to={row.to} tabIndex={-1} className="written clamp-2 hover:underline">
              {row.text}
            </Link>
          ) : (
            <span className="written clamp-2">{row.text}</span>
          )}
          <span className="block text-xs text-soft">{row.job}</span>
        </>
      ),
    },
    ...figures,
  ];
  return (
    <Dialog
      title={`${label}: ${pressed.label}`}
      about={`${says} ${kind === 'percent' || kind === 'money an hour' ? 'It is worked out from all of these together.' : 'These are what it is made of.'}`}
      open
      onClose={onClose}
      wide="widest"
    >
      {!found ? (
        <Loading />
      ) : (
        <>
          <Ledger
            label="What is behind it"
            rows={found.rows}
            rowId={(row) => `${row.what} ${row.source} ${row.day}`}
            rowName={(row) => row.text}
            columns={columns}
            empty="Nothing is behind this figure."
          />
          {found.more && <p className="mt-3 text-sm text-soft">Only the first {MOST} are shown here.</p>}
        </>
      )}
    </Dialog>
  );
}

function SourceFigure({ row, measure, style }: { row: Source; measure: Pressed['measure']; style: LengthStyle }) {
  const { kind, of } = measureOf(measure);
  const value = of((base: BaseMeasure) => row.values[base] ?? 0);
  const text = showFigure(value, kind, row.currency, style);
  if (kind !== 'money' || !value || !row.working) return <span className="font-mono">{text}</span>;
  return <Worth amount={value} currency={row.currency} of={row.text} working={row.working} />;
}

/** Looks the sources up and puts them in words. */
async function inWords(reader: DexieReader, pricer: Pricer, rows: readonly Behind[]): Promise<Source[]> {
  const idsOf = (whats: readonly string[]) => rows.filter((row) => whats.includes(row.what)).map((row) => row.source);
  const entries = byId(await reader.many('entries', idsOf(['time', 'adjustment'])));
  const lines = byId(await reader.many('costLines', idsOf(['expense', 'bill', 'ledger', 'adjustment'])));
  const agreed = byId(await reader.many('agreed', idsOf(['agreed', 'adjustment'])));
  const costs = byId(await reader.many('costs', [...new Set([...lines.values()].map((row) => row.costId))]));
  const invoices = byId(await reader.many('invoices', idsOf(['invoice line'])));
  const plans = byId(await reader.many('plans', idsOf(['plan'])));
  // Rounding may go by a whole day, so each is priced among what was done beside it.
  const days = [...new Set([...entries.values()].map((row) => JSON.stringify([row.memberId, row.day])))];
  const beside = await reader.by(
    'entries',
    'memberId+day',
    days.map((key) => JSON.parse(key) as [string, string]),
  );
  const priced = new Map(worthOf(pricer, beside).map((each) => [each.entry.id, each]));
  const charges = new Charges(pricer, {
    costs: [...costs.values()],
    costLines: [...lines.values()],
    agreed: [],
    milestones: [],
  });
  return rows.map((row): Source => {
    const entry = entries.get(row.source);
    const line = lines.get(row.source);
    const plan = plans.get(row.source);
    if (entry) return { ...row, ...ofEntry(pricer, entry, priced.get(entry.id)) };
    if (line) return { ...row, ...ofLine(pricer, charges, line, costs.get(line.costId)?.supplier ?? '') };
    const own = agreed.get(row.source);
    if (own) return { ...row, job: jobName(pricer, own.projectId), who: '', text: own.text, to: null, working: null };
    const invoice = invoices.get(row.source);
    if (invoice) {
      const text = `${invoice.frozen?.number}, lines of its own and discounts`;
      return { ...row, job: '', who: '', text, to: `/billing/invoice/${invoice.id}`, working: null };
    }
    if (plan) {
      const who = pricer.member.get(plan.memberId)?.name ?? '';
      return {
        ...row,
        job: jobName(pricer, plan.projectId, plan.unlisted),
        who,
        text: plan.note || 'Planned',
        to: null,
        working: null,
      };
    }
    const [memberId = ''] = row.source.split(' ');
    const who = pricer.member.get(memberId)?.name ?? '';
    return {
      ...row,
      job: '',
      who,
      text: row.what === 'trail' ? 'Noticed activity' : 'Owed, less breaks',
      to: null,
      working: null,
    };
  });
}

const byId = <T extends { id: Id }>(rows: readonly (T | undefined)[]): Map<Id, T> =>
  new Map(rows.filter((row) => row !== undefined).map((row) => [row.id, row]));

function ofEntry(pricer: Pricer, entry: Entry, priced: PricedEntry | undefined) {
  return {
    job: jobName(pricer, entry.projectId, entry.unlisted),
    who: pricer.member.get(entry.memberId)?.name ?? '',
    text: entry.note.trim() || 'No note',
    to: `/today?day=${entry.day}`,
    working: priced ? () => explainPriced(pricer, priced) : null,
  };
}

function ofLine(pricer: Pricer, charges: Charges, line: CostLine, supplier: string) {
  const billable = charges.billableOfLine(line);
  const charge = billable === null ? null : charges.ofLine(line, billable);
  return {
    job: jobName(pricer, line.projectId, line.unlisted),
    who: supplier,
    text: line.text || supplier || 'Cost',
    to: `/costs/cost/${line.costId}`,
    working: charge ? () => explainCharge(pricer, charge) : null,
  };
}
