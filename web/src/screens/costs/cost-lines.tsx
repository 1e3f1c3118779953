import { useAll, useRead } from '../../data/read';
import { explainCharge, type Pricer } from '@half-penny/core/billing';
import { lineAmounts } from '@half-penny/core/costs';
import type { Cost, CostLine, Id } from '@half-penny/core/model';
import { bareAmount, inStyle, plainAmount, sumExact } from '@half-penny/core/money';
import { useChanges } from '../../data/session';
import { Check } from '../../parts/check';
import { AddLine } from '../../parts/add-line';
import { Select, type Option } from '../../parts/select';
import { useWorthSeen } from '../../data/worth-seen';
import { Worth } from '../../parts/figures';
import { headingOptions } from '../../parts/headings';
import { JobPicker } from '../../parts/job-picker';
import { Ledger, type Column } from '../../parts/ledger';
import { chargeOf } from './cost-columns';
import { readWritten } from './read-amount';

/** The lines of a cost, written in place: what, how much, for which project and heading, and what the client pays. */
export function CostLines({ pricer, cost, lines }: { pricer: Pricer; cost: Cost; lines: CostLine[] }) {
  const seen = useWorthSeen(pricer);
  const { run, attempt } = useChanges();
  const rates = useAll('unitRates') ?? [];
  const draws = useDraws(lines);
  const tax = cost.taxId === null ? undefined : pricer.tax.get(cost.taxId);
  const amountsOf = (line: CostLine) => lineAmounts(line, cost, tax, pricer.book.workspace.amountRounding);
  const fieldsOf = ({ costId: _, ...line }: CostLine) => line;
  const change = (line: CostLine, fields: Partial<CostLine>) =>
    run('cost.edit', {
      id: cost.id,
      lines: lines.map((each) => fieldsOf(each.id === line.id ? { ...each, ...fields } : each)),
    });
  const written = (typed: string) => {
    const { rate: _, ...amounts } = readWritten(typed, cost.currency, rates);
    return amounts;
  };
  const sum = sumExact(lines.map((line) => amountsOf(line).net));
  const columns: Column<CostLine>[] = [
    {
      key: 'text',
      head: 'What',
      width: 'minmax(0,1fr)',
      cell: (line) => (
        <span className="written clamp-2">{line.text || <span className="text-soft">No text</span>}</span>
      ),
      edit: { text: (line) => line.text, save: (line, text) => change(line, { text }) },
    },
    {
      key: 'job',
      head: 'Job',
      width: 'minmax(0,1fr)',
      cell: (line) => (
        <JobPicker
          pricer={pricer}
          value={{ projectId: line.projectId, unlisted: line.unlisted, taskId: null }}
          label="Job"
          none="Choose a job"
          onPick={(job) =>
            void attempt('cost.place', {
              lineIds: [line.id],
              projectId: job.projectId,
              unlisted: job.projectId ? '' : job.unlisted,
            })
          }
        />
      ),
    },
    {
      key: 'code',
      head: 'Cost code',
      width: 'minmax(0,0.8fr)',
      cell: (line) => (
        <>
          <Select
            name={`Cost code of ${line.text.slice(0, 40) || 'the line'}`}
            className="-my-1"
            value={line.costCodeId ?? ''}
            onPick={(picked) => void attempt('cost.place', { lineIds: [line.id], costCodeId: picked || null })}
            options={headingOptions(pricer, line.projectId, line.costCodeId)}
          />
          {draws(line).length > 1 && (
            <Select
              name={`What ${line.text.slice(0, 40) || 'the line'} draws on`}
              className="mt-2 text-xs!"
              value={line.orderId ?? line.agreedId ?? ''}
              onPick={(picked) => void change(line, drawnOn(draws(line), picked)).catch(() => undefined)}
              options={draws(line).map(({ id, name }): Option => [id, name])}
            />
          )}
        </>
      ),
    },
    {
      key: 'client',
      head: 'Client’s',
      width: '64px',
      align: 'center',
      cell: (line) => (
        <Check
          aria-label={`${line.text.slice(0, 40) || 'The line'} is for the client`}
          checked={line.forClient}
          save={(checked) => attempt('cost.place', { lineIds: [line.id], forClient: checked })}
        />
      ),
    },
    {
      key: 'cost',
      head: 'Net',
      width: '104px',
      align: 'end',
      cell: (line) => (
        <>
          <span className="font-mono text-sm">{bareAmount(amountsOf(line).net, cost.currency)}</span>
          {line.price !== null && (
            <span className="block font-mono text-xs text-soft">
              {inStyle(line.quantity)} {line.unit} × {inStyle(line.price)}
            </span>
          )}
        </>
      ),
      edit: {
        text: (line) =>
          line.price === null
            ? inStyle(plainAmount(line.amount!, cost.currency))
            : `${line.quantity} ${line.unit} x ${line.price}`.replace('  ', ' '),
        save: (line, typed) => change(line, written(typed)),
      },
      foot: <span className="font-mono text-sm">{bareAmount(sum, cost.currency)}</span>,
    },
    {
      key: 'price',
      head: 'Price',
      width: '100px',
      align: 'end',
      wideOnly: true,
      cell: (line) => {
        const charge =
          line.forClient && seen.on(line.projectId)
            ? chargeOf(pricer, { cost, line, amount: amountsOf(line).cost })
            : null;
        return (
          charge && (
            <Worth
              amount={charge.amount}
              currency={charge.currency}
              of={line.text || cost.supplier}
              working={() => explainCharge(pricer, charge)}
            />
          )
        );
      },
    },
  ];
  const last = lines.at(-1);
  return (
    <>
      <Ledger
        label="Lines of the cost"
        rows={lines}
        rowId={(line) => line.id}
        rowName={(line) => line.text || cost.supplier}
        columns={columns}
        onDelete={(line) =>
          void attempt('cost.edit', { id: cost.id, lines: lines.filter((each) => each.id !== line.id).map(fieldsOf) })
        }
        footLabel="Total"
        empty="A cost has at least one line."
      />
      <AddLine
        label="Add a line"
        button="Add the line"
        fields={[
          { key: 'text', label: 'Another line', className: 'min-w-44 flex-1' },
          { key: 'amount', label: `Amount, ${cost.currency}`, placeholder: '12.40', className: 'w-36' },
        ]}
        add={async ({ text = '', amount = '' }) =>
          run('cost.edit', {
            id: cost.id,
            lines: [
              ...lines.map(fieldsOf),
              {
                text,
                ...written(amount),
                projectId: last?.projectId ?? null,
                unlisted: last?.unlisted ?? '',
                costCodeId: last?.costCodeId ?? null,
                forClient: last?.forClient ?? true,
              },
            ],
          })
        }
      />
    </>
  );
}

interface Draw {
  id: Id | '';
  name: string;
  field: 'orderId' | 'agreedId' | null;
}

/** Orders and allowances that a line can draw on: those of its project. */
function useDraws(lines: readonly CostLine[]): (line: CostLine) => Draw[] {
  const key = [...new Set(lines.map((line) => line.projectId).filter((id) => id !== null))].join();
  const found = useRead(
    async (reader) => {
      const ids = key ? key.split(',') : [];
      return {
        orders: await reader.by('orders', 'projectId', ids),
        agreed: await reader.by('agreed', 'projectId', ids),
      };
    },
    [key],
  );
  return (line) => [
    { id: '', name: 'no order or allowance', field: null },
    ...(found?.orders ?? [])
      .filter((row) => row.projectId === line.projectId && (!row.closed || row.id === line.orderId))
      .map((row): Draw => ({ id: row.id, name: `order ${row.number || row.supplier}`, field: 'orderId' })),
    ...(found?.agreed ?? [])
      .filter((row) => row.projectId === line.projectId && row.kind === 'allowance')
      .map((row): Draw => ({ id: row.id, name: `allowance: ${row.text.slice(0, 40)}`, field: 'agreedId' })),
  ];
}

function drawnOn(draws: readonly Draw[], id: string): Pick<CostLine, 'orderId' | 'agreedId'> {
  const draw = draws.find((each) => each.id === id);
  return { orderId: draw?.field === 'orderId' ? id : null, agreedId: draw?.field === 'agreedId' ? id : null };
}
