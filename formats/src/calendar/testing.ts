import { DateTime } from 'luxon';

/** "2026-11-12 09:00" of an instant in a zone, by another implementation than ours. */
export const showZoned = (instant: number, zone: string): string =>
  DateTime.fromMillis(instant, { zone }).toFormat('yyyy-MM-dd HH:mm');
