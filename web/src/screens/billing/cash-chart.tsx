import type { CashWeek } from '@half-penny/core/cash-ahead';
import type { Minor } from '@half-penny/core/money';
import { showDayShort } from '@half-penny/core/time';
import { Area, ComposedChart, Line, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';

interface CashChartProps {
  weeks: readonly CashWeek[];
  today: string;
  show: (amount: Minor) => string;
}

/** What comes in by the end of each week: the likely sum as a stair, the band of eight of ten around it. */
export default function CashChart({ weeks, today, show }: CashChartProps) {
  const label = { fill: 'var(--soft)', fontSize: 12 };
  const begin = { to: today, low: 0, likely: 0, high: 0 };
  const data = [begin, ...weeks].map(({ to, low, likely, high }) => ({ to, likely, band: [low, high] }));
  return (
    <div className="mt-4 mb-2 h-72 max-w-4xl">
      <ResponsiveContainer width="100%" height="100%">
        <ComposedChart data={data} margin={{ top: 12, right: 24, bottom: 0, left: 24 }} accessibilityLayer>
          <XAxis dataKey="to" tickFormatter={showDayShort} tick={label} minTickGap={48} stroke="var(--strong)" />
          <YAxis
            orientation="right"
            tick={label}
            tickFormatter={(value: number) => show(value).replace(/\.\d\d$/, '')}
            axisLine={false}
            tickLine={false}
            width={84}
            tickCount={4}
          />
          <Area
            type="stepBefore"
            dataKey="band"
            name="Eight of ten"
            stroke="none"
            fill="var(--money)"
            fillOpacity={0.16}
            isAnimationActive={false}
          />
          <Line
            type="stepBefore"
            dataKey="likely"
            name="Likely"
            stroke="var(--money)"
            strokeWidth={2}
            dot={false}
            isAnimationActive={false}
          />
          <Tooltip
            labelFormatter={(day) => `By ${showDayShort(String(day))}`}
            formatter={(value) =>
              Array.isArray(value) ? value.map((each) => show(Number(each))).join(' – ') : show(Number(value))
            }
            separator=": "
            contentStyle={{ background: 'var(--sheet)', border: '1px solid var(--strong)', borderRadius: 4 }}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
