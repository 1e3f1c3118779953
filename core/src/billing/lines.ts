import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Client, Condensing, Entry, Invoice, LinePart, CondenseRule } from '../model/records';
import { addDays, showDayShort, weekdayOf, type Day } from '../time/day';
import type { Charge } from './charges';
import { projectName, type Pricer } from './pricer';

/** The kinds of source that can stand on an invoice in a way of their own. */
export const wayGroups = ['time', 'expense', 'bill', 'ledger', 'agreed'] as const;
export type WayGroup = (typeof wayGroups)[number];

/** By what a charge's lines are condensed: the kind of its cost, or agreed. */
export const groupOf = (charge: Charge): WayGroup =>
  charge.kind === 'expense' || charge.kind === 'bill' || charge.kind === 'ledger' ? charge.kind : 'agreed';

/** How what is of a group and project stands on an invoice. */
export function wayOf(invoice: Invoice, group: WayGroup, projectId: Id): CondenseRule {
  return (
    invoice.ways[`${group} ${projectId}`] ??
    invoice.ways[group] ?? { way: usualWay(invoice.condense, group), lump: false }
  );
}

/** Sources of money have no service; where time stands by service, they stand by their heading. */
const usualWay = (way: Condensing, group: WayGroup): Condensing =>
  group === 'agreed' ? 'item' : group !== 'time' && way === 'service' ? 'cost code' : way;

/** A source by the names under which condensing and texts know it. */
export interface LineSource {
  id: Id;
  projectId: Id;
  taskId: Id | null;
  serviceId: Id | null;
  costCodeId: Id | null;
  memberId: Id | null;
  day: Day;
}

/** An entry as a source of a line, with all that lines are told apart by. */
export const namedEntry = (pricer: Pricer, entry: Entry): LineSource => ({
  id: entry.id,
  projectId: entry.projectId!,
  taskId: entry.taskId,
  serviceId: entry.serviceId,
  costCodeId: codeOfEntry(pricer, entry),
  memberId: entry.memberId,
  day: entry.day,
});

/** A charge as a source of a line, with all that lines are told apart by. */
export const namedCharge = (charge: Charge): LineSource => ({
  id: charge.id,
  projectId: charge.projectId,
  taskId: null,
  serviceId: null,
  costCodeId: charge.costCodeId,
  memberId: charge.cost?.memberId ?? null,
  day: charge.day,
});

/** The heading that an entry falls under, by its service. */
export const codeOfEntry = (pricer: Pricer, entry: Pick<Entry, 'serviceId'>): Id | null =>
  entry.serviceId === null ? null : (pricer.service.get(entry.serviceId)?.costCodeId ?? null);

/** What sources must share to stand on one line. */
export function wayKey(way: Condensing, source: LineSource): string {
  switch (way) {
    case 'item':
      return source.id;
    case 'service':
      return `${source.projectId} ${source.serviceId ?? ''}`;
    case 'cost code':
      return `heading ${source.costCodeId ?? ''}`;
    case 'task':
      return `task ${source.taskId ?? source.projectId}`;
    case 'project':
      return source.projectId;
    case 'member':
      return `member ${source.memberId ?? ''}`;
    case 'day':
      return `day ${source.day}`;
    case 'week':
      return `week ${mondayOf(source.day)}`;
  }
}

const mondayOf = (day: Day): Day => (day ? addDays(day, 1 - weekdayOf(day)) : '');

/** What a line says where nothing else was wished for. */
export function plainText(pricer: Pricer, way: Condensing, source: LineSource, group: WayGroup): string {
  const project = projectName(pricer, source.projectId);
  const service = source.serviceId === null ? '' : (pricer.service.get(source.serviceId)?.name ?? '');
  switch (way) {
    case 'item':
    case 'project':
      return project;
    case 'service':
      return service ? `${project}: ${service}` : project;
    case 'cost code':
      return pricer.costCode.get(source.costCodeId ?? '')?.name ?? withoutHeading[group];
    case 'task': {
      const task = source.taskId === null ? '' : (pricer.task.get(source.taskId)?.name ?? '');
      return task ? `${project}: ${task}` : project;
    }
    case 'member':
      return pricer.member.get(source.memberId ?? '')?.name ?? 'Purchases';
    case 'day':
      return source.day ? showDayShort(source.day) : project;
    case 'week':
      return source.day ? `Week of ${showDayShort(mondayOf(source.day))}` : project;
  }
}

const withoutHeading: Record<WayGroup, string> = {
  time: 'Time',
  expense: 'Expenses',
  bill: 'Supplier bills',
  ledger: 'Purchases',
  agreed: 'As agreed',
};

/** A line of one entry, as the client likes it; what it was on where nothing of that is known. */
export function entryText(pricer: Pricer, entry: Entry, client: Client | undefined): string {
  const service = entry.serviceId === null ? '' : (pricer.service.get(entry.serviceId)?.name ?? '');
  const project = () => projectName(pricer, entry.projectId!);
  // Only what is said is made: writing a day out takes longer than all the rest.
  const parts: Record<LinePart, () => string> = {
    project,
    service: () => service,
    note: () => entry.note.trim(),
    member: () => pricer.member.get(entry.memberId)?.name ?? '',
    day: () => showDayShort(entry.day),
  };
  const said = (client?.says ?? ['note']).map((part) => parts[part]()).filter(Boolean);
  return said.join(', ') || (service ? `${project()}: ${service}` : project());
}

/** A line of one cost or agreed amount: what was bought, how much of it, from whom. */
export function chargeText(charge: Charge): string {
  if (charge.agreed) return charge.agreed.text;
  const { line, cost } = charge;
  const said = line!.text.trim() || cost!.supplier.trim() || cost!.reference.trim() || 'Purchase';
  return line!.unit && line!.quantity !== '1' ? `${said}, ${line!.quantity} ${line!.unit}` : said;
}

/** What can stand in braces in a line's text. */
export const textNames = [
  'project',
  'task',
  'service',
  'heading',
  'member',
  'supplier',
  'day',
  'note',
  'count',
] as const;
type TextName = (typeof textNames)[number];

const MOST_SAID = 4;

/**
 * Fills in a line's text: "{heading}, {count} items" → "Materials, 12 items". What differs from source to source is listed, the first few.
 */
export function filledText(
  pricer: Pricer,
  says: string,
  entries: readonly Entry[],
  charges: readonly Charge[],
): string {
  const values = (of: (entry: Entry) => string | undefined, ofCharge: (charge: Charge) => string | undefined) => {
    const all = [...new Set([...entries.map(of), ...charges.map(ofCharge)].filter(Boolean))] as string[];
    const rest = all.length - MOST_SAID;
    return rest > 0 ? `${all.slice(0, MOST_SAID).join(', ')} and ${rest} more` : all.join(', ');
  };
  const code = (id: Id | null) => pricer.costCode.get(id ?? '')?.name;
  const filled: Record<TextName, () => string> = {
    project: () =>
      values(
        (entry) => projectName(pricer, entry.projectId!),
        (charge) => projectName(pricer, charge.projectId),
      ),
    task: () =>
      values(
        (entry) => pricer.task.get(entry.taskId ?? '')?.name,
        () => undefined,
      ),
    service: () =>
      values(
        (entry) => pricer.service.get(entry.serviceId ?? '')?.name,
        () => undefined,
      ),
    heading: () =>
      values(
        (entry) => code(codeOfEntry(pricer, entry)),
        (charge) => code(charge.costCodeId),
      ),
    member: () =>
      values(
        (entry) => pricer.member.get(entry.memberId)?.name,
        (charge) => pricer.member.get(charge.cost?.memberId ?? '')?.name,
      ),
    supplier: () =>
      values(
        () => undefined,
        (charge) => charge.cost?.supplier,
      ),
    day: () =>
      values(
        (entry) => showDayShort(entry.day),
        (charge) => (charge.day ? showDayShort(charge.day) : undefined),
      ),
    note: () =>
      values(
        (entry) => entry.note.trim(),
        (charge) => chargeText(charge),
      ),
    count: () => String(entries.length + charges.length),
  };
  // Only its own names: “{toString}” is no name of ours.
  return says
    .replace(/\{([^{}]*)\}/g, (whole, name: string) =>
      Object.hasOwn(filled, name.trim()) ? (filled[name.trim() as TextName]?.() ?? whole) : whole,
    )
    .replace(/\s{2,}/g, ' ')
    .replace(/^[\s,:·–-]+|[\s,:·–-]+$/g, '');
}

/** @throws Fault for a name in braces that means nothing */
export function checkSays(says: string): void {
  for (const [, name] of says.matchAll(/\{([^{}]*)\}/g)) {
    if (!(textNames as readonly string[]).includes(name!.trim())) {
      throw new Fault(
        'unknown-name',
        `“{${name}}” means nothing. Names are ${textNames.map((each) => `{${each}}`).join(', ')}.`,
        'says',
        {
          name,
        },
      );
    }
  }
}
