import { showDayShort } from '../../time/day';
import { showMinute } from '../../time/length';
import type { LineContext, UnderstoodLine } from './said';

/** An understood line written out again in full, in a fixed order; reading it gives the same. */
export function writeLine(line: UnderstoodLine, context: LineContext): string {
  const parts: string[] = [];
  const { length, billableSeconds } = line;
  if (length?.kind === 'span') parts.push(`${showMinute(length.fromMinute)}–${showMinute(length.toMinute % 1440)}`);
  else if (length) {
    const rest = length.seconds % 60;
    const minutes = Math.floor(length.seconds / 60);
    const two = (value: number) => String(value).padStart(2, '0');
    parts.push(`${Math.floor(minutes / 60)}:${two(minutes % 60)}${rest ? `:${two(rest)}` : ''}`);
  }
  if (line.start)
    parts.push(
      'minutesAgo' in line.start ? `${line.start.minutesAgo} min ago` : `since ${showMinute(line.start.atMinute)}`,
    );
  if (line.day) parts.push(showDayShort(line.day));
  if (line.projectId)
    parts.push(
      `for ${context.jobs.find((job) => job.projectId === line.projectId && job.taskId === line.taskId)?.name ?? ''}`,
    );
  if (line.unlisted) parts.push(`new job: ${line.unlisted}`);
  if (line.serviceId) parts.push(context.services.find((each) => each.id === line.serviceId)?.name ?? '');
  if (line.note) parts.push(`"${line.note.replaceAll('"', '')}"`);
  if (billableSeconds === 0) parts.push('not billable');
  else if (billableSeconds !== null) parts.push(`${Math.round(billableSeconds / 60)} min billable`);
  return parts.join(', ');
}
