import { readCalendar, writeCalendar, type CalendarOptions, type CalendarReading } from '@half-penny/formats/calendar';
import {
  mapHours,
  readTable,
  TableError,
  writeCsv,
  writeXlsx,
  type HoursBook,
  type HoursLine,
  type HoursReading,
  type Mapping,
  type Table,
  type TableFault,
} from '@half-penny/formats/hours';
import { idSource } from '@half-penny/core/model';
import { expose } from 'comlink';

// Reading and writing other programs' hours: long files must not hold up the page. Stopping is done by ending the worker.

export type TableReading = { ok: true; table: Table } | { ok: false; faults: TableFault[] };

const work = {
  async table(file: Blob): Promise<TableReading> {
    try {
      return { ok: true, table: await readTable(file) };
    } catch (thrown) {
      if (thrown instanceof TableError) return { ok: false, faults: [...thrown.faults] };
      throw thrown;
    }
  },

  map(table: Table, mapping: Mapping, book: HoursBook): HoursReading {
    const newId = idSource(
      () => Date.now(),
      (bytes) => crypto.getRandomValues(bytes as Uint8Array<ArrayBuffer>),
    );
    return mapHours(table, mapping, book, newId);
  },

  async calendar(
    file: Blob,
    options: Omit<CalendarOptions, 'onProgress'>,
    onProgress: (share: number) => void,
  ): Promise<CalendarReading> {
    return readCalendar(await file.text(), { ...options, onProgress });
  },

  async write(lines: HoursLine[], kind: OutKind, stamp: number): Promise<Blob> {
    if (kind === 'xlsx') return writeXlsx(lines);
    // A byte order mark tells spreadsheets that the text is UTF-8.
    if (kind === 'csv') return new Blob([`\ufeff${writeCsv(lines)}`], { type: 'text/csv;charset=utf-8' });
    return new Blob([writeCalendar(lines, stamp)], { type: 'text/calendar;charset=utf-8' });
  },
};
export type OutKind = 'csv' | 'xlsx' | 'ics';
export type HoursWork = typeof work;

expose(work);
