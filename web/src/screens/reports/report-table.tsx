import {
  fields,
  figureAt,
  measureOf,
  showFigure,
  type ReportResult,
  type AnswerRow,
  type MeasureName,
} from '@half-penny/core/reports';
import type { LengthStyle } from '@half-penny/core/time';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { memo, useMemo, useState } from 'react';
import { clipped } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { SideScroll } from '../../parts/side-scroll';

/** A line of the table, with its place in the answer. */
interface Line extends AnswerRow {
  index: number;
  /** Keys from the outermost group to its own. */
  path: string[];
  hasParts: boolean;
}

/** What was pressed: the figure of a line in a column. */
export interface Pressed {
  path: string[];
  label: string;
  column: string | null;
  measure: MeasureName;
}

interface ReportTableProps {
  answer: ReportResult;
  style: LengthStyle;
  onPress: (pressed: Pressed) => void;
}

const colours = {
  length: 'text-time',
  money: 'text-money',
  'money an hour': 'text-money',
  percent: '',
  count: '',
} as const;

/** A report as a table: groups within groups, each with all that is in it, and the whole at the foot. */
export const ReportTable = memo(function ReportTable({ answer, style, onPress }: ReportTableProps) {
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const lines = useMemo(() => linesOf(answer), [answer]);
  const shown = useMemo(() => {
    const visible: Line[] = [];
    let hiddenBelow = Infinity;
    for (const line of lines) {
      if (line.depth > hiddenBelow) continue;
      hiddenBelow = folded.has(idOf(line)) ? line.depth : Infinity;
      visible.push(line);
    }
    return visible;
  }, [lines, folded]);
  const fold = (line: Line) =>
    setFolded((now) => {
      const next = new Set(now);
      if (!next.delete(idOf(line)) && line.hasParts) next.add(idOf(line));
      return next;
    });
  const depth = answer.definition.rows.length;
  const figures = answer.columns.flatMap((column, c) =>
    answer.definition.measures.map((measure): Column<Line> => {
      const last = c === answer.columns.length - 1;
      const { kind, label } = measureOf(measure);
      const split = answer.columns.length > 1;
      // Where no length has seconds, no room is kept for them: the figures end below the end of their head.
      const whole =
        kind === 'length' && answer.rows.every((_, at) => (figureAt(answer, measure, at, c, 0) ?? 0) % 60 === 0);
      const cell = (line: Line) => (
        <Figure
          {...{ answer, measure, style, whole }}
          row={line.index}
          column={c}
          of={line.label}
          onPress={() => onPress({ path: line.path, label: line.label, column: last ? null : column.key, measure })}
        />
      );
      return {
        key: `${column.key} ${measure}`,
        head: split
          ? `${column.label}${answer.definition.measures.length > 1 ? `, ${label.toLowerCase()}` : ''}`
          : label,
        width: kind === 'money' || kind === 'money an hour' ? 'minmax(104px,0.5fr)' : 'minmax(84px,0.4fr)',
        align: 'end',
        cell,
        foot: cell({ index: 0, path: [], label: 'the whole report', depth: 0, key: '', hasParts: false }),
      };
    }),
  );
  const columns: Column<Line>[] = [
    {
      key: 'name',
      head: answer.definition.rows.map((name) => fields[name].label).join(' / '),
      width: `minmax(${NAME_WIDTH}px,1.6fr)`,
      cell: (line) => (
        <span className="flex min-w-0 items-start gap-1" style={{ paddingLeft: `${(line.depth - 1) * 18}px` }}>
          {line.hasParts ? (
            <button
              type="button"
              tabIndex={-1}
              className="mt-0.5 shrink-0 text-soft hover:text-ink"
              aria-label={`${folded.has(idOf(line)) ? 'Unfold' : 'Fold'} ${clipped(line.label)}`}
              aria-expanded={!folded.has(idOf(line))}
              onClick={() => fold(line)}
            >
              {folded.has(idOf(line)) ? <ChevronRight size={14} /> : <ChevronDown size={14} />}
            </button>
          ) : (
            <span className="w-3.5 shrink-0" />
          )}
          <span className={`written clamp-2 ${line.depth < depth ? 'font-semibold' : ''}`}>{line.label}</span>
        </span>
      ),
    },
    ...figures,
  ];
  return (
    <SideScroll label="The report’s table">
      <div style={{ minWidth: `${NAME_WIDTH + figures.reduce((sum, { width }) => sum + leastOf(width), 0)}px` }}>
        <Ledger
          label="Report"
          rows={shown}
          rowId={idOf}
          rowName={(line) => line.label}
          columns={columns}
          keys={{ 'report.fold': fold }}
          tone={(line) => (line.depth < depth && line.depth === 1 ? 'bg-paper' : '')}
          onOpen={fold}
          footLabel="All"
          empty="Nothing matches. Try another period, or fewer conditions."
        />
      </div>
    </SideScroll>
  );
});

const NAME_WIDTH = 200;

/** The least that a column of "minmax(104px,0.5fr)" is wide, in pixels. */
const leastOf = (width: string): number => Number(/\d+/.exec(width)![0]);

const idOf = (line: Line): string => JSON.stringify(line.path);

function linesOf(answer: ReportResult): Line[] {
  const path: string[] = [];
  return answer.rows.slice(1).map((row, at) => {
    path.length = row.depth - 1;
    path.push(row.key);
    const next = answer.rows[at + 2];
    return { ...row, index: at + 1, path: [...path], hasParts: next !== undefined && next.depth > row.depth };
  });
}

interface FigureProps {
  answer: ReportResult;
  measure: MeasureName;
  row: number;
  column: number;
  style: LengthStyle;
  whole: boolean;
  of: string;
  onPress: () => void;
}

/** A figure; pressing it shows what is behind it. Money of several currencies stands one under the other. */
function Figure({ answer, measure, row, column, style, whole, of, onPress }: FigureProps) {
  const { kind, label } = measureOf(measure);
  const isMoney = kind === 'money' || kind === 'money an hour';
  const parts = (isMoney ? answer.currencies : answer.currencies.slice(0, 1)).map((currency, c) => ({
    currency,
    now: figureAt(answer, measure, row, column, c),
    before: figureAt(answer, measure, row, column, c, answer.before),
  }));
  const told = parts.filter(({ now, before }) => now || before);
  const list = told.length > 0 ? told : parts.slice(0, 1);
  // Among several currencies, nothing at all is of none of them.
  const isNothing = told.length === 0 && isMoney && answer.currencies.length > 1;
  const show = (value: number | null, currency: string) => (isNothing ? '–' : showFigure(value, kind, currency, style));
  return (
    <button
      type="button"
      tabIndex={-1}
      onClick={onPress}
      aria-label={`${label} of ${clipped(of)}: ${list.map((each) => show(each.now, each.currency)).join(', ')}; what is behind it`}
      className={`flex flex-col items-end rounded-sm font-mono whitespace-nowrap decoration-dotted underline-offset-4 hover:underline ${colours[kind]}`}
    >
      {list.map(({ currency, now, before }) => (
        <span key={currency} className={now ? 'font-semibold' : 'font-normal text-soft'}>
          {kind === 'length' && style === 'h:mm' && now !== null ? (
            <ShortLength seconds={now} whole={whole} />
          ) : (
            show(now, currency)
          )}
          {answer.before && column === answer.columns.length - 1 && (
            <span className="block text-xs font-normal text-soft">
              {before === null ? '–' : `was ${show(before, currency)}`}
            </span>
          )}
        </span>
      ))}
    </button>
  );
}

/** Hours and minutes, with seconds small: they matter only where figures are added up. */
function ShortLength({ seconds, whole }: { seconds: number; whole: boolean }) {
  const [hours, minutes, rest] = showFigure(seconds, 'length', '', 'h:mm').split(':');
  return (
    <>
      {`${hours}:${minutes}`}
      {!whole && (
        <span className="inline-block w-[1.9em] text-left text-[10px] font-normal text-soft">{rest && `:${rest}`}</span>
      )}
    </>
  );
}
