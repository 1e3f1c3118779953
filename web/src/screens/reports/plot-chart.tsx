import { axisOf, type MeasureKind } from '@half-penny/core/reports';
import type { LengthStyle } from '@half-penny/core/time';
import {
  Bar,
  BarChart,
  CartesianGrid,
  Cell,
  LabelList,
  Line,
  LineChart,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import type { Point } from './chart';
import { showShort } from './show-short';

interface PlotProps {
  points: Point[];
  line: boolean;
  colour: string;
  label: string;
  kind: MeasureKind;
  currency: string;
  style: LengthStyle;
}

/** Up to so many points have their figure at them; of more, the one that is pointed at has. */
const MOST_LABELS = 16;

/** Bars or a line over an axis of round steps. Values come on hover, and with the arrow keys once it has the focus. */
export function Plot({ points, line, colour, label, kind, currency, style }: PlotProps) {
  const axis = axisOf(
    points.map(({ value }) => value),
    kind,
    currency,
    style,
  );
  const tick = { fill: 'var(--soft)', fontSize: 12 };
  const parts = [
    <CartesianGrid key="grid" vertical={false} stroke="var(--rule)" />,
    <XAxis key="x" dataKey="label" tick={tick} interval="preserveStartEnd" minTickGap={12} stroke="var(--strong)" />,
    <YAxis
      key="y"
      tick={tick}
      ticks={axis.ticks}
      domain={[axis.ticks[0]!, axis.ticks.at(-1)!]}
      tickFormatter={axis.show}
      width={64}
      axisLine={false}
      tickLine={false}
    />,
    <Tooltip
      key="tip"
      cursor={{ fill: 'var(--time-ground)' }}
      formatter={(value) => [showShort(Number(value), kind, currency, style), label]}
      separator=": "
      contentStyle={{ background: 'var(--sheet)', border: '1px solid var(--strong)', borderRadius: 4 }}
    />,
  ];
  const margin = { top: 22, right: 16, bottom: 0, left: 0 };
  const few = points.length <= MOST_LABELS;
  const labels = few && <LabelList dataKey="shown" position="top" fill="var(--ink)" fontSize={11} />;
  return (
    <div className="h-56 max-w-4xl">
      <ResponsiveContainer width="100%" height="100%">
        {line ? (
          <LineChart data={points} margin={margin} accessibilityLayer>
            {parts}
            <Line dataKey="value" stroke={colour} strokeWidth={2} dot={few} isAnimationActive={false} name={label}>
              {labels}
            </Line>
          </LineChart>
        ) : (
          <BarChart data={points} margin={margin} accessibilityLayer>
            {parts}
            <Bar dataKey="value" fill={colour} isAnimationActive={false} name={label} maxBarSize={56}>
              {points.map((point) => (
                <Cell key={point.label} fill={point.fill} />
              ))}
              {labels}
            </Bar>
          </BarChart>
        )}
      </ResponsiveContainer>
    </div>
  );
}
