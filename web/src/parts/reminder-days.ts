import { Fault } from '@half-penny/core/model';

/** "7, 21, 35" → [7, 21, 35]. @throws Fault where something in it is no whole number of days */
export function readReminderDays(text: string): number[] {
  const parts = text.split(/[,;\s]+/).filter(Boolean);
  return parts.map((part) => {
    if (!/^\d{1,3}$/.test(part))
      throw new Fault('not-a-number', `“${part.slice(0, 20)}” is not a number of days; write them like 7, 21, 35.`);
    return Number(part);
  });
}
