import type { Day } from '@half-penny/core/time';
import { ChevronDown, ChevronLeft, ChevronRight, ChevronUp } from 'lucide-react';
import { DayPicker } from 'react-day-picker';

interface CalendarProps {
  value: Day | '';
  today: Day;
  onPick: (day: Day) => void;
}

const icons = { left: ChevronLeft, right: ChevronRight, up: ChevronUp, down: ChevronDown } as const;
/** A day as the picker has it: midnight of whoever looks at it. */
const asDate = (day: Day) => new Date(`${day}T00:00:00`);
const two = (value: number) => String(value).padStart(2, '0');
const asDay = (date: Date): Day => `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;

/** A month to pick a day of. */
export default function Calendar({ value, today, onPick }: CalendarProps) {
  return (
    <DayPicker
      mode="single"
      autoFocus
      required
      showOutsideDays
      weekStartsOn={1}
      today={asDate(today)}
      selected={value ? asDate(value) : undefined}
      defaultMonth={asDate(value || today)}
      onSelect={(date) => onPick(asDay(date))}
      formatters={{
        formatCaption: (month) => month.toLocaleDateString('en-GB', { month: 'long', year: 'numeric' }),
        formatWeekdayName: (date) => date.toLocaleDateString('en-GB', { weekday: 'narrow' }),
      }}
      components={{
        Chevron: ({ orientation = 'left' }) => {
          const Icon = icons[orientation];
          return <Icon size={16} aria-hidden />;
        },
      }}
      classNames={calendarLook}
    />
  );
}

const step = 'absolute top-2 grid size-8 cursor-pointer place-items-center rounded-sm text-soft hover:text-ink';
const calendarLook = {
  root: 'relative p-2',
  month_caption: 'flex h-8 items-center justify-center border-b border-ink font-semibold',
  button_previous: `${step} start-2`,
  button_next: `${step} end-2`,
  month_grid: 'mt-1 border-collapse',
  weekday: 'size-8 text-xs font-semibold text-soft',
  day: 'p-0 text-center',
  day_button: 'grid size-8 cursor-pointer place-items-center rounded-sm hover:bg-time-ground pointer-coarse:size-11',
  outside: 'text-soft',
  today: 'font-bold underline decoration-2 underline-offset-4',
  selected: '[&>button]:bg-time [&>button]:text-on-time',
};
