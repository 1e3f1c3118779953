import type { Pricer } from '@half-penny/core/billing';
import { costTypes, type CostCode, type CostType } from '@half-penny/core/model';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

/** Budget headings that services and costs fall under. */
export function CostCodes({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const servicesOf = (code: CostCode) =>
    pricer.book.services.filter((service) => service.costCodeId === code.id).map((service) => service.name);
  const columns: Column<CostCode>[] = [
    {
      key: 'code',
      head: 'Code',
      width: '80px',
      cell: (row) => <span className="font-mono text-sm">{row.code}</span>,
      edit: { text: (row) => row.code, save: (row, code) => run('costCode.edit', { id: row.id, code }) },
    },
    {
      key: 'name',
      head: 'Cost code',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.name}</span>,
      edit: { text: (row) => row.name, save: (row, name) => run('costCode.edit', { id: row.id, name }) },
    },
    { key: 'type', head: 'Cost type', width: '120px', cell: (row) => row.costType },
    {
      key: 'services',
      head: 'Services under it',
      width: 'minmax(0,1.2fr)',
      wideOnly: true,
      cell: (row) => <span className="written clamp-2 text-sm text-soft">{servicesOf(row).join(', ') || '–'}</span>,
    },
  ];
  return (
    <Section title="Cost codes">
      <Ledger
        label="Cost codes"
        rows={pricer.book.costCodes.toSorted((a, b) => a.code.localeCompare(b.code, 'en', { numeric: true }))}
        rowId={(row) => row.id}
        rowName={(row) => `${row.code} ${row.name}`}
        columns={columns}
        onDelete={(row) => void attempt('costCode.remove', { id: row.id })}
        empty="A cost code is a heading of budgets, such as Design or Hired equipment; its cost type decides which markup it bears."
      />
      <AddLine
        label="Add a cost code"
        button="Add the cost code"
        fields={[
          { key: 'code', label: 'Code', placeholder: '30', className: 'w-24' },
          { key: 'name', label: 'New cost code', className: 'w-64' },
          {
            key: 'costType',
            label: 'Cost type',
            className: 'w-40',
            options: costTypes.map((type) => [type, type] as const),
            start: 'labour',
          },
        ]}
        add={({ code = '', name = '', costType }) =>
          run('costCode.add', { code, name, costType: costType as CostType })
        }
      />
    </Section>
  );
}
