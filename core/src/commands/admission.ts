import type { CommandContext } from '../engine/command';
import { overlay } from '../engine/overlay';
import type { Reader } from '../engine/store';
import { sameData } from '../model/canonical';
import { changesIn, type Change } from '../model/change';
import type { Id } from '../model/ids';
import type { Member, Right } from '../model/records';
import { lacking, Places, refusal, rightsOf, type Need, type Rights } from '../rights';
import type { CommandName } from './catalogue';
import { needs } from './needs';

// Who may do what. Whoever works in this browser is asked about; where nobody said who that is, everything is allowed.

/** Somebody who works here, and what they may do. */
interface Worker {
  member: Member;
  rights: Rights;
}

const needOf = (command: string): Need | undefined =>
  Object.hasOwn(needs, command) ? needs[command as CommandName] : undefined;

async function workerOf(reader: Reader, { memberId }: CommandContext): Promise<Worker | null> {
  const member = memberId === null ? undefined : await reader.get('members', memberId);
  if (!member?.rightSetId) return null;
  const set = await reader.get('rightSets', member.rightSetId);
  return set ? { member, rights: rightsOf(member, [set]) } : null;
}

/** Whether somebody may begin a command; whose rows it is for and for which work is asked once that is known. */
export const mayBegin = (rights: Rights, command: CommandName): boolean => lacking(rights, needs[command]) === null;

/** Refuses a command that a member has no right for, before it is looked at. @throws Fault in words */
export async function admit(reader: Reader, command: string, context: CommandContext): Promise<void> {
  const need = needOf(command);
  const worker = need && (await workerOf(reader, context));
  if (!worker) return;
  const right = lacking(worker.rights, need);
  if (right) throw await refusal(reader, worker.member, worker.rights, right);
}

/**
 * Refuses changes that a member has no right for: rows of others, work that a right does not hold for, and parts of an entry that only
 * some may set.
 *
 * @param command the command; of what is taken back or repeated the one that did it
 * @throws Fault in words
 */
export async function guardRights(
  reader: Reader,
  changes: readonly Change[],
  context: CommandContext,
  command: string,
): Promise<void> {
  const need = needOf(command);
  const worker = need && (await workerOf(reader, context));
  if (!worker) return;
  const ask = new Asking(worker, reader, changes);
  if (need.byRow) {
    await ask.byRow();
    if (!CARRY_OVER.has(command)) await ask.partsOfEntries();
  } else if (need.any) await ask.byWork(need.any);
  for (const right of need.also ?? []) await ask.byWork([right]);
}

/** What goes with an entry as it is cut, joined or copied was set before. */
const CARRY_OVER: ReadonlySet<string> = new Set<CommandName>(['entry.split', 'entry.join', 'entry.duplicate']);

/** What follows by itself from recording: lines of a draft that takes new time, traces of corrections. */
const FOLLOWS: ReadonlySet<string> = new Set<Change['table']>(['allocations', 'corrections']);

/** What members set for themselves. */
const OWN_FIELDS: ReadonlySet<string> = new Set<keyof Member>([
  'asked',
  'awayAfter',
  'email',
  'form',
  'hiddenServices',
  'jobOrder',
  'pinned',
  'zone',
]);

/** Of these what the studio sets where it says so. */
const LOCKED_FIELDS: ReadonlySet<string> = new Set<keyof Member>(['asked', 'form', 'hiddenServices']);

/** Asks of one change after the other whether it may be made. */
class Asking {
  readonly #worker: Worker;
  readonly #reader: Reader;
  readonly #after: Reader;
  readonly #changes: readonly Change[];
  readonly #places: { before: Places; after: Places };

  constructor(worker: Worker, reader: Reader, changes: readonly Change[]) {
    this.#worker = worker;
    this.#reader = reader;
    this.#after = overlay(reader, changes);
    this.#changes = changes;
    this.#places = { before: new Places(reader), after: new Places(this.#after) };
  }

  /** All work that is touched is covered by one of the rights. */
  async byWork(any: readonly Right[]): Promise<void> {
    const { rights } = this.#worker;
    if (any.some((right) => rights.hasForAll(right))) return;
    let known = 0;
    for (const change of this.#changes) {
      if (FOLLOWS.has(change.table) && !any.includes('billing')) continue;
      known += await this.#allCovered(change, any, false);
    }
    if (known === 0 && this.#changes.some(({ table }) => !FOLLOWS.has(table))) await this.#refuse(any);
  }

  /** Every row is one’s own, or of somebody for whom one may. */
  async byRow(): Promise<void> {
    for (const change of this.#changes) {
      const any = await this.#rightsFor(change);
      if (any.length > 0) await this.#allCovered(change, any, true);
    }
  }

  /** What part of an entry is billed, and at which rate, is set by those who may. */
  async partsOfEntries(): Promise<void> {
    for (const change of changesIn(this.#changes, 'entries')) {
      const { before, after } = change;
      if (!after) continue;
      const kept = before?.billableSeconds ?? null;
      const clipped = kept === null ? null : Math.min(kept, after.seconds);
      if (after.billableSeconds !== kept && after.billableSeconds !== clipped)
        await this.#allCovered(change as Change, ['billable part'], true);
      if (!sameData(before?.rate ?? null, after.rate)) await this.#allCovered(change as Change, ['rates'], true);
    }
  }

  /** @returns how many places are known of the row. @throws Fault where one of them is not covered */
  async #allCovered({ table, before, after }: Change, any: readonly Right[], withoutPlace: boolean): Promise<number> {
    const { rights } = this.#worker;
    if (any.some((right) => rights.hasForAll(right))) return 1;
    if (!any.some((right) => rights.has(right))) await this.#refuse(any);
    const places = [
      ...(before ? await this.#places.before.of(table, before) : []),
      ...(after ? await this.#places.after.of(table, after) : []),
    ];
    // Work that has no project yet is filed by somebody who may.
    if (places.length === 0 && withoutPlace) return 0;
    for (const place of places) if (!any.some((right) => rights.covers(right, place))) await this.#refuse(any);
    return places.length;
  }

  async #refuse(any: readonly Right[]): Promise<never> {
    const { member, rights } = this.#worker;
    const right = any.find((each) => rights.has(each)) ?? any[0]!;
    throw await refusal(this.#reader, member, rights, right);
  }

  /** One of these is needed for a row; none where the row is nobody’s business. */
  async #rightsFor(change: Change): Promise<readonly Right[]> {
    switch (change.table) {
      case 'entries':
      case 'timers':
      case 'timesheets':
        return this.#forEach(change, (of) => this.#recorded(of));
      case 'plans':
        return this.#forEach(change, async (of) => [...(await this.#recorded(of)), 'work']);
      case 'costs':
        return this.#forEach(change, (of) => this.#cost(of));
      case 'costLines': {
        const costId = (change.after ?? change.before)!.costId;
        const cost = (await this.#after.get('costs', costId)) ?? (await this.#reader.get('costs', costId));
        return this.#cost(cost?.memberId ?? null);
      }
      case 'absences':
        return this.#forEach(change, (of) =>
          Promise.resolve(
            of === null
              ? ['setup']
              : of === this.#worker.member.id
                ? ['record own', 'setup']
                : ['record others', 'setup'],
          ),
        );
      case 'members':
        return this.#ownFieldsOnly(change) ? [] : ['setup'];
      case 'letters':
        return letterRights((change.after ?? change.before)!);
      default:
        return [];
    }
  }

  /** Whose a row was and whose it becomes are both asked for; what both allow is what allows it. */
  async #forEach(
    { before, after }: { before: { memberId: Id | null } | null; after: { memberId: Id | null } | null },
    rightsFor: (memberId: Id | null) => Promise<readonly Right[]>,
  ): Promise<readonly Right[]> {
    const owners = [...new Set([before, after].flatMap((row) => (row ? [row.memberId] : [])))];
    const all = await Promise.all(owners.map(rightsFor));
    const { rights } = this.#worker;
    // From one’s own to somebody else’s needs both rights, each of which is told by itself.
    return all.find((any) => !any.some((right) => rights.has(right))) ?? all.at(-1) ?? [];
  }

  async #recorded(memberId: Id | null): Promise<readonly Right[]> {
    const who = this.#worker.member.id;
    if (memberId === who) return ['record own'];
    const owner = memberId === null ? undefined : await this.#reader.get('members', memberId);
    const checks = owner && (owner.checkerId === who || owner.deputyId === who);
    return checks ? ['record others', 'approve'] : ['record others'];
  }

  async #cost(memberId: Id | null): Promise<readonly Right[]> {
    return memberId === null ? ['costs'] : [...(await this.#recorded(memberId)), 'costs'];
  }

  #ownFieldsOnly({ id, before, after }: Extract<Change, { table: 'members' }>): boolean {
    if (id !== this.#worker.member.id || !before || !after) return false;
    const fields = [...new Set([...Object.keys(before), ...Object.keys(after)])] as (keyof Member)[];
    const isOwn = (field: string) => OWN_FIELDS.has(field) && !(before.locked && LOCKED_FIELDS.has(field));
    return fields.every((field) => isOwn(field) || sameData(before[field], after[field]));
  }
}

/** Letters to members remind of handing in; those to clients bill, but for reports. */
function letterRights(letter: { memberId?: Id | null | undefined; kind: string }): readonly Right[] {
  if (letter.memberId) return ['approve', 'setup'];
  return letter.kind === 'report' ? ['reports', 'billing'] : ['billing'];
}
