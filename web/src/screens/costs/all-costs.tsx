import type { Pricer } from '@half-penny/core/billing';
import { tagsOf, costKinds, type CostKind } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { useNavigate, useSearchParams } from 'react-router';
import type { CostRow, CostStanding } from '../../data/costs';
import { useToday } from '../../data/queries';
import { useKeepReceipts } from '../../data/receipts';
import { useWorthSeen } from '../../data/worth-seen';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { inputLook } from '../../parts/field';
import { Select, type Option } from '../../parts/select';
import { Ledger } from '../../parts/ledger';
import { DropFiles } from '../../parts/drop-files';
import { ReceiptFaults } from '../../parts/receipts';
import { Tallies } from '../../parts/tallies';
import { costColumns, kindNames } from './cost-columns';
import { CheckBox } from '../../parts/check';

const standings: readonly CostStanding[] = [
  'to place',
  'to bill',
  'on a draft',
  'part billed',
  'billed',
  'by estimate',
  'internal',
];

/** Every line of every cost, latest first, narrowed by kind, standing and words. Receipts dropped here begin an expense. */
export function AllCosts({ pricer, rows }: { pricer: Pricer; rows: readonly CostRow[] }) {
  const navigate = useNavigate();
  const today = useToday();
  const { attempt } = useChanges();
  const keeping = useKeepReceipts();
  const seen = useWorthSeen(pricer);
  const [params, setParams] = useSearchParams();
  const value = (field: string) => params.get(field) ?? '';
  const set = (field: string, text: string) =>
    setParams(
      (now) => {
        if (text) now.set(field, text);
        else now.delete(field);
        return now;
      },
      { replace: true },
    );
  const words = value('find').toLowerCase().split(/\s+/).filter(Boolean);
  const shown = rows.filter(
    (row) =>
      (!value('kind') || row.cost.kind === value('kind')) &&
      (!value('standing') || row.standing === value('standing')) &&
      (!value('owed') || isOwedBack(row)) &&
      words.every((word) => wordsOf(pricer, row).includes(word)),
  );
  const owed = rows.filter(isOwedBack);
  const choice = (field: string, label: string, options: readonly Option[]) => (
    <Select
      name={label}
      className="w-auto!"
      value={value(field)}
      onPick={(picked) => set(field, picked)}
      options={options}
    />
  );
  const drop = async (files: File[]) => {
    const ids = await keeping.keep(files, []);
    if (ids.length > 0) void navigate(`/costs/new/expense?receipts=${ids.join(',')}`);
  };
  return (
    <DropFiles onFiles={(files) => void drop(files)}>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <input
          type="search"
          aria-label="Find a cost"
          placeholder="Supplier, text or project…"
          className={`${inputLook} w-60!`}
          value={value('find')}
          onChange={(event) => set('find', event.target.value)}
        />
        {choice('kind', 'Kind', [
          ['', 'All kinds'],
          ...costKinds.map((kind: CostKind): Option => [kind, kindNames[kind]]),
        ])}
        {choice('standing', 'Standing', [['', 'All standings'], ...standings.map((each): Option => [each, each])])}
        {owed.length > 0 && (
          <label className="flex items-center gap-2 text-sm">
            <CheckBox checked={value('owed') !== ''} onChange={(checked) => set('owed', checked ? '1' : '')} />
            Owed back
          </label>
        )}
        {value('owed') && (
          <Button
            kind="quiet"
            onClick={() =>
              void attempt('cost.payBack', {
                ids: [...new Set(shown.map((row) => row.cost.id))],
                day: today,
              })
            }
          >
            Paid back today
          </Button>
        )}
      </div>
      <ReceiptFaults faults={keeping.faults} />
      {keeping.waiting > 0 && (
        <p role="status" className="pb-2 text-sm text-soft">
          Reading the receipts…
        </p>
      )}
      <Ledger
        label="Costs"
        rows={shown}
        rowId={(row) => row.id}
        rowName={(row) => `${row.line.text || row.cost.supplier}, ${showAmount(row.net, row.cost.currency)}`}
        columns={costColumns(
          pricer,
          seen,
          <Tallies
            of="the costs shown"
            home={pricer.book.workspace.currency}
            parts={shown.map((row) => ({
              label: row.line.text || row.cost.supplier,
              amount: row.net,
              currency: row.cost.currency,
            }))}
          />,
        )}
        marked={(row) => row.cost.since !== null}
        onOpen={(row) => void navigate(`/costs/cost/${row.cost.id}`)}
        onDelete={(row) => void attempt('cost.remove', { ids: [row.cost.id] })}
        footLabel="Total"
        empty={
          rows.length > 0
            ? 'Nothing matches.'
            : 'Nothing was bought yet. Drop a receipt here, or write an expense or a supplier’s bill down; what is for a client appears under Billing.'
        }
      />
    </DropFiles>
  );
}

const isOwedBack = ({ cost, due }: CostRow): boolean => cost.owedBack && due !== null;

const wordsOf = (pricer: Pricer, { cost, line }: CostRow): string =>
  [
    cost.supplier,
    cost.reference,
    line.text,
    line.unlisted,
    line.projectId && pricer.tree.pathOf(line.projectId),
    ...tagsOf(cost),
  ]
    .join(' ')
    .toLowerCase();
