import type { Pricer } from '@half-penny/core/billing';
import { Fault, type ExchangeRate } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { currencyCodes } from '@half-penny/core/money';
import { useState } from 'react';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { showShortDay } from '../../parts/days';
import { FileButton } from '../../parts/file-button';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

/** What currencies are in one another, by day; by hand or from the file of euro reference rates. */
export function ExchangeRates({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const [told, setTold] = useState<{ fault: boolean; text: string } | null>(null);
  const { workspace, clients, exchangeRates } = pricer.book;
  const wanted = new Set([workspace.currency, ...clients.map((client) => client.currency)]);
  const take = async (file: File) => {
    try {
      const { readReferenceRates } = await import('@half-penny/formats/exchange');
      const rows = readReferenceRates(new Uint8Array(await file.arrayBuffer()), file.name, wanted);
      await run('exchange.take', { rows });
      setTold({ fault: false, text: `${rows.length} rates of ${[...wanted].join(', ')} read.` });
    } catch (thrown) {
      setTold({ fault: true, text: `${wordsOf(thrown)} Nothing was imported.` });
    }
  };
  const columns: Column<ExchangeRate>[] = [
    { key: 'from', head: 'From', width: '104px', cell: (row) => showShortDay(row.from) },
    { key: 'base', head: 'One', width: '52px', cell: (row) => row.base },
    {
      key: 'rate',
      head: 'is',
      width: 'minmax(0,0.6fr)',
      align: 'end',
      cell: (row) => <span className="font-mono font-semibold text-money">{row.rate}</span>,
      edit: {
        text: (row) => row.rate,
        save: (row, text) => run('exchange.edit', { id: row.id, rate: readRate(text), source: 'by hand' }),
      },
    },
    { key: 'currency', head: 'of', width: '56px', cell: (row) => row.currency },
    {
      key: 'source',
      head: 'Where it is from',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: (row) => <span className="written clamp-2 text-sm text-soft">{row.source}</span>,
    },
  ];
  return (
    <Section
      title="Exchange rates"
      actions={
        <FileButton
          label="Euro reference rates…"
          of="File of euro reference rates"
          accept=".csv,.zip,text/csv,application/zip"
          onFile={(file) => void take(file)}
        />
      }
    >
      {told && (
        <p role={told.fault ? 'alert' : 'status'} className={`mb-2 ${told.fault ? 'text-fault' : 'text-soft'}`}>
          {told.text}
        </p>
      )}
      <Ledger
        label="Exchange rates"
        rows={exchangeRates.toSorted((a, b) => (a.from < b.from ? 1 : a.from > b.from ? -1 : 0))}
        rowId={(row) => row.id}
        rowName={(row) => `${row.currency} in ${row.base} from ${showShortDay(row.from)}`}
        columns={columns}
        onDelete={(row) => void attempt('exchange.remove', { id: row.id })}
        empty="Needed where a cost is in another currency than the client’s. A rate holds from its day until the next; the file of the European Central Bank can be imported as it is, zipped too."
      />
      <AddLine
        label="Add an exchange rate"
        button="Add the rate"
        fields={[
          { key: 'base', label: 'One', className: 'w-24', options: codes, start: 'EUR' },
          { key: 'rate', label: 'is', placeholder: '0.8544', inputMode: 'decimal', className: 'w-28' },
          {
            key: 'currency',
            label: 'of',
            className: 'w-24',
            options: codes,
            start: workspace.currency === 'EUR' ? 'GBP' : workspace.currency,
          },
          { key: 'from', label: 'From', type: 'date', start: today, className: 'w-40' },
        ]}
        add={({ base = '', rate = '', currency = '', from = '' }) =>
          run('exchange.add', { base, currency, from, rate: readRate(rate) })
        }
      />
    </Section>
  );
}

const codes = currencyCodes.map((code) => [code, code] as const);

/** A rate as typed, without superfluous zeros. */
function readRate(text: string): string {
  const match = /^(\d{1,9})(?:\.(\d{1,8}))?$/.exec(text.trim().replace(',', '.').replace(/^\./, '0.'));
  if (!match) {
    throw new Fault(
      'not-a-number',
      `“${text.slice(0, 20)}” is not an exchange rate. Write it in figures, for example 0.8544.`,
      'rate',
    );
  }
  const fraction = (match[2] ?? '').replace(/0+$/, '');
  return `${Number(match[1])}${fraction ? `.${fraction}` : ''}`;
}
