import type { CalendarOptions, CalendarReading } from '@half-penny/formats/calendar';
import type { HoursBook, HoursLine, HoursReading, Mapping, Table } from '@half-penny/formats/hours';
import { proxy } from 'comlink';
import type { HoursWork, OutKind, TableReading } from './hours.worker';
import { inWorker } from './tasks';

const hoursWorker = () => new Worker(new URL('./hours.worker.ts', import.meta.url), { type: 'module' });

export const readTableFile = (file: Blob) => inWorker<HoursWork, TableReading>(hoursWorker(), (api) => api.table(file));

export const mapTable = (table: Table, mapping: Mapping, book: HoursBook) =>
  inWorker<HoursWork, HoursReading>(hoursWorker(), (api) => api.map(table, mapping, book));

export const readCalendarFile = (
  file: Blob,
  options: Omit<CalendarOptions, 'onProgress'>,
  onProgress: (share: number) => void,
) => inWorker<HoursWork, CalendarReading>(hoursWorker(), (api) => api.calendar(file, options, proxy(onProgress)));

export const writeHours = (lines: HoursLine[], kind: OutKind, stamp: number) =>
  inWorker<HoursWork, Blob>(hoursWorker(), (api) => api.write(lines, kind, stamp));
