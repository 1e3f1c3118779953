import { jobOf, readLine, spanOn, type Job, type WeekCell } from '@half-penny/core/entries';
import { Fault, type Member, type PlannedTime, type Service } from '@half-penny/core/model';
import { readLength, type Day, type Typed } from '@half-penny/core/time';
import type { Changes } from '../../data/session';

type Run = Changes['run'];

interface CellPlace {
  member: Member;
  services: readonly Service[];
  row: Job;
  cell: WeekCell;
}

/**
 * Saves what was typed into a cell: a length or from–to, and a note, service or "not billable" behind it. "+" adds another entry; nothing
 * takes away the one that is there.
 *
 * @throws Fault where it cannot be read, or where several entries stand in the cell
 */
export async function saveCell(run: Run, place: CellPlace, text: string): Promise<unknown> {
  const { member, row, cell } = place;
  const another = text.trim().startsWith('+');
  const plain = another ? text.trim().slice(1) : text.trim();
  const [only, second] = cell.entries;
  if (/^[-–]?$|^0+(?:[.:,]0+)?$/.test(plain)) {
    if (!only || another) return undefined;
    return run('entry.remove', { ids: cell.entries.map((entry) => entry.id) });
  }
  const { typed, note, serviceId, billableSeconds } = readCell(plain, place);
  const times = typed.kind === 'span' ? spanOn(typed, cell.day, member.zone) : { seconds: typed.seconds };
  if (only && !another) {
    if (second) {
      if (typed.seconds === cell.seconds) return undefined;
      throw new Fault(
        'several',
        'Several entries stand here. Fold them out with Space and change one, or add another with +.',
        'cell',
      );
    }
    return run('entry.edit', {
      id: only.id,
      ...times,
      ...(note ? { note } : {}),
      ...(serviceId ? { serviceId } : {}),
      ...(billableSeconds === null ? {} : { billableSeconds }),
    });
  }
  // What was planned here for once is what was done.
  const [planned, other] = openPlans(cell);
  return run('entry.add', {
    planId: planned && !other ? planned.id : null,
    memberId: member.id,
    day: cell.day,
    ...jobOf(row),
    serviceId,
    note,
    billableSeconds,
    ...times,
  });
}

interface ReadCell {
  typed: Typed;
  note: string;
  serviceId: string | null;
  billableSeconds: number | null;
}

/** A bare number is hours here, even beside a note: it is the first thing in the cell. */
function readCell(text: string, { services, cell }: CellPlace): ReadCell {
  const { length, note, serviceId, billableSeconds } = readLine(text, { jobs: [], services, today: cell.day });
  return { typed: length ?? readLength(text), note, serviceId, billableSeconds };
}

/** Planned time of a cell that is not recorded yet. */
export function openPlans(cell: WeekCell): PlannedTime[] {
  const done = new Set(cell.entries.map((entry) => entry.planId));
  return cell.plans.filter((plan) => !done.has(plan.id));
}

/** Plans what was typed for the days; nothing takes the plan of a single day away. */
export async function savePlan(run: Run, place: CellPlace, days: readonly Day[], text: string): Promise<unknown> {
  const { member, row, cell } = place;
  const open = openPlans(cell);
  const plain = text.trim();
  if (/^[-–]?$|^0+(?:[.:,]0+)?$/.test(plain)) {
    return open.length > 0 ? run('plan.remove', { ids: open.map((plan) => plan.id) }) : undefined;
  }
  const { typed, note, serviceId } = readCell(plain, place);
  const { seconds } = typed;
  const [only] = open;
  if (days.length === 1 && only && open.length === 1) {
    return run('plan.edit', { id: only.id, seconds, ...(note ? { note } : {}) });
  }
  return run('plan.add', { memberId: member.id, days: [...days], ...jobOf(row), serviceId, note, seconds });
}
