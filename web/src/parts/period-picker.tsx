import { Select } from './select';
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
      <Select
        name="Period"
        value={own?.key ?? ''}
        onPick={(picked) => {
          const period = offered.find((each) => each.key === picked);
          if (period) onPick(period.from, period.to);
        }}
        className="w-auto!"
        options={offered.map((period) => [period.key, period.label] as const)}
        none="These days"
      />
      <DayField label="From" bare value={from} onPick={(day) => onPick(day, day > to ? day : to)} className="w-36" />
      <span className="text-soft">to</span>
      <DayField label="To" bare value={to} onPick={(day) => onPick(day < from ? day : from, day)} className="w-36" />
    </div>
  );
}
