import { figureAt, measureOf, share, showFigure, showPercent, type ReportResult } from '@half-penny/core/reports';
import type { LengthStyle } from '@half-penny/core/time';
import { Bar, BarChart, LabelList, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';

interface ChartProps {
  answer: ReportResult;
  style: LengthStyle;
}

interface Point {
  label: string;
  value: number;
  shown: string;
}

const MOST_POINTS = 60;

/** The first measure of a report as a picture: of its columns over time where it has some, else of its outermost groups. */
export default function ReportChart({ answer, style }: ChartProps) {
  const { definition } = answer;
  const measure = definition.measures[0]!;
  const { kind, label } = measureOf(measure);
  const show = (value: number) => showFigure(value, kind, answer.currencies[0]!, style);
  const overTime = answer.columns.length > 1;
  const points: Point[] = overTime
    ? answer.columns.slice(0, -1).map((column, c) => point(column.label, figureAt(answer, measure, 0, c) ?? 0))
    : answer.rows.flatMap((row, index) =>
        row.depth === 1 ? [point(row.label, figureAt(answer, measure, index) ?? 0)] : [],
      );
  function point(name: string, value: number): Point {
    return { label: name, value, shown: show(value) };
  }
  const colour = kind === 'money' || kind === 'money an hour' ? 'var(--money)' : 'var(--time)';
  if (points.length === 0) return null;
  const drawn = points.slice(0, MOST_POINTS);
  return (
    <figure
      className="mb-5"
      aria-label={`${label}, ${overTime ? 'over time' : 'by group'}; the table below has the same figures`}
    >
      {definition.chart === 'shares' ? (
        <Shares points={drawn} whole={drawn.reduce((sum, each) => sum + each.value, 0)} colour={colour} />
      ) : definition.chart === 'heat' ? (
        <Heat answer={answer} show={show} colour={colour} />
      ) : (
        <Plot points={drawn} line={definition.chart === 'line'} colour={colour} label={label} show={show} />
      )}
    </figure>
  );
}

function Plot({
  points,
  line,
  colour,
  label,
  show,
}: {
  points: Point[];
  line: boolean;
  colour: string;
  label: string;
  show: (value: number) => string;
}) {
  const tick = { fill: 'var(--soft)', fontSize: 12 };
  const axes = [
    <XAxis key="x" dataKey="label" tick={tick} interval="preserveStartEnd" minTickGap={12} stroke="var(--strong)" />,
    <YAxis key="y" hide domain={[(lowest: number) => Math.min(0, lowest), 'auto']} />,
    <Tooltip
      key="tip"
      cursor={{ fill: 'var(--time-ground)' }}
      formatter={(value) => [show(Number(value)), label]}
      contentStyle={{ background: 'var(--sheet)', border: '1px solid var(--strong)', borderRadius: 4 }}
    />,
  ];
  const margin = { top: 22, right: 16, bottom: 0, left: 16 };
  const labels = points.length <= 16 && <LabelList dataKey="shown" position="top" fill="var(--ink)" fontSize={11} />;
  return (
    <div className="h-52 max-w-4xl">
      <ResponsiveContainer width="100%" height="100%">
        {line ? (
          <LineChart data={points} margin={margin} accessibilityLayer>
            {axes}
            <Line
              dataKey="value"
              stroke={colour}
              strokeWidth={2}
              dot={points.length <= 16}
              isAnimationActive={false}
              name={label}
            >
              {labels}
            </Line>
          </LineChart>
        ) : (
          <BarChart data={points} margin={margin} accessibilityLayer>
            {axes}
            <Bar dataKey="value" fill={colour} isAnimationActive={false} name={label} maxBarSize={56}>
              {labels}
            </Bar>
          </BarChart>
        )}
      </ResponsiveContainer>
    </div>
  );
}

/** Each group's share as a length of one rule, largest first, labelled at its side. */
function Shares({ points, whole, colour }: { points: Point[]; whole: number; colour: string }) {
  const list = [...points].filter((each) => each.value > 0).sort((a, b) => b.value - a.value);
  return (
    <ul className="max-w-3xl" tabIndex={0} aria-label="Shares">
      {list.map((each) => {
        const hundredths = share(each.value, whole) ?? 0;
        return (
          <li key={each.label} className="grid grid-cols-[minmax(0,14rem)_1fr_auto] items-center gap-3 py-0.5">
            <span className="written clamp-2">{each.label}</span>
            <span className="h-3 border-l border-ink">
              <span className="block h-full" style={{ width: `${hundredths / 100}%`, background: colour }} />
            </span>
            <span className="font-mono text-sm">
              {showPercent(hundredths)} · {each.shown}
            </span>
          </li>
        );
      })}
    </ul>
  );
}

/** Outermost groups against columns, the more the darker; each place can be read. */
function Heat({ answer, show, colour }: { answer: ReportResult; show: (value: number) => string; colour: string }) {
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
                  {value > 0 ? show(value).replace(/^(\d+:\d\d):\d\d$/, '$1') : ''}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
