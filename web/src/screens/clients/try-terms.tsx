import { asItWas, perHour, tryTerms, type Outcome, type Pricer, type Scenario } from '@half-penny/core/billing';
import { type Client, type Fault } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { rateUnits, readDecimal, showAmount, type RateUnit, lessExact } from '@half-penny/core/money';
import { exactly, firstOfMonth, showLength, type RoundingPolicy } from '@half-penny/core/time';
import { useMemo, useState } from 'react';
import { useToday } from '../../data/queries';
import { useWorkRows } from '../../data/work';
import { difference } from '../../parts/effect-slip';
import { TextField } from '../../parts/field';
import { SelectField } from '../../parts/select';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { PeriodPicker } from '../../parts/period-picker';
import { rateTyped } from '../../parts/read-price';
import { readMoney } from './budgets';

const TERMS = [
  ['change', 'prices raised by a percentage'],
  ['price', 'one price for all hours'],
  ['markup', 'labour at cost with a markup'],
  ['fixed', 'a fixed price'],
  ['none', 'its present prices'],
] as const;

const POLICIES: Record<string, RoundingPolicy> = {
  exact: exactly,
  six: { increment: 360, direction: 'up', minimum: 0, per: 'entry' },
  quarter: { increment: 900, direction: 'up', minimum: 0, per: 'entry' },
  quarterDay: { increment: 900, direction: 'nearest', minimum: 0, per: 'day and job' },
};

/** A client's past work on other terms, beside what it came to. Nothing is saved. */
export function TryTerms({ pricer, client }: { pricer: Pricer; client: Client }) {
  const today = useToday();
  const [period, setPeriod] = useState({ from: firstOfMonth(today), to: today });
  const [terms, setTerms] = useState<(typeof TERMS)[number][0]>('change');
  const [figure, setFigure] = useState('10');
  const [unit, setUnit] = useState<RateUnit>('hour');
  const [rounding, setRounding] = useState('');
  const [projectId, setProjectId] = useState('');
  const projects = useMemo(
    () => pricer.book.projects.filter((project) => project.clientId === client.id && project.kind !== 'internal'),
    [pricer, client.id],
  );
  const chosen = useMemo(
    () => (projectId ? pricer.tree.downFrom(projectId) : projects).map((project) => project.id),
    [projectId, projects, pricer],
  );
  const rows = useWorkRows(chosen);
  const { currency } = client;
  const scenario = useMemo((): Scenario | Fault => {
    try {
      return scenarioOf(terms, figure, unit, currency, POLICIES[rounding] ?? null);
    } catch (thrown) {
      return thrown as Fault;
    }
  }, [terms, figure, unit, rounding, currency]);
  const fault = scenario instanceof Error ? wordsOf(scenario) : undefined;
  const tried = useMemo(() => {
    if (!rows || scenario instanceof Error) return null;
    const entries = rows.entries.filter((entry) => entry.day >= period.from && entry.day <= period.to);
    return tryTerms(pricer, entries, scenario);
  }, [rows, scenario, period, pricer]);
  return (
    <Section title="What if">
      <p className="mb-3 max-w-2xl border-t border-ink pt-3 text-soft">
        What past work would have come to on other terms. Nothing is saved and no invoice changes.
      </p>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-3">
        <div>
          <div className="mb-1 text-xs font-semibold text-soft">Work done</div>
          <PeriodPicker
            workspace={pricer.book.workspace}
            today={today}
            {...period}
            onPick={(from, to) => setPeriod({ from, to })}
          />
        </div>
        <SelectField
          label="On"
          className="w-60"
          value={projectId}
          onPick={(picked) => setProjectId(picked)}
          options={[
            ['', 'all projects'],
            ...projects.map((project) => [project.id, pricer.tree.pathOf(project.id)] as const),
          ]}
        />
      </div>
      <div className="mt-3 flex flex-wrap items-start gap-x-4 gap-y-3">
        <SelectField
          label="With"
          className="w-60"
          value={terms}
          onPick={(picked) => setTerms(picked as typeof terms)}
          options={TERMS}
        />
        {terms !== 'none' && (
          <TextField
            label={terms === 'price' || terms === 'fixed' ? `Amount, ${currency}` : 'Per cent'}
            className="w-36"
            inputMode="decimal"
            value={figure}
            fault={fault}
            onChange={(event) => setFigure(event.target.value)}
          />
        )}
        {terms === 'price' && (
          <SelectField
            label="Per"
            className="w-28"
            value={unit}
            onPick={(picked) => setUnit(picked as RateUnit)}
            options={rateUnits.map((each) => [each, each] as const)}
          />
        )}
        <SelectField
          label="Rounded"
          className="w-60"
          value={rounding}
          onPick={(picked) => setRounding(picked)}
          options={[
            ['', 'as it is'],
            ['exact', 'to the second'],
            ['six', 'up to the next 6 min, entry by entry'],
            ['quarter', 'up to the next 15 min, entry by entry'],
            ['quarterDay', 'to the nearest 15 min, by day and job'],
          ]}
        />
      </div>
      {tried && <Outcomes {...{ pricer, tried, currency }} fixed={terms === 'fixed'} />}
    </Section>
  );
}

function scenarioOf(
  terms: (typeof TERMS)[number][0],
  figure: string,
  unit: RateUnit,
  currency: string,
  rounding: RoundingPolicy | null,
): Scenario {
  const base = { ...asItWas, rounding };
  switch (terms) {
    case 'change':
      return { ...base, change: readPercent(figure) };
    case 'price':
      return { ...base, price: rateTyped(figure, unit) };
    case 'markup':
      return { ...base, markup: readPercent(figure) };
    case 'fixed':
      return { ...base, fixedPrice: readMoney(figure, currency) ?? 0 };
    case 'none':
      return base;
  }
}

/** Percent, not below −100: less would make prices below nothing. */
function readPercent(text: string): string {
  const percent = readDecimal(text.replace('%', '').replace('−', '-'), 'percentage');
  if (Number(percent) < -100) throw new Error('Less than −100 % would make prices below nothing.');
  return percent;
}

type Tried = ReturnType<typeof tryTerms>;

function Outcomes({
  pricer,
  tried,
  currency,
  fixed,
}: {
  pricer: Pricer;
  tried: Tried;
  currency: string;
  fixed: boolean;
}) {
  const rule = pricer.book.workspace.amountRounding;
  const hour = (outcome: Outcome) => {
    const each = perHour(outcome, rule);
    return each === null ? '–' : `${showAmount(each, currency)} /h`;
  };
  const more = lessExact(tried.would.amount, tried.was.amount);
  const columns: Column<Tried['projects'][number]>[] = [
    {
      key: 'project',
      head: 'Project',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{pricer.tree.pathOf(row.projectId)}</span>,
    },
    {
      key: 'hours',
      head: 'Hours, now and then',
      width: '150px',
      align: 'end',
      wideOnly: true,
      cell: (row) => (
        <span className="font-mono text-sm text-time">
          {showLength(row.was.billed)} {showLength(row.would.billed)}
        </span>
      ),
    },
    {
      key: 'was',
      head: 'As it is',
      width: '120px',
      align: 'end',
      cell: (row) => <span className="font-mono text-sm">{showAmount(row.was.amount, currency)}</span>,
    },
    {
      key: 'would',
      head: 'As it would be',
      width: '130px',
      align: 'end',
      cell: (row) => (
        <span className="font-mono text-sm font-semibold text-money">{showAmount(row.would.amount, currency)}</span>
      ),
    },
  ];
  return (
    <div className="mt-6">
      <table className="mb-6 w-full max-w-2xl text-sm" aria-label="What it would come to">
        <thead>
          <tr className="border-b border-ink text-right text-xs text-soft">
            <td />
            <th scope="col" className="py-1 font-semibold">
              Hours
            </th>
            <th scope="col" className="font-semibold">
              Amount
            </th>
            <th scope="col" className="font-semibold">
              An hour
            </th>
          </tr>
        </thead>
        <tbody className="text-right font-mono">
          {(
            [
              ['As it is', tried.was],
              ['As it would be', tried.would],
            ] as const
          ).map(([name, outcome]) => (
            <tr key={name} className="border-b border-rule">
              <th scope="row" className="py-1.5 text-left font-sans font-normal">
                {name}
                {outcome.unpriced > 0 && (
                  <span className="block text-xs text-attention">{outcome.unpriced} entries without a price</span>
                )}
              </th>
              <td className="text-time">{showLength(outcome.billed)} h</td>
              <td className="font-semibold text-money">{showAmount(outcome.amount, currency)}</td>
              <td>{hour(outcome)}</td>
            </tr>
          ))}
          <tr className="font-bold">
            <th scope="row" className="py-1.5 text-left font-sans">
              Difference
            </th>
            <td />
            <td className="text-money">
              <span className="border-b-[3px] border-double border-money">{difference(more, currency)}</span>
            </td>
            <td />
          </tr>
        </tbody>
      </table>
      {!fixed && (
        <Ledger
          label="What each project would come to"
          rows={tried.projects}
          rowId={(row) => row.projectId}
          rowName={(row) => pricer.tree.pathOf(row.projectId)}
          columns={columns}
          empty="No work was done in this period."
        />
      )}
    </div>
  );
}
