import { columnName } from './hours/table';
import writeExcel, { type Feature, type SheetData } from 'write-excel-file/universal';

// Spreadsheets as people expect them: heads that stay in view and are printed on every page, a filter over the table, pages across and as
// wide as the table. Formulas carry the figure they come to, for programs that show a file without computing.

type Cell = SheetData[number][number];

/** A formula with the figure it comes to; a plain cell has none. */
export type SheetCellWithValue =
  Cell | { type: 'Formula'; value: string; comesTo: number; format?: string; fontWeight?: 'bold' };

export interface Table {
  name: string;
  /** Stands above the head; the file says so on its first lines. */
  title?: readonly string[];
  head: readonly string[];
  /** Column widths in letters. */
  widths: readonly number[];
  rows: readonly (readonly SheetCellWithValue[])[];
  /** Rows at the foot that are sums: the filter leaves them alone. */
  sums?: number;
}

/** The row of a table's head, counted from 1. */
export const headRow = ({ title = [] }: Pick<Table, 'title'>): number => title.length + 1;

/** Tables as one spreadsheet file (XLSX), a sheet each. */
export function writeTables(tables: readonly Table[]): Promise<Blob> {
  const sheets = tables.map((table) => ({
    sheet: table.name,
    data: [
      ...(table.title ?? []).map((value, index): Cell[] => [
        { value, type: String, ...(index === 0 ? { fontWeight: 'bold' as const, fontSize: 14 } : {}) },
      ]),
      table.head.map((value): Cell => (value === '' ? null : { value, type: String, fontWeight: 'bold', wrap: true })),
      ...table.rows.map((row) => row.map(plainCell)),
    ],
    columns: table.widths.map((width) => ({ width })),
    stickyRowsCount: headRow(table),
    orientation: 'landscape' as const,
  }));
  return writeExcel(sheets, { features: [asPrinted(tables)] }).toBlob();
}

const plainCell = (cell: SheetCellWithValue): Cell => {
  if (!cell || typeof cell !== 'object' || !('comesTo' in cell)) return cell as Cell;
  const { comesTo: _figure, ...rest } = cell;
  return rest as Cell;
};

/** What ECMA-376 has for it and the writer does not: filter, print titles, pages as wide as the table, figures beside formulas. */
function asPrinted(tables: readonly Table[]): Feature<Blob> {
  const area = (table: Table) => {
    const last = headRow(table) + table.rows.length - (table.sums ?? 0);
    return { head: headRow(table), columns: columnName(table.head.length - 1), last };
  };
  const quoted = (name: string) => `'${name.replaceAll("'", "''")}'`;
  return {
    files: {
      transform: {
        'xl/worksheets/sheet{id}.xml': {
          transform: (xml, _options, { sheetIndex }) => {
            const table = tables[sheetIndex]!;
            const { head, columns, last } = area(table);
            return withFigures(xml, figuresOf(table))
              .replace(/(<worksheet[^>]*>)/, '$1<sheetPr><pageSetUpPr fitToPage="1"/></sheetPr>')
              .replace('</sheetData>', `</sheetData><autoFilter ref="A${head}:${columns}${last}"/>`)
              .replace('<pageSetup ', '<pageSetup fitToWidth="1" fitToHeight="0" ');
          },
        },
        'xl/workbook.xml': {
          transform: (xml) => {
            const names = tables.flatMap((table, index) => {
              const { head, columns, last } = area(table);
              const sheet = escaped(quoted(table.name));
              return [
                `<definedName name="_xlnm._FilterDatabase" localSheetId="${index}" hidden="1">${sheet}!$A$${head}:$${columns}$${last}</definedName>`,
                `<definedName name="_xlnm.Print_Titles" localSheetId="${index}">${sheet}!$1:$${head}</definedName>`,
              ];
            });
            return xml.replace('<definedNames/>', `<definedNames>${names.join('')}</definedNames>`);
          },
        },
      },
    },
  };
}

const escaped = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;');

/** What each formula of a table comes to, by its cell. */
function figuresOf(table: Table): Map<string, number> {
  const figures = new Map<string, number>();
  table.rows.forEach((row, index) =>
    row.forEach((cell, column) => {
      if (cell && typeof cell === 'object' && 'comesTo' in cell && typeof cell.comesTo === 'number')
        figures.set(`${columnName(column)}${headRow(table) + index + 1}`, cell.comesTo);
    }),
  );
  return figures;
}

const withFigures = (xml: string, figures: ReadonlyMap<string, number>): string =>
  xml.replace(/<c r="([A-Z]+\d+)"([^>]*)><f>([^<]*)<\/f><\/c>/g, (all, cell: string, rest: string, formula: string) => {
    const figure = figures.get(cell);
    return figure === undefined ? all : `<c r="${cell}"${rest}><f>${formula}</f><v>${figure}</v></c>`;
  });
