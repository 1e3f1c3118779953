import { figureAt, measureOf, type FieldName, type ReportResult } from '@half-penny/core/reports';
import type { Pricer } from '@half-penny/core/billing';
import type { LengthStyle } from '@half-penny/core/time';
import { Heat } from './heat-chart';
import { Plot } from './plot-chart';
import { Shares } from './shares-chart';
import { showShort } from './show-short';

interface ChartProps {
  pricer: Pricer;
  answer: ReportResult;
  style: LengthStyle;
}

/** A bar, a mark on a line, or a share. */
export interface Point {
  label: string;
  value: number;
  shown: string;
  /** A job's own colour, where jobs are compared. */
  fill: string;
}

const MOST_POINTS = 60;

/** Groups that are jobs: their keys are projects, and each has its own swatch. */
const JOB_FIELDS: readonly FieldName[] = ['project', 'part', 'part of part', 'whole project'];

/** The first measure of a report as a picture: of its columns over time where it has some, else of its outermost groups. */
export default function ReportChart({ pricer, answer, style }: ChartProps) {
  const { definition } = answer;
  const measure = definition.measures[0]!;
  const { kind, label } = measureOf(measure);
  const currency = answer.currencies[0]!;
  const show = (value: number) => showShort(value, kind, currency, style);
  const overTime = answer.columns.length > 1;
  const colour = kind === 'money' || kind === 'money an hour' ? 'var(--money)' : 'var(--time)';
  const areJobs = !overTime && JOB_FIELDS.includes(definition.rows[0]!);
  const fillOf = (key: string) => {
    const job = areJobs ? pricer.project.get(key) : undefined;
    return job ? `var(--job-${job.colour})` : colour;
  };
  const point = (name: string, value: number, fill = colour): Point => ({
    label: name,
    value,
    shown: show(value),
    fill,
  });
  const points: Point[] = overTime
    ? answer.columns.slice(0, -1).map((column, c) => point(column.label, figureAt(answer, measure, 0, c) ?? 0))
    : answer.rows.flatMap((row, index) =>
        row.depth === 1 ? [point(row.label, figureAt(answer, measure, index) ?? 0, fillOf(row.key))] : [],
      );
  if (points.length === 0) return null;
  const drawn = points.slice(0, MOST_POINTS);
  const money = kind === 'money' || kind === 'money an hour';
  const said = money && answer.currencies.length > 1 ? `${label} in ${currency}; the table has the rest` : label;
  return (
    <figure
      className="mb-5"
      aria-label={`${label}, ${overTime ? 'over time' : 'by group'}; the table below has the same figures`}
    >
      <figcaption className="mb-1 text-xs font-semibold text-soft">
        {said}
        {points.length > drawn.length && ` (the first ${drawn.length} of ${points.length})`}
      </figcaption>
      {definition.chart === 'shares' ? (
        <Shares points={drawn} />
      ) : definition.chart === 'heat' ? (
        <Heat answer={answer} show={show} colour={colour} />
      ) : (
        <Plot points={drawn} line={definition.chart === 'line'} {...{ colour, label, kind, currency, style }} />
      )}
    </figure>
  );
}
