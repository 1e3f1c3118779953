import { jobName, type Pricer } from '@half-penny/core/billing';
import type { CheckedField } from '@half-penny/core/checking';
import type { CheckedEntry } from '@half-penny/core/model';
import { showLength } from '@half-penny/core/time';
import { showShortestDay } from './days';
import { showSpan } from './spans';

/** What an entry was on, or what was done, for a sentence about it. */
export const namedLine = (pricer: Pricer, line: CheckedEntry): string =>
  line.note.trim() || jobName(pricer, line.projectId, line.unlisted);

/** One field of an entry as it was or is: "2:00", "Quayside Playhouse / Winter season rig". */
export function fieldInWords(pricer: Pricer, line: CheckedEntry, field: CheckedField): string {
  switch (field) {
    case 'day':
      return showShortestDay(line.day);
    case 'job':
      return jobName(pricer, line.projectId, line.unlisted) || 'no job';
    case 'service':
      return pricer.service.get(line.serviceId ?? '')?.name ?? 'no service';
    case 'note':
      return line.note.trim() ? `“${line.note.trim()}”` : 'no note';
    case 'length':
      return showLength(line.seconds);
    case 'times':
      return (line.spans ?? []).map((span) => showSpan(span, pricer.book.workspace.zone)).join(', ');
    case 'billable part':
      return line.billableSeconds === null ? 'all billable' : `${showLength(line.billableSeconds)} billable`;
  }
}
