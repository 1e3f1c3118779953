import { Fault } from '../faults/fault';
import type { Rows, TableName } from './tables';

/**
 * The version of the records. Raised together with a migration below whenever a stored shape changes; both the browser's database
 * and workspace files of older versions are brought forward by the same steps.
 */
export const SCHEMA_VERSION = 13;

type RawRow = Record<string, unknown>;

/**
 * Brings one row from `from` to the next version. A row that is of the next version already stays as it is: images of rows in the
 * history say nothing of their version, so every step is tried on them.
 */
export interface Migration {
  from: number;
  /** The only tables whose rows it changes; all where not given. */
  tables?: readonly (TableName | 'journal')[];
  row(table: TableName | 'journal', row: RawRow): RawRow;
}

/** What each version of the records changed, from the first on: a row of an old file or database is brought up step by step. */
export const migrations: readonly Migration[] = [
  // Kept reports came; no row of version 1 changed.
  { from: 1, tables: [], row: (_table, row) => row },
  // Tags came; a row without any is as it was.
  { from: 2, tables: [], row: (_table, row) => row },
  // What documents were open for, and weighted time, got names of their own. Taxes have categories, invoices a rounding amount, a day on
  // which retention falls due and prices grossed up; what stands on an issued line keeps its billed length.
  {
    from: 3,
    tables: ['workspace', 'reports', 'taxes', 'invoices', 'allocations'],
    row: (table, row) => {
      if (table === 'workspace') return renamed(row, 'purposes', 'openedFor');
      if (table === 'reports') return { ...row, definition: currentDefinition(row.definition as RawRow) };
      if (table === 'taxes') return 'category' in row ? row : { ...row, category: categoryOf(row) };
      if (table === 'allocations') return { billed: null, ...row };
      if (table === 'invoices') return currentInvoice(row);
      return row;
    },
  },
  // Invoices say more: company number, accounts by currency, tax point, tax in the studio's own currency; the bookkeeping has its own names
  // for clients and taxes, and accounts for what is bought.
  {
    from: 4,
    tables: ['workspace', 'clients', 'taxes', 'invoices'],
    row: (table, row) => {
      if (table === 'workspace')
        return {
          companyNumber: '',
          registeredOffice: '',
          bankAccounts: [],
          ...row,
          accounts: {
            purchases: '5000',
            inputTax: '2201',
            payables: '2100',
            members: '2120',
            ...(row.accounts as RawRow),
          },
        };
      if (table === 'clients' || table === 'taxes') return { code: '', ...row };
      return table === 'invoices' ? withTaxPoint(row) : row;
    },
  },
  // Money in came; charges and exchange have accounts.
  {
    from: 5,
    tables: ['workspace'],
    row: (table, row) =>
      table === 'workspace'
        ? { ...row, accounts: { charges: '7900', exchange: '7950', ...(row.accounts as RawRow) } }
        : row,
  },
  // Pages for clients and invoices of money asked for ahead came; no row of version 6 says anything of them.
  { from: 6, tables: [], row: (_table, row) => row },
  // Payees and payments to them came; no row of version 7 says anything of them.
  { from: 7, tables: [], row: (_table, row) => row },
  // Checking came: timesheets, corrections, closings, approvals; no row of version 8 says anything of them.
  { from: 8, tables: [], row: (_table, row) => row },
  // Sets of rights came; a member of version 9 has none, and so all rights.
  { from: 9, tables: [], row: (_table, row) => row },
  // Keys and sealed files came; no row of version 10 says anything of them.
  { from: 10, tables: [], row: (_table, row) => row },
  // Lists from elsewhere came; no row of version 11 says anything of them.
  { from: 11, tables: [], row: (_table, row) => row },
  // Devices that share a workspace came; nothing else changed.
  { from: 12, tables: [], row: (_table, row) => row },
];

/** What was issued before said nothing of a tax point, of an account beside the payment details, or of another currency. */
function withTaxPoint(row: RawRow): RawRow {
  const frozen = row.frozen as RawRow | null;
  return {
    taxPoint: null,
    ...row,
    frozen: frozen && {
      taxPoint: null,
      home: null,
      ...frozen,
      studio: { companyNumber: '', registeredOffice: '', account: null, ...(frozen.studio as RawRow) },
      taxes: (frozen.taxes as RawRow[]).map((tax) => ({ home: null, ...tax })),
    },
  };
}

function categoryOf({ percent, reverseCharge, note }: RawRow): string {
  if (reverseCharge) return /outside the scope/i.test(String(note)) ? 'O' : 'AE';
  return Number(percent) === 0 ? 'Z' : 'S';
}

/** An invoice with the fields that came later, each saying nothing: what was issued means what it meant. */
function currentInvoice(row: RawRow): RawRow {
  const byHand = (row.byHand as RawRow[]).map((line) => ({ projectId: null, ...line }));
  const frozen = row.frozen as RawRow | null;
  return {
    grossedUp: false,
    retentionDue: null,
    ...row,
    byHand,
    frozen: frozen && {
      rounding: 0,
      amountRounding: null,
      ...frozen,
      lines: (frozen.lines as RawRow[]).map((line) => ({ costPrice: null, ...line })),
      taxes: (frozen.taxes as RawRow[]).map((tax) => ({ category: null, allowance: null, ...tax })),
      credits: frozen.credits && { day: null, ...(frozen.credits as RawRow) },
      deductions: (frozen.deductions as RawRow[]).map((each) => ({ dueDay: null, ...each })),
    },
  };
}

function renamed(row: RawRow, from: string, to: string): RawRow {
  if (!(from in row)) return row;
  const { [from]: value, ...rest } = row;
  return { ...rest, [to]: value };
}

const reportWords: Readonly<Record<string, string>> = { purpose: 'opened for', 'well spent': 'weighted share' };

/** A report's definition with the names that fields and measures have now; reports kept as files and addresses say no version. */
export function currentDefinition(definition: RawRow): RawRow {
  const word = (value: unknown): unknown => {
    if (typeof value === 'string') return Object.hasOwn(reportWords, value) ? reportWords[value] : value;
    if (Array.isArray(value)) return value.map(word);
    if (value !== null && typeof value === 'object' && 'field' in value) return { ...value, field: word(value.field) };
    return value;
  };
  const named = ['rows', 'columns', 'measures', 'sortBy', 'filters'];
  return Object.fromEntries(
    Object.entries(definition).map(([key, value]) => [key, named.includes(key) ? word(value) : value]),
  );
}

/** The image of a row in the history, in the shape that rows have now. */
export function currentImage<T extends TableName>(table: T, image: RawRow | null): Rows[T] | null {
  return image && (migrateRow(table, image, 1) as Rows[T]);
}

/**
 * Brings a row forward to `to`.
 *
 * @throws Fault when the row is from a newer version or a step is missing
 */
export function migrateRow(
  table: TableName | 'journal',
  row: RawRow,
  from: number,
  to: number = SCHEMA_VERSION,
  steps: readonly Migration[] = migrations,
): RawRow {
  if (from > to) throw new Fault('newer-version', newerVersion(from, to), 'version', { from, to });
  let current = row;
  for (let version = from; version < to; version++) {
    const step = steps.find((each) => each.from === version);
    if (!step)
      throw new Fault('no-migration', `There is no way from version ${version} of the records to ${to}.`, 'version', {
        from,
        to,
      });
    current = step.row(table, current);
  }
  return current;
}

/** What is said of a file that a newer version of the application wrote. */
export const newerVersion = (from: number, to: number): string =>
  `This was written by a newer version of Half Penny (records ${from}; this one reads up to ${to}). Update Half Penny and try again.`;
