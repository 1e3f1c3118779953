import { sameData } from '../model/canonical';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import { changeOf, type Change, type JournalRow } from '../model/change';
import { rowsBefore } from './changes';
import { faultOf, type CommandContext, type AnyCommand, type Plan } from './command';
import type { Domain } from './domain';
import { checkTables } from './invariants';
import { CHAIN_START, sealed } from './journal';
import { overlay } from './overlay';
import type { Reader, Transaction } from './store';
import { changesBack, changesForth, undoStanding } from './undo';

/** Who makes a change and from where. */
export interface ExecutionContext extends CommandContext {
  device: Id;
}

type Content = Pick<JournalRow, 'command' | 'title' | 'input' | 'of' | 'changes'>;

/** Carries out commands: the one way in which anything of a workspace changes. */
export class Engine {
  readonly domain: Domain;

  constructor(domain: Domain) {
    this.domain = domain;
  }

  /** @throws Fault when there is no such command */
  commandNamed(name: string): AnyCommand {
    const found = Object.hasOwn(this.domain.catalogue, name) ? this.domain.catalogue[name] : undefined;
    if (!found) throw new Fault('unknown', `There is no command “${name.slice(0, 40)}”.`, '', { name });
    return found;
  }

  /**
   * Carries out one command within a transaction: read and plan, check what must hold, write the rows and the journal row.
   * Nothing is written when anything is refused.
   *
   * @returns the journal row; its changes are empty when nothing was different
   * @throws Question where somebody is there to be asked and it may be a slip
   * @throws Fault with the field's path when the input or its effect cannot be accepted
   */
  async perform(tx: Transaction, name: string, input: unknown, context: ExecutionContext): Promise<JournalRow> {
    const command = this.commandNamed(name);
    await this.domain.admit(tx, name, context);
    const parsed = command.input.safeParse(input);
    if (!parsed.success) throw faultOf(parsed.error);
    const plan = await command.plan(tx, parsed.data as never, context);
    let changes = await changesOf(tx, plan);
    for (const amend of this.domain.amendments) changes = await amend(tx, changes, context, name);
    for (const reaction of this.domain.reactions) changes.push(...(await reaction(tx, changes, context, name)));
    if (context.asks) for (const doubt of this.domain.doubts) await doubt(tx, changes);
    const title = titleOf(command, parsed.data, changes) + this.domain.remark(changes);
    return this.#commit(tx, context, { command: name, title, input: parsed.data, of: null, changes }, name);
  }

  /**
   * Takes back a change: the newest, or the one numbered `seq`.
   *
   * @throws Fault when there is none, when what it touched was changed since, or when the outside world has seen it
   */
  async undo(tx: Transaction, context: ExecutionContext, seq?: number): Promise<JournalRow> {
    const { row, changes } = await changesBack(tx, context.device, this.domain, seq);
    const content = { command: 'undo', title: `Undone: ${row.title}`, input: null, of: row.seq, changes };
    return this.#commit(tx, context, content, row.command);
  }

  /** Repeats the change that was taken back last. @throws Fault when there is none, or what it touched was changed since */
  async redo(tx: Transaction, context: ExecutionContext): Promise<JournalRow> {
    const { row, changes } = await changesForth(tx, context.device, this.domain);
    const content = { command: 'redo', title: `Again: ${row.title}`, input: null, of: row.seq, changes };
    return this.#commit(tx, context, content, row.command);
  }

  /** What undo and redo would do now. */
  standing = (tx: Transaction, device: Id) => undoStanding(tx, device, this.domain);

  /**
   * Checks what must hold for the rows that a change touches.
   *
   * @throws Fault that names the row and what it would break
   */
  async check(after: Reader, changes: readonly Change[]): Promise<void> {
    await checkTables(after, changes);
    for (const invariant of this.domain.invariants) await invariant(after, changes);
  }

  /** @param did the command that makes the changes, or made what they take back or repeat */
  async #commit(tx: Transaction, context: ExecutionContext, content: Content, did: string): Promise<JournalRow> {
    for (const guard of this.domain.guards) await guard(tx, content.changes, context, did);
    await this.check(overlay(tx, content.changes), content.changes);
    const [last] = await tx.newest(context.device, 1);
    const row = sealed({
      device: context.device,
      seq: (last?.seq ?? 0) + 1,
      at: context.now,
      memberId: context.memberId,
      ...content,
      previous: last?.hash ?? CHAIN_START,
    });
    if (content.changes.length > 0) await tx.write(content.changes, row);
    return row;
  }
}

function titleOf(command: AnyCommand, input: unknown, changes: readonly Change[]): string {
  if (command.titleOf && changes.length > 0) return command.titleOf(changes);
  return typeof command.title === 'string' ? command.title : command.title(input as never);
}

/** What a plan makes different, with the rows as they were. */
async function changesOf(tx: Reader, plan: Plan): Promise<Change[]> {
  const planned = plan.changes();
  const before = await rowsBefore(tx, planned);
  return planned
    .map(({ table, id, after }) => changeOf(table, id, before(table, id), after))
    .filter((change) => !sameData(change.before, change.after));
}
