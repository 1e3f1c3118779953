import { addDays, firstOfMonth, isDay, lastOfMonth, mondayOf, type Day } from '@half-penny/core/time';
import { useSearchParams } from 'react-router';
import { DayField } from './day-field';
import { SelectField } from './select';

const ranges = {
  today: 'Today',
  week: 'This week',
  'last-week': 'Last week',
  month: 'This month',
  'last-month': 'Last month',
  '90-days': 'The last 90 days',
  own: 'From one day to another',
} as const;
type RangeName = keyof typeof ranges;

/** A period to look at, kept in the address. @param usual the one that is looked at where the address names none */
export function useRange(today: Day, usual: RangeName = 'last-week'): { from: Day; to: Day; field: React.ReactNode } {
  const [params, setParams] = useSearchParams();
  const asked = params.get('period') ?? '';
  const name = asked in ranges ? (asked as RangeName) : usual;
  const [from, to] = daysOf(name, today, params.get('from') ?? '', params.get('to') ?? '');
  const set = (period: RangeName, first: Day, last: Day) =>
    setParams(period === 'own' ? { period, from: first, to: last } : { period }, { replace: true });
  const field = (
    <div className="flex flex-wrap items-end gap-3">
      <SelectField
        label="Period"
        value={name}
        options={Object.entries(ranges)}
        onPick={(picked) => set(picked as RangeName, from, to)}
      />
      {name === 'own' && (
        <>
          <DayField label="From" value={from} className="w-36" onPick={(day) => set('own', day, day > to ? day : to)} />
          <DayField label="To" value={to} className="w-36" onPick={(day) => set('own', day < from ? day : from, day)} />
        </>
      )}
    </div>
  );
  return { from, to, field };
}

function daysOf(name: RangeName, today: Day, from: string, to: string): readonly [Day, Day] {
  const monday = mondayOf(today);
  switch (name) {
    case 'today':
      return [today, today];
    case 'week':
      return [monday, today];
    case 'last-week':
      return [addDays(monday, -7), addDays(monday, -1)];
    case 'month':
      return [firstOfMonth(today), today];
    case 'last-month':
      return [firstOfMonth(today, -1), lastOfMonth(firstOfMonth(today, -1))];
    case '90-days':
      return [addDays(today, -89), today];
    case 'own':
      // An address that was written by hand may say anything.
      return isDay(from) && isDay(to) && from <= to ? [from, to] : [addDays(today, -6), today];
  }
}
