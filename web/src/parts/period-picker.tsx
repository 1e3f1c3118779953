import type { Workspace } from '@half-penny/core/model';
import { offeredPeriods, type Day } from '@half-penny/core/time';
import { DayField } from './day-field';

interface PeriodPickerProps {
  workspace: Pick<Workspace, 'periods' | 'cutOff'>;
  today: Day;
  from: Day;
  to: Day;
  onPick: (from: Day, to: Day) => void;
}

/** A range of days: by the studio's own calendar, or from one day to another. */
export function PeriodPicker({ workspace, today, from, to, onPick }: PeriodPickerProps) {
  const offered = offeredPeriods(workspace.periods, workspace.cutOff, today);
  const own = offered.find((period) => period.from === from && period.to === to);
  return (
    <div className="flex flex-wrap items-center gap-2 text-sm">
      <select
        aria-label="Period"
        value={own?.key ?? ''}
        onChange={(event) => {
          const period = offered.find((each) => each.key === event.target.value);
          if (period) onPick(period.from, period.to);
        }}
        className="rounded-md border border-strong bg-sheet px-2 py-1"
      >
        {!own && <option value="">These days</option>}
        {offered.map((period) => (
          <option key={period.key} value={period.key}>
            {period.label}
          </option>
        ))}
      </select>
      <DayField
        label="From"
        bare
        value={from}
        today={today}
        onPick={(day) => onPick(day, day > to ? day : to)}
        className="w-28"
      />
      <span className="text-soft">to</span>
      <DayField
        label="To"
        bare
        value={to}
        today={today}
        onPick={(day) => onPick(day < from ? day : from, day)}
        className="w-28"
      />
    </div>
  );
}
