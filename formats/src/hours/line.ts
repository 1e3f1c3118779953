import { showTags, tagsOf, type Entry } from '@half-penny/core/model';
import type { Pricer } from '@half-penny/core/billing';
import { projectName, worthOf, type PricedEntry } from '@half-penny/core/billing';
import { minorPerMajor } from '@half-penny/core/money';
import { addDays, dayOf, minuteOf, clockOf, type Day, type Interval, type Seconds } from '@half-penny/core/time';

/** An entry as it goes out of the house: names in place of ids. */
export interface HoursLine {
  id: string;
  day: Day;
  /** From–to in the member's zone; empty where only the length is known. */
  from: string;
  to: string;
  /** "1:30:00". */
  length: string;
  seconds: Seconds;
  billableSeconds: Seconds;
  member: string;
  client: string;
  project: string;
  jobNumber: string;
  unlisted: string;
  task: string;
  service: string;
  note: string;
  /** With commas between. */
  tags: string;
  /** Minor units; null where no rate fits. */
  amount: number | null;
  minorPerMajor: number;
  currency: string;
  spans: Interval[];
}

/** Entries as lines, in their order. */
export function hoursLines(
  pricer: Pricer,
  entries: readonly Entry[],
  worth: (pricer: Pricer, entries: readonly Entry[]) => PricedEntry[] = worthOf,
): HoursLine[] {
  return worth(pricer, entries).map(({ entry, amount, price }) => {
    const member = pricer.member.get(entry.memberId);
    const zone = member?.zone ?? pricer.book.workspace.zone;
    const project = entry.projectId === null ? undefined : pricer.project.get(entry.projectId);
    const single = entry.spans.length === 1 ? entry.spans[0]! : null;
    const toDay = single && dayOf(single.end, zone);
    // A time that ends at midnight is written as 24:00 of its own day, so that it comes after its start.
    const midnight = toDay === addDays(entry.day, 1) && minuteOf(single!.end, zone) === 0;
    const sameDay =
      single && (toDay === entry.day || midnight) && single.start % 60_000 === 0 && single.end % 60_000 === 0;
    return {
      id: entry.id,
      day: entry.day,
      from: sameDay ? clockOf(minuteOf(single.start, zone)) : '',
      to: sameDay ? (midnight ? '24:00' : clockOf(minuteOf(single.end, zone))) : '',
      length: showHms(entry.seconds),
      seconds: entry.seconds,
      billableSeconds: entry.billableSeconds ?? entry.seconds,
      member: member?.name ?? '',
      client: pricer.clientOf(entry.projectId)?.name ?? '',
      project: project ? projectName(pricer, project.id) : '',
      task: entry.taskId === null ? '' : (pricer.task.get(entry.taskId)?.name ?? ''),
      jobNumber: project?.jobNumber ?? '',
      unlisted: entry.unlisted,
      service: entry.serviceId === null ? '' : (pricer.service.get(entry.serviceId)?.name ?? ''),
      note: entry.note,
      tags: showTags(tagsOf(entry)),
      amount: price ? amount : null,
      minorPerMajor: price ? minorPerMajor(price.currency) : 1,
      currency: price?.currency ?? '',
      spans: entry.spans,
    };
  });
}

/** "1:30:00": to the second, as spreadsheets read it. */
export function showHms(seconds: Seconds): string {
  const two = (value: number) => String(value).padStart(2, '0');
  return `${Math.floor(seconds / 3600)}:${two(Math.floor((seconds % 3600) / 60))}:${two(seconds % 60)}`;
}
