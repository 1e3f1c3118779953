import type { Id } from '../model/ids';
import type { Adjustment, Allocation } from '../model/records';

/** A part of a source that is spoken for: on an invoice, written down, or never billed. */
export type Reservation = Pick<Allocation, 'entryId' | 'costLineId' | 'agreedId' | 'seconds' | 'part'> & {
  /** Its share of an issued line; null on a draft, absent where it is not on an invoice at all. */
  amount?: Allocation['amount'];
  /** Of its billed length, where an issued line says so. */
  billed?: Allocation['billed'];
};

/** The tables that sources stand in, with the field by which an allocation names them. */
export const sourceTables = {
  entries: 'entryId',
  costLines: 'costLineId',
  agreed: 'agreedId',
} as const;
export type SourceTable = keyof typeof sourceTables;

/** The id of the one source that a row is about. */
export const sourceId = (row: Pick<Allocation, 'entryId' | 'costLineId' | 'agreedId'>): Id =>
  (row.entryId ?? row.costLineId ?? row.agreedId)!;

/** The table of the one source that a row is about. */
export const sourceTable = (row: Pick<Allocation, 'entryId' | 'costLineId'>): SourceTable =>
  row.entryId !== null ? 'entries' : row.costLineId !== null ? 'costLines' : 'agreed';

/** How much of its source a row takes: seconds of an entry, minor units of another. */
export const reservedBy = (row: Reservation): number => (row.entryId !== null ? row.seconds : row.part);

/** How much of each source is spoken for, by the source's id. */
export function reservedBySource(rows: Iterable<Reservation>): Map<Id, number> {
  const sums = new Map<Id, number>();
  for (const row of rows) {
    const id = sourceId(row);
    sums.set(id, (sums.get(id) ?? 0) + reservedBy(row));
  }
  return sums;
}

/** Sources left for later, with the day until which they wait; null = until somebody says so. */
export function leftForLater(adjustments: Iterable<Adjustment>, today: string): Map<Id, string | null> {
  const waiting = new Map<Id, string | null>();
  for (const row of adjustments) {
    if (row.kind === 'later' && (row.until === null || row.until > today)) waiting.set(sourceId(row), row.until);
  }
  return waiting;
}
