import type { LineUnit } from '../model/records';

/**
 * Units of measure as electronic invoices name them (UN/ECE Recommendation 20, codes from memory). What a piece is called is free; of
 * common words the code is known, everything else counts as "one".
 */
const PIECES: Readonly<Record<string, string>> = {
  km: 'KMT',
  m: 'MTR',
  mile: 'SMI',
  miles: 'SMI',
  kg: 'KGM',
  g: 'GRM',
  l: 'LTR',
  'm²': 'MTK',
  m2: 'MTK',
  h: 'HUR',
  hour: 'HUR',
  hours: 'HUR',
  day: 'DAY',
  days: 'DAY',
  week: 'WEE',
  weeks: 'WEE',
  month: 'MON',
  months: 'MON',
  kwh: 'KWH',
};

const UNITS: Readonly<Record<Exclude<LineUnit, 'piece'>, string>> = {
  second: 'SEC',
  minute: 'MIN',
  hour: 'HUR',
  day: 'DAY',
  lump: 'C62',
};

/** The code of what a line counts (BT-130): "HUR" of hours, "KMT" of km, "C62" of anything else. */
export const unitCode = (unit: LineUnit, unitName: string): string =>
  unit === 'piece' ? (PIECES[unitName.trim().toLowerCase()] ?? 'C62') : UNITS[unit];
