import { harmless } from '@half-penny/formats/hours';
import Papa from 'papaparse';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';

/** Takes a table of words out as CSV, or onto paper. */
export function TakeOutTable({ name, table }: { name: string; table: () => string[][] }) {
  const csv = () => {
    const text = Papa.unparse(
      table().map((row) => row.map(harmless)),
      { newline: '\r\n' },
    );
    save(new Blob(['\ufeff', text, '\r\n'], { type: 'text/csv' }), `${name}.csv`);
  };
  return (
    <>
      <Button onClick={() => window.print()}>Print</Button>
      <Button onClick={csv}>CSV</Button>
    </>
  );
}
