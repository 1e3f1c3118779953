import { addDays, firstOfMonth, lastOfMonth, mondayOf, type Day } from '@half-penny/core/time';
import { useSearchParams } from 'react-router';
import { SelectField } from './field';

const ranges = {
  today: 'Today',
  week: 'This week',
  'last-week': 'Last week',
  month: 'This month',
  'last-month': 'Last month',
  '90-days': 'The last 90 days',
} as const;
type RangeName = keyof typeof ranges;

/** A period to look at, kept in the address. */
export function useRange(today: Day): { from: Day; to: Day; field: React.ReactNode } {
  const [params, setParams] = useSearchParams();
  const name = (params.get('period') ?? 'last-week') as RangeName;
  const monday = mondayOf(today);
  const spans: Record<RangeName, [Day, Day]> = {
    today: [today, today],
    week: [monday, today],
    'last-week': [addDays(monday, -7), addDays(monday, -1)],
    month: [firstOfMonth(today), today],
    'last-month': [firstOfMonth(today, -1), lastOfMonth(firstOfMonth(today, -1))],
    '90-days': [addDays(today, -89), today],
  };
  const [from, to] = spans[name] ?? spans['last-week'];
  const field = (
    <SelectField
      label="Period"
      value={name}
      options={Object.entries(ranges)}
      onChange={(event) => setParams({ period: event.target.value }, { replace: true })}
    />
  );
  return { from, to, field };
}
