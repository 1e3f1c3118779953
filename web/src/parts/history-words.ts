import { jobName, type Pricer } from '@half-penny/core/billing';
import type { Entry, Id, JournalRow, TableName } from '@half-penny/core/model';
import { showLength } from '@half-penny/core/time';
import { showShortDay } from './days';
import { showSpanWithDays } from './spans';

/** What of an entry people know by a name, and how it is written. */
const entryWords: readonly [name: string, write: (entry: Entry, pricer: Pricer, zone: string) => string][] = [
  ['day', (entry) => showShortDay(entry.day)],
  ['job', (entry, pricer) => jobName(pricer, entry.projectId, entry.unlisted)],
  ['length', (entry) => showLength(entry.seconds)],
  ['times', (entry, _, zone) => entry.spans.map((span) => showSpanWithDays(span, zone)).join(', ')],
  ['billable part', (entry) => (entry.billableSeconds === null ? 'all of it' : showLength(entry.billableSeconds))],
  ['note', (entry) => entry.note],
  ['tags', (entry) => entry.tags?.join(', ') ?? ''],
];

const quoted = (text: string) => (text === '' ? 'nothing' : text.length > 80 ? `${text.slice(0, 80)}…` : text);

/** What a change made of an entry, in words: "length 2:00 → 1:30". Empty for what has no words of its own. */
export function changedWords(row: JournalRow, table: TableName, id: Id, pricer: Pricer, zone: string): string[] {
  const change = row.changes.find((each) => each.table === table && each.id === id);
  if (change?.table !== 'entries' || !change.before || !change.after) return [];
  const { before, after } = change;
  return entryWords.flatMap(([name, write]) => {
    const [from, to] = [write(before, pricer, zone), write(after, pricer, zone)];
    return from === to ? [] : [`${name} ${quoted(from)} → ${quoted(to)}`];
  });
}
