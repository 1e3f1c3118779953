import { useAll } from '../../data/read';
import type { Pricer } from '@half-penny/core/billing';
import { showAmount } from '@half-penny/core/money';
import { useNavigate } from 'react-router';
import type { Receipt } from '@half-penny/core/model';
import type { CostRow } from '../../data/costs';
import { useKeepReceipts } from '../../data/receipts';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay, showShortestDay } from '../../parts/days';
import { FileButton } from '../../parts/file-button';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { DropFiles } from '../../parts/drop-files';
import { RECEIPT_TYPES, ReceiptFaults } from '../../parts/receipts';

/** Costs whose receipt is missing, and receipts that serve no cost yet. */
export function MissingReceipts({ pricer, rows }: { pricer: Pricer; rows: readonly CostRow[] }) {
  const keeping = useKeepReceipts();
  const navigate = useNavigate();
  const { attempt } = useChanges();
  const receipts = useAll('receipts');
  const used = new Set(rows.flatMap((row) => row.cost.receiptIds));
  const loose = (receipts ?? []).filter((receipt) => !used.has(receipt.id));
  const missing = rows.filter(
    (row, index) => row.needsReceipt && rows.findIndex((each) => each.cost.id === row.cost.id) === index,
  );
  const columns: Column<CostRow>[] = [
    { key: 'day', head: 'Day', width: '64px', cell: ({ cost }) => showShortestDay(cost.day) },
    {
      key: 'what',
      head: 'What',
      width: 'minmax(0,1fr)',
      cell: ({ cost, line }) => (
        <>
          <span className="written clamp-2">{line.text || cost.supplier}</span>
          <span className="block text-xs text-soft">
            {[line.text && cost.supplier, pricer.member.get(cost.memberId ?? '')?.name].filter(Boolean).join(' · ')}
          </span>
        </>
      ),
    },
    {
      key: 'amount',
      head: 'Cost',
      width: '100px',
      align: 'end',
      cell: ({ net, cost }) => <span className="font-mono text-sm">{showAmount(net, cost.currency)}</span>,
    },
    {
      key: 'add',
      head: 'Receipt',
      quietHead: true,
      width: '150px',
      align: 'end',
      cell: ({ cost, line }) => (
        <FileButton
          label="Add it"
          of={`Add the receipt of ${line.text || cost.supplier}`}
          accept={RECEIPT_TYPES}
          onFile={(file) => void keeping.keep([file], [cost.id])}
        />
      ),
    },
  ];
  const looseColumns: Column<Receipt>[] = [
    {
      key: 'picture',
      head: 'Picture',
      quietHead: true,
      width: '64px',
      cell: (row) =>
        row.preview ? (
          <img src={`data:image/jpeg;base64,${row.preview}`} alt="" className="max-h-10" />
        ) : (
          <span className="text-xs text-soft">PDF</span>
        ),
    },
    {
      key: 'name',
      head: 'Receipt',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.name}</span>,
    },
    {
      key: 'added',
      head: 'Added',
      width: '120px',
      wideOnly: true,
      cell: (row) => showShortDay(new Date(row.addedAt).toISOString().slice(0, 10)),
    },
    {
      key: 'use',
      head: 'Use',
      quietHead: true,
      width: '150px',
      align: 'end',
      cell: (row) => (
        <Button kind="quiet" onClick={() => void navigate(`/costs/new/expense?receipts=${row.id}`)}>
          Make an expense of it
        </Button>
      ),
    },
  ];
  const { receiptOver, currency } = pricer.book.workspace;
  return (
    <DropFiles onFiles={(files) => void keeping.keep(files, [])}>
      <ReceiptFaults faults={keeping.faults} />
      <Section title="Without a receipt">
        <Ledger
          label="Costs without a receipt"
          rows={missing}
          rowId={(row) => row.cost.id}
          rowName={(row) => row.line.text || row.cost.supplier}
          columns={columns}
          onOpen={(row) => void navigate(`/costs/cost/${row.cost.id}`)}
          empty={
            receiptOver === null
              ? 'No receipts are asked for. Set the amount above which a cost needs one in Setup → Bookkeeping.'
              : `Every expense and ledger line of more than ${showAmount(receiptOver, currency)} has its receipt.`
          }
        />
      </Section>
      <Section
        title="Receipts that serve no cost yet"
        actions={
          <FileButton label="Add a receipt" accept={RECEIPT_TYPES} onFile={(file) => void keeping.keep([file], [])} />
        }
      >
        <Ledger
          label="Receipts that serve no cost yet"
          rows={loose}
          rowId={(row) => row.id}
          rowName={(row) => row.name}
          columns={looseColumns}
          onDelete={(row) => void attempt('receipt.remove', { id: row.id })}
          empty="None. Drop pictures or PDFs here to keep them until you write the cost down."
        />
      </Section>
    </DropFiles>
  );
}
