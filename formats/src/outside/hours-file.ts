import type { HoursBack } from '@half-penny/core/outside';
import Papa from 'papaparse';
import { harmless } from '../hours/harmless';
import { decimal } from '../hours/write';

const HEAD = ['Id', 'Revision', 'Task', 'Title', 'Day', 'Seconds', 'Hours', 'Member', 'Note'];

/**
 * Hours that go back as a table (RFC 4180, CRLF): of two rows with one id the higher revision counts, and none at all takes back what was
 * told before. Hours stand there for people; seconds count.
 */
export function writeHoursBack(hours: readonly HoursBack[]): string {
  const rows = hours.map(({ entryId, revision, source, task, day, seconds, member, note }) => [
    entryId,
    String(revision),
    harmless(source),
    harmless(task),
    day,
    String(seconds),
    decimal(seconds),
    harmless(member),
    harmless(note),
  ]);
  return `${Papa.unparse([HEAD, ...rows], { newline: '\r\n' })}\r\n`;
}
