import { unzipSync } from 'fflate';
import Papa from 'papaparse';
import { unharmed } from './harmless';
import { readSheet } from 'read-excel-file/universal';

/** What a cell of a table holds: text, or what a spreadsheet knows to be a number, a moment or a truth value. */
export type Cell = string | number | boolean | Date | null;

export interface Table {
  head: string[];
  rows: Cell[][];
  /** Spreadsheet row of the first of `rows`. */
  firstRow: number;
}

/** Something in a table that cannot be read, and where; rows and columns count from 1, as spreadsheets show them. */
export interface TableFault {
  row: number;
  column: string;
  message: string;
}

/** A file that is no table. */
export class TableError extends Error {
  override name = 'TableError';
  readonly faults: readonly TableFault[];

  constructor(faults: readonly TableFault[]) {
    super(faults[0]!.message);
    this.faults = faults;
  }
}

const ZIP = [0x50, 0x4b];

/**
 * Reads a table with one row of heads: XLSX, or text with commas, semicolons or tabs.
 *
 * @throws TableError with row and column of what cannot be read
 */
export async function readTable(file: Blob): Promise<Table> {
  const start = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  return ZIP.every((byte, index) => start[index] === byte) ? readXlsx(file) : readCsv(await file.text());
}

// What a spreadsheet of hours, work or costs comes to at most; one that is larger is refused before it is unpacked or laid out.
const LARGEST_FILE = 64 << 20;
const LARGEST_UNPACKED = 512 << 20;
const MOST_COLUMNS = 1000;
const MOST_CELLS = 20_000_000;

const tooLarge = (what: string): TableError =>
  new TableError([
    { row: 1, column: 'A', message: `This spreadsheet ${what}. Nothing was read; leave out what is not needed.` },
  ]);

/**
 * A small file can unpack to more than there is room for, and a single cell far off makes a table of all cells before it.
 *
 * @throws TableError when it is larger than a table may be
 */
async function checkSize(file: Blob): Promise<void> {
  if (file.size > LARGEST_FILE) throw tooLarge(`has more than ${LARGEST_FILE >> 20} MB`);
  let bytes = 0;
  const sheets = unzipSync(new Uint8Array(await file.arrayBuffer()), {
    filter({ name, originalSize }) {
      bytes += originalSize;
      if (bytes > LARGEST_UNPACKED) throw tooLarge(`unpacks to more than ${LARGEST_UNPACKED >> 20} MB`);
      return /^xl\/worksheets\/[^/]+\.xml$/.test(name);
    },
  });
  for (const sheet of Object.values(sheets)) {
    let columns = 0;
    let rows = 0;
    // Letters of a cell's place and its row, as in r="AB12".
    for (const [, letters, row] of new TextDecoder('latin1').decode(sheet).matchAll(/\br="([A-Z]{1,3})(\d{1,7})"/g)) {
      let column = 0;
      for (const letter of letters!) column = column * 26 + letter.charCodeAt(0) - 64;
      columns = Math.max(columns, column);
      rows = Math.max(rows, Number(row));
    }
    if (columns > MOST_COLUMNS) throw tooLarge(`has a cell beyond column ${columnName(MOST_COLUMNS - 1)}`);
    if (columns * rows > MOST_CELLS)
      throw tooLarge(`is laid out over more than ${MOST_CELLS.toLocaleString('en-GB')} cells`);
  }
}

async function readXlsx(file: Blob): Promise<Table> {
  try {
    await checkSize(file);
    return tableOf((await readSheet(file)) as unknown as Cell[][]);
  } catch (thrown) {
    if (thrown instanceof TableError) throw thrown;
    throw new TableError([
      {
        row: 1,
        column: 'A',
        message: 'This is not a spreadsheet that can be read. Save it as XLSX or CSV and try again.',
      },
    ]);
  }
}

/** Reads comma, semicolon or tab separated text. */
export function readCsv(text: string): Table {
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), {
    delimiter: delimiterOf(text),
    skipEmptyLines: false,
  });
  const broken = errors.filter((error) => error.type === 'Quotes');
  if (broken.length > 0) {
    throw new TableError(
      broken.slice(0, 100).map((error) => {
        const row = (error.row ?? 0) + 1;
        // The row is cut short where the quotes go wrong.
        const message =
          error.code === 'MissingQuotes'
            ? 'A quotation mark is opened here and never closed.'
            : 'A quotation mark is out of place here.';
        return { row, column: columnName(Math.max(0, (data[row - 1]?.length ?? 1) - 1)), message };
      }),
    );
  }
  return tableOf(data.map((row) => row.map(unharmed)));
}

/** What parts the columns: the sign that the line of heads has most of. */
function delimiterOf(text: string): string {
  const head = /^\s*(.+)$/m.exec(text)?.[1]?.replace(/"[^"]*"/g, '') ?? '';
  const counts = ['\t', ';', ',', '|'].map((sign) => ({ sign, count: head.split(sign).length }));
  return counts.reduce((best, each) => (each.count > best.count ? each : best)).sign;
}

const isEmpty = (cell: Cell | undefined): boolean => cell === null || cell === undefined || cell === '';

function tableOf(rows: readonly (readonly Cell[])[]): Table {
  const at = rows.findIndex((row) => row.some((cell) => !isEmpty(cell)));
  const head = at < 0 ? [] : rows[at]!.map((cell) => String(cell ?? '').trim());
  while (head.length > 0 && head.at(-1) === '') head.pop();
  if (head.length === 0) throw new TableError([{ row: 1, column: 'A', message: 'There is nothing in this file.' }]);
  const body = rows.slice(at + 1).map((row) => [...row]);
  while (body.length > 0 && body.at(-1)!.every(isEmpty)) body.pop();
  if (body.length === 0) {
    throw new TableError([{ row: at + 2, column: 'A', message: 'There are no rows under the heads of the columns.' }]);
  }
  return { head, rows: body, firstRow: at + 2 };
}

/** 0 → "A", 26 → "AA". */
export function columnName(index: number): string {
  const letter = String.fromCharCode(65 + (index % 26));
  return index < 26 ? letter : columnName(Math.floor(index / 26) - 1) + letter;
}
