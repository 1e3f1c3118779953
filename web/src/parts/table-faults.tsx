import type { TableFault } from '@half-penny/formats/hours';

const MOST = 200;

/** What of a table cannot be read, each with its row and column. */
export function TableFaults({ faults }: { faults: readonly TableFault[] }) {
  if (faults.length === 0) return null;
  return (
    <div role="alert" className="my-3 border-l-[3px] border-fault px-3 text-fault">
      <p className="font-semibold">
        {faults.length === 1 ? 'One value' : `${faults.length} values`} cannot be read. Correct the file or the columns;
        nothing is imported until every value can be read.
      </p>
      <ul className="mt-1 max-h-48 overflow-auto font-mono text-sm">
        {faults.slice(0, MOST).map((each, index) => (
          <li key={index} className="written py-0.5">
            Row {each.row}
            {each.column && `, column ${each.column}`}: {each.message}
          </li>
        ))}
      </ul>
    </div>
  );
}
