import type { TableFault } from '@half-penny/formats/hours';
import { CheckBox } from './check';

const MOST = 200;

interface TableFaultsProps {
  faults: readonly TableFault[];
  /** Whether the rows with faults are to be left out, where that can be chosen. */
  leaveOut?: boolean;
  onLeaveOut?: (on: boolean) => void;
}

/** What of a table cannot be read, each with its row and column. */
export function TableFaults({ faults, leaveOut = false, onLeaveOut }: TableFaultsProps) {
  const rows = new Set(faults.map((each) => each.row)).size;
  if (faults.length === 0) return null;
  return (
    <div role="alert" className="my-3 border-l-[3px] border-fault px-3 text-fault">
      <p className="font-semibold">
        {faults.length === 1 ? 'One value' : `${faults.length} values`} cannot be read. Correct the file or the columns
        {onLeaveOut ? ', or leave those rows out' : ''}; nothing is imported until then.
      </p>
      {onLeaveOut && (
        <label className="mt-1 flex items-center gap-2 text-ink">
          <CheckBox checked={leaveOut} onChange={onLeaveOut} />
          Leave out {rows === 1 ? `row ${faults[0]!.row}` : `these ${rows} rows`}
        </label>
      )}
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
