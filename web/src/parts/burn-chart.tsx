import type { BurnPoint } from '@half-penny/core/costing';
import { showDayShort } from '@half-penny/core/time';
import { Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';

interface BurnChartProps {
  points: readonly BurnPoint[];
  budget: number;
  kind: 'time' | 'money';
  show: (value: number) => string;
}

/** Used so far as a line, the present pace as a dashed one, the budget as a rule across. */
export default function BurnChart({ points, budget, kind, show }: BurnChartProps) {
  const colour = kind === 'time' ? 'var(--time)' : 'var(--money)';
  const label = { fill: 'var(--soft)', fontSize: 12 };
  return (
    <div className="h-48 max-w-3xl">
      <ResponsiveContainer width="100%" height="100%">
        <LineChart data={[...points]} margin={{ top: 18, right: 84, bottom: 0, left: 4 }} accessibilityLayer>
          <XAxis dataKey="day" tickFormatter={showDayShort} tick={label} minTickGap={60} stroke="var(--strong)" />
          <YAxis hide domain={[0, (highest: number) => Math.max(highest, budget * 1.05)]} />
          <ReferenceLine
            y={budget}
            stroke="var(--ink)"
            label={{ value: `budget ${show(budget)}`, position: 'insideTopLeft', dy: -16, ...label }}
          />
          <Line
            dataKey="used"
            stroke={colour}
            strokeWidth={2}
            dot={false}
            isAnimationActive={false}
            name="Used"
            connectNulls={false}
          />
          <Line
            dataKey="forecast"
            stroke={colour}
            strokeDasharray="4 4"
            dot={false}
            isAnimationActive={false}
            name="At this pace"
          />
          <Tooltip
            labelFormatter={(day) => showDayShort(String(day))}
            formatter={(value) => show(Number(value))}
            separator=": "
            contentStyle={{ background: 'var(--sheet)', border: '1px solid var(--strong)', borderRadius: 4 }}
          />
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}
