import {
  guessLedgerMapping,
  ledgerFields,
  mapLedger,
  readCamt053,
  readOfx,
  type LedgerFault,
  type LedgerField,
  type LedgerMapping,
  type Statement,
} from '@half-penny/formats/ledger';
import { readTable, type Table } from '@half-penny/formats/hours';
import { useState } from 'react';
import { wordsOf } from '../data/in-words';
import { ColumnFields } from './column-fields';
import { FileButton } from './file-button';
import { Section } from './page';
import { SelectField } from './select';

const fieldNames: Record<LedgerField, string> = {
  day: 'Day',
  supplier: 'Who paid or was paid',
  text: 'What it says',
  reference: 'Reference',
  amount: 'Amount',
  out: 'Money out',
  in: 'Money in',
  currency: 'Currency',
  id: 'Its number',
};

interface ReadFile {
  name: string;
  /** Of OFX and camt.053, which need no mapping. */
  bytes: Uint8Array | null;
  table: Table | null;
  mapping: LedgerMapping | null;
}

export interface StatementFile {
  file: ReadFile | null;
  setFile: (file: ReadFile | null) => void;
  open: (file: File) => Promise<void>;
  fault: string | undefined;
  setFault: (fault: string | undefined) => void;
  /** What the file becomes as it is mapped. */
  read: (incoming: boolean) => (Statement & { faults: LedgerFault[] }) | null;
}

/** A statement of a bank account as it is being read: CSV or XLSX with mapping, OFX 2 or camt.053. */
export function useStatement(currency: string, wanted: 'spent' | 'came in' = 'spent'): StatementFile {
  const [file, setFile] = useState<ReadFile | null>(null);
  const [fault, setFault] = useState<string>();
  const open = async (chosen: File) => {
    setFault(undefined);
    setFile(null);
    try {
      const bytes = new Uint8Array(await chosen.arrayBuffer());
      if (isXml(bytes)) {
        const read = { name: chosen.name, bytes, table: null, mapping: null };
        statementOf(read, false);
        setFile(read);
      } else {
        const table = await readTable(chosen);
        setFile({ name: chosen.name, bytes: null, table, mapping: guessLedgerMapping(table, currency, wanted) });
      }
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  return { file, setFile, open, fault, setFault, read: (incoming) => file && statementOf(file, incoming) };
}

const isXml = (bytes: Uint8Array): boolean => {
  const head = new TextDecoder('latin1')
    .decode(bytes.subarray(0, 400))
    .replace(/^\ufeff|^\u00ef\u00bb\u00bf/, '')
    .trimStart();
  return head.startsWith('<') || /^OFXHEADER/i.test(head);
};

/** What a file becomes; a statement that cannot be read throws. */
function statementOf({ name, bytes, table, mapping }: ReadFile, incoming: boolean) {
  if (table && mapping) return mapLedger(table, mapping, { incoming });
  const head = new TextDecoder('latin1').decode(bytes!.subarray(0, 2000));
  const reading = /OFX/i.test(head) ? readOfx(bytes!, name, { incoming }) : readCamt053(bytes!, name, { incoming });
  return { ...reading, faults: [] };
}

/** The button that chooses a statement, and what is wrong with the one that was chosen. */
export function StatementButton({
  statement,
  kind = 'main',
  label = 'Choose a file',
}: {
  statement: StatementFile;
  kind?: 'main' | 'plain';
  label?: string;
}) {
  return (
    <>
      <FileButton
        kind={kind}
        label={label}
        accept=".csv,.tsv,.txt,.xlsx,.ofx,.xml"
        onFile={(file) => void statement.open(file)}
      />
      {statement.fault && (
        <p role="alert" className="mt-3 text-fault">
          {statement.fault}
        </p>
      )}
    </>
  );
}

/** What the columns of a table mean, where the file is one. */
export function StatementColumns({ statement: { file, setFile } }: { statement: StatementFile }) {
  if (!file?.table || !file.mapping) return null;
  const { table, mapping } = file;
  const change = (changed: Partial<LedgerMapping>) => setFile({ ...file, mapping: { ...mapping, ...changed } });
  return (
    <Section title="What the columns mean">
      <div className="grid gap-3 md:grid-cols-4">
        <ColumnFields
          fields={ledgerFields}
          names={fieldNames}
          table={table}
          columns={mapping.columns}
          onChange={(columns) => change({ columns })}
        />
      </div>
      <div className="mt-3 flex flex-wrap gap-4">
        <SelectField
          label="Days are written"
          value={mapping.dayOrder}
          options={[
            ['day first', '3/12 is 3 December'],
            ['month first', '3/12 is 12 March'],
          ]}
          onPick={(picked) => change({ dayOrder: picked as LedgerMapping['dayOrder'] })}
        />
        <SelectField
          label="Money that was spent"
          value={mapping.spentNegative ? 'negative' : 'positive'}
          options={[
            ['negative', 'stands with a minus'],
            ['positive', 'stands without one'],
          ]}
          onPick={(picked) => change({ spentNegative: picked === 'negative' })}
        />
      </div>
    </Section>
  );
}

/** The rows that cannot be read; none is taken while there are any. */
export function StatementFaults({ faults }: { faults: readonly LedgerFault[] }) {
  if (faults.length === 0) return null;
  return (
    <div role="alert" className="mb-3 text-fault">
      <ul>
        {faults.slice(0, 8).map((each) => (
          <li key={`${each.row} ${each.message}`}>{each.message}</li>
        ))}
      </ul>
    </div>
  );
}
