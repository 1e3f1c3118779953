import { useAll, useRead } from '../../data/read';
import type { Pricer } from '@half-penny/core/billing';
import type { MatchRule, UnitRate } from '@half-penny/core/model';
import { inStyle, readDecimal, showDecimal, currencyDigits } from '@half-penny/core/money';
import { useChanges } from '../../data/session';
import { Check } from '../../parts/check';
import { AddLine } from '../../parts/add-line';
import type { Option } from '../../parts/select';
import { headingOptions } from '../../parts/headings';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

/** Where lines of the bookkeeping go by themselves, and what a kilometre or a night costs. */
export function CostRules({ pricer }: { pricer: Pricer }) {
  return (
    <>
      <Rules pricer={pricer} />
      <UnitRates pricer={pricer} />
    </>
  );
}

const projectOptions = (pricer: Pricer): Option[] =>
  pricer.book.projects
    .filter((project) => !project.finished)
    .map((project): Option => [
      project.id,
      `${pricer.clientOf(project.id)?.name ?? 'Internal'} / ${pricer.tree.pathOf(project.id)}`,
    ])
    .toSorted((a, b) => a[1].localeCompare(b[1]));

function Rules({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const rows = useRead(async (reader) => (await reader.all('matchRules')).sort((a, b) => a.order - b.order), []);
  if (!rows) return null;
  const swap = (row: MatchRule, by: -1 | 1) => {
    const other = rows[rows.indexOf(row) + by];
    if (!other) return;
    void run('matchRule.edit', { id: row.id, order: other.order });
    void run('matchRule.edit', { id: other.id, order: row.order === other.order ? row.order + by : row.order });
  };
  const columns: Column<MatchRule>[] = [
    {
      key: 'words',
      head: 'Where a line says',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.words}</span>,
      edit: { text: (row) => row.words, save: (row, words) => run('matchRule.edit', { id: row.id, words }) },
    },
    {
      key: 'project',
      head: 'it belongs to',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <span className="written clamp-2">{row.projectId ? pricer.tree.pathOf(row.projectId) : 'no project'}</span>
      ),
    },
    {
      key: 'code',
      head: 'Cost code',
      width: 'minmax(0,0.7fr)',
      wideOnly: true,
      cell: (row) => pricer.costCode.get(row.costCodeId ?? '')?.name,
    },
    {
      key: 'client',
      head: 'For the client',
      width: '104px',
      align: 'center',
      cell: (row) => (
        <Check
          aria-label={`“${row.words.slice(0, 40)}” is for the client`}
          checked={row.forClient}
          save={(checked) => attempt('matchRule.edit', { id: row.id, forClient: checked })}
        />
      ),
    },
  ];
  return (
    <Section title="Matching rules">
      <Ledger
        label="Matching rules"
        rows={rows}
        rowId={(row) => row.id}
        rowName={(row) => row.words}
        columns={columns}
        keys={{ 'order.up': (row) => swap(row, -1), 'order.down': (row) => swap(row, 1) }}
        onDelete={(row) => void attempt('matchRule.remove', { id: row.id })}
        empty="No rules. A line of the bookkeeping that says “gallery” could go to the gallery by itself."
      />
      {rows.length > 1 && (
        <p className="mt-2 px-2 text-xs text-soft">The first that fits counts. Alt and an arrow move a rule.</p>
      )}
      <AddLine
        label="Add a matching rule"
        button="Add the rule"
        fields={[
          {
            key: 'words',
            label: 'Words that all stand in it',
            placeholder: 'brightwater gel',
            className: 'min-w-44 flex-1',
          },
          {
            key: 'projectId',
            label: 'Project',
            className: 'w-56',
            options: [['', 'No project'], ...projectOptions(pricer)],
          },
          { key: 'costCodeId', label: 'Cost code', className: 'w-48', options: headingOptions(pricer, null, null) },
        ]}
        add={({ words = '', projectId = '', costCodeId = '' }) =>
          run('matchRule.add', {
            words,
            projectId: projectId || null,
            costCodeId: costCodeId || null,
            forClient: projectId !== '',
            order: Math.max(0, ...rows.map((row) => row.order + 1)),
          })
        }
      />
    </Section>
  );
}

function UnitRates({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const { currency } = pricer.book.workspace;
  const rows = useAll('unitRates');
  if (!rows) return null;
  const columns: Column<UnitRate>[] = [
    {
      key: 'name',
      head: 'What',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.name}</span>,
      edit: { text: (row) => row.name, save: (row, name) => run('unitRate.edit', { id: row.id, name }) },
    },
    {
      key: 'unit',
      head: 'Unit',
      width: '90px',
      cell: (row) => row.unit,
      edit: { text: (row) => row.unit, save: (row, unit) => run('unitRate.edit', { id: row.id, unit: unit.trim() }) },
    },
    {
      key: 'price',
      head: 'Costs',
      width: '110px',
      align: 'end',
      cell: (row) => <span className="font-mono text-sm">{showDecimal(row.price, currencyDigits(row.currency))}</span>,
      edit: {
        text: (row) => inStyle(row.price),
        save: (row, typed) => run('unitRate.edit', { id: row.id, price: readDecimal(typed, 'price') }),
      },
    },
    {
      key: 'code',
      head: 'Cost code',
      width: 'minmax(0,0.7fr)',
      wideOnly: true,
      cell: (row) => pricer.costCode.get(row.costCodeId ?? '')?.name,
    },
  ];
  return (
    <Section title="Unit rates">
      <Ledger
        label="Unit rates"
        rows={rows}
        rowId={(row) => row.id}
        rowName={(row) => row.name}
        columns={columns}
        onDelete={(row) => void attempt('unitRate.remove', { id: row.id })}
        empty="No unit rates. With one, “62 mile” written as an amount is worked out for you."
      />
      <AddLine
        label="Add a unit rate"
        button="Add the unit rate"
        fields={[
          { key: 'name', label: 'What', placeholder: 'Own car', className: 'min-w-36 flex-1' },
          { key: 'unit', label: 'Unit', placeholder: 'mile', className: 'w-24' },
          { key: 'price', label: `Costs, ${currency}`, className: 'w-28', inputMode: 'decimal' },
          { key: 'costCodeId', label: 'Cost code', className: 'w-48', options: headingOptions(pricer, null, null) },
        ]}
        add={({ name = '', unit = '', price = '', costCodeId = '' }) =>
          run('unitRate.add', {
            name,
            unit: unit.trim(),
            currency,
            price: readDecimal(price, 'price'),
            costCodeId: costCodeId || null,
          })
        }
      />
    </Section>
  );
}
