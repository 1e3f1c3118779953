import { figureAt, type ReportResult } from '@half-penny/core/reports';

/** So many groups are drawn. */
const MOST_POINTS = 60;

/** Outermost groups against columns, the more the darker; each place can be read. */
export function Heat({
  answer,
  show,
  colour,
}: {
  answer: ReportResult;
  show: (value: number) => string;
  colour: string;
}) {
  const measure = answer.definition.measures[0]!;
  const columns = answer.columns.slice(0, -1);
  const rows = answer.rows.flatMap((row, index) => (row.depth === 1 ? [{ row, index }] : [])).slice(0, MOST_POINTS);
  if (columns.length === 0) return <p className="text-soft">A heat map needs a column for each period.</p>;
  const values = rows.map(({ index }) => columns.map((_, c) => figureAt(answer, measure, index, c) ?? 0));
  const most = Math.max(1, ...values.flat());
  return (
    <div className="max-w-full overflow-x-auto" tabIndex={0} role="region" aria-label="Heat map">
      <table className="text-xs">
        <thead>
          <tr>
            <td />
            {columns.map((column) => (
              <th key={column.key} scope="col" className="px-1 font-normal text-soft">
                {column.label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ row }, r) => (
            <tr key={row.key}>
              <th scope="row" className="max-w-40 truncate pr-2 text-right font-normal">
                {row.label}
              </th>
              {values[r]!.map((value, c) => (
                <td
                  key={c}
                  title={`${row.label}, ${columns[c]!.label}: ${show(value)}`}
                  className="h-6 min-w-9 border border-sheet text-center"
                  style={{
                    background: `color-mix(in srgb, ${colour} ${Math.round((value / most) * 40)}%, var(--sheet))`,
                  }}
                >
                  {value > 0 ? show(value) : ''}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
