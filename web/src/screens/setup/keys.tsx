import { Key } from '../../parts/button';

const keys: readonly [string, string][] = [
  ['.', 'Open the Till’s line: type to find a job, Enter starts or switches'],
  ['. .', 'Stop the timer'],
  ['Ctrl K', 'Find anything by name, or do anything'],
  ['Ctrl Z', 'Undo the last change'],
  ['Ctrl Shift Z', 'Redo it'],
  ['Alt 1 – Alt 5', 'Today, Week, Billing, Clients, Setup'],
  ['[ and ]', 'The day or week before and after'],
  ['G, S, J, D, M, T, Del', 'On an entry of Today: go on, split, join, duplicate, move, tag, delete'],
  ['R', 'Record what is planned'],
  ['In the week: J, N, +, P, Space', 'Add a job, write a note, another entry, plan, fold out'],
  ['A', 'On Today: add time by hand'],
  ['I', 'On what is to bill: put on invoice; on a draft: issue'],
  ['↑ ↓ ← →', 'Move in a table'],
  ['Enter', 'Edit the cell, press what is in it, or open the row'],
  ['Esc', 'Leave a cell as it was, close what is open'],
  ['Space', 'Select the row; Shift with ↑ ↓ selects several'],
  ['Delete', 'Delete the row, where rows can be deleted'],
  ['Alt ↑ ↓ → ←', 'On a project: among its like, into the one above, out again; on a stage: earlier or later'],
];

/** Every key there is. */
export function Keys() {
  return (
    <dl className="max-w-2xl border-t border-ink">
      {keys.map(([key, what]) => (
        <div key={key} className="flex gap-4 border-b border-rule px-2 py-2">
          <dt className="w-32 shrink-0">
            <Key>{key}</Key>
          </dt>
          <dd>{what}</dd>
        </div>
      ))}
    </dl>
  );
}
