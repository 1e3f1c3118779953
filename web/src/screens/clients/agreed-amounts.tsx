import { isDue, type ChargeRows, type Pricer } from '@half-penny/core/billing';
import { allowanceUsed, tallyCurrency } from '@half-penny/core/costing';
import { agreedKinds, type Agreed, type AgreedKind, type Milestone, type Project } from '@half-penny/core/model';
import { bareAmount, lessExact, readAmount, showAmount } from '@half-penny/core/money';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Check } from '../../parts/check';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import type { Option } from '../../parts/select';
import { costOfLine } from './cost-of-line';

interface AgreedAmountsProps {
  pricer: Pricer;
  project: Project;
  rows: ChargeRows;
}

const kindWords: Record<AgreedKind, string> = {
  estimate: 'estimate',
  allowance: 'allowance',
  extra: 'extra',
  fixed: 'fixed amount',
};

/** Estimates, allowances, extras and parts of a fixed price: what was agreed in figures. */
export function AgreedAmounts({ pricer, project, rows }: AgreedAmountsProps) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const currency = tallyCurrency(pricer, project.id);
  const own = rows.agreed.filter((row) => row.projectId === project.id);
  const milestones = new Map(rows.milestones.map((row) => [row.id, row]));
  const columns: Column<Agreed>[] = [
    { key: 'kind', head: 'What', width: '104px', cell: (row) => kindWords[row.kind] },
    {
      key: 'text',
      head: 'For',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <>
          <span className="written clamp-2">{row.text}</span>
          <span className="block text-xs text-soft">{underOf(pricer, row, milestones, rows)}</span>
        </>
      ),
      edit: { text: (row) => row.text, save: (row, text) => run('agreed.edit', { id: row.id, text }) },
    },
    {
      key: 'by',
      head: 'Agreed with',
      width: 'minmax(0,0.6fr)',
      wideOnly: true,
      cell: (row) =>
        row.kind === 'extra' && (
          <span className="written clamp-2 text-sm">{row.agreedBy || <span className="text-soft">–</span>}</span>
        ),
      edit: {
        text: (row) => row.agreedBy,
        save: (row, agreedBy) => run('agreed.edit', { id: row.id, agreedBy }),
        when: (row) => row.kind === 'extra',
      },
    },
    {
      key: 'standing',
      head: 'Standing',
      width: '150px',
      cell: (row) => (
        <label className="flex items-center gap-2 text-sm">
          {(row.kind === 'extra' || row.kind === 'estimate') && (
            <Check
              aria-label={
                row.kind === 'extra'
                  ? `${row.text.slice(0, 40)} is agreed`
                  : `${row.text.slice(0, 40)} is billed itself`
              }
              checked={row.kind === 'extra' ? row.agreedOn !== null : row.billed}
              save={(checked) =>
                attempt(
                  'agreed.edit',
                  row.kind === 'extra'
                    ? { id: row.id, agreedOn: checked ? today : null }
                    : { id: row.id, billed: checked },
                )
              }
            />
          )}
          {standingOf(row, milestones)}
        </label>
      ),
    },
    {
      key: 'amount',
      head: 'Amount',
      width: '110px',
      align: 'end',
      cell: (row) => (
        <span className="font-mono text-sm font-semibold text-money">{showAmount(row.amount, currency)}</span>
      ),
      edit: {
        text: (row) => bareAmount(row.amount, currency),
        save: (row, typed) => run('agreed.edit', { id: row.id, amount: readAmount(typed, currency) }),
      },
    },
  ];
  const codes = pricer.book.costCodes.map((code): Option => [code.id, `${code.code} ${code.name}`]);
  const kinds = agreedKinds.filter((kind) => kind !== 'fixed' || project.kind === 'fixed price');
  return (
    <Section title="Agreed amounts">
      <Ledger
        label="Agreed amounts"
        rows={own}
        rowId={(row) => row.id}
        rowName={(row) => row.text}
        columns={columns}
        onDelete={(row) => void attempt('agreed.remove', { id: row.id })}
        empty="Nothing is agreed in figures. Estimates by cost code, allowances for what the client chooses later, extras, and parts of a fixed price stand here."
      />
      <AddLine
        label="Add an agreed amount"
        button="Add it"
        fields={[
          {
            key: 'kind',
            label: 'What',
            className: 'w-36',
            options: kinds.map((kind) => [kind, kindWords[kind]] as const),
            start: kinds[0]!,
          },
          { key: 'text', label: 'For', className: 'min-w-44 flex-1' },
          { key: 'amount', label: `Amount, ${currency}`, inputMode: 'decimal', className: 'w-32' },
          { key: 'costCodeId', label: 'Cost code', className: 'w-44', options: [['', 'No cost code'], ...codes] },
          {
            key: 'milestoneId',
            label: 'To bill when reached',
            className: 'w-44',
            options: [
              ['', 'at once'],
              ...[...milestones.values()]
                .filter((row) => row.projectId === project.id)
                .map((row): Option => [row.id, row.name]),
            ],
          },
        ]}
        add={({ kind, text = '', amount = '', costCodeId = '', milestoneId = '' }) =>
          run('agreed.add', {
            projectId: project.id,
            kind: kind as AgreedKind,
            text,
            amount: readAmount(amount, currency),
            costCodeId: costCodeId || null,
            milestoneId: kind === 'fixed' ? milestoneId || null : null,
          })
        }
      />
    </Section>
  );
}

function standingOf(row: Agreed, milestones: ReadonlyMap<string, Milestone>): string {
  if (row.kind === 'extra') return row.agreedOn ? `agreed ${showShortDay(row.agreedOn)}` : 'not agreed yet';
  if (row.kind === 'estimate') return row.billed ? 'billed itself' : 'actual costs are billed';
  if (row.kind === 'allowance') return 'set aside';
  return isDue(row, milestones) ? 'to bill' : 'when reached';
}

function underOf(pricer: Pricer, row: Agreed, milestones: ReadonlyMap<string, Milestone>, rows: ChargeRows): string {
  const code = pricer.costCode.get(row.costCodeId ?? '')?.name ?? '';
  const milestone = row.milestoneId ? (milestones.get(row.milestoneId)?.name ?? '') : '';
  if (row.kind !== 'allowance') return [code, milestone].filter(Boolean).join(' · ');
  const costOf = (id: string) =>
    costOfLine(
      pricer,
      rows,
      rows.costLines.find((line) => line.id === id)!,
    );
  const used = allowanceUsed(rows, row.id, costOf);
  const currency = tallyCurrency(pricer, row.projectId);
  const choice =
    used === 0
      ? 'nothing chosen yet'
      : `what was chosen cost ${showAmount(used, currency)}, ${showAmount(Math.abs(lessExact(row.amount, used)), currency)} ${used > row.amount ? 'more' : 'less'}`;
  return [code, choice].filter(Boolean).join(' · ');
}
