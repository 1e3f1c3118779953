import type { Engine, ExecutionContext } from '../engine/perform';
import { sealed } from '../engine/journal';
import { rowsBefore } from '../engine/changes';
import { Scratch } from '../engine/scratch';
import { Fault, messageOf } from '../faults/fault';
import { sameData } from '../model/canonical';
import { changeOf, type Change, type JournalRow } from '../model/change';
import type { Id } from '../model/ids';
import { currentImage, SCHEMA_VERSION } from '../model/migrations';
import { LogFault, type LogBody, type LogHead, type OpenedRow } from './log';
import { idsOf, type Done, type Refused, type Share, type Waiting } from './share';
import { needShare, type SharedTransaction } from './transaction';

// A device shows the workspace as everybody has it, with what was done here and is not in the log yet on top. When others were first, what
// waits is taken back, theirs is applied, and what waits is planned again by its input on what is there then. So two devices never
// overwrite each other: what no longer fits is refused in words, kept, and may be done again.

/** Who works here and when. */
export type Here = Pick<ExecutionContext, 'now' | 'memberId' | 'asks' | 'seen' | 'position'>;

/** What came of doing something: its row in the history, or that it waits for its turn in the log. */
export type Submitted = { row: JournalRow; waits: false } | { row: null; waits: true };

/** What came of hearing from the log. */
export interface Heard {
  /** What was done here and is everybody's now. */
  confirmed: Id[];
  refused: Refused[];
  /** Rows of others. */
  applied: JournalRow[];
}

/** What may go to the log at once. */
const MOST_AT_ONCE = 200;

/** One device's part in a shared log, for any place that a workspace is kept in. Every call is one transaction. */
export class SharedWorkspace {
  readonly #engine: Engine;

  constructor(engine: Engine) {
    this.#engine = engine;
  }

  /**
   * Does something here and now, and lets it wait for the log; what the outside world sees is done only when its turn in the log comes.
   *
   * @throws Fault when it cannot be accepted, as it would be in a workspace of one's own; nothing is kept then
   */
  async run(tx: SharedTransaction, op: Id, command: string, input: unknown, here: Here): Promise<Submitted> {
    const { seen, position } = here;
    const done: Done = { command, input, ...(seen && { seen }), ...(position !== undefined && { position }) };
    return this.#submit(tx, { op, done, here });
  }

  /** Takes back the newest change of this device that can be, or the one numbered `seq`. @throws Fault as {@link Engine.undo} */
  async undo(tx: SharedTransaction, op: Id, here: Here, seq?: number): Promise<Submitted> {
    const share = await needShare(tx);
    const of = seq ?? (await this.#engine.standing(tx, share.device)).undo?.seq;
    if (of === undefined) throw new Fault('nothing-to-undo', 'There is nothing to undo.');
    return this.#submit(tx, { op, done: { again: false, of: opOf(share, of) }, here });
  }

  /** Repeats what was taken back last. @throws Fault as {@link Engine.redo} */
  async redo(tx: SharedTransaction, op: Id, here: Here): Promise<Submitted> {
    const share = await needShare(tx);
    const of = (await this.#engine.standing(tx, share.device)).redo?.seq;
    if (of === undefined) throw new Fault('nothing-to-undo', 'There is nothing to redo.');
    return this.#submit(tx, { op, done: { again: true, of: opOf(share, of) }, here });
  }

  /**
   * What goes to the log next, to stand after the head; null where nothing waits. What is done only in its turn is planned here on what
   * everybody has; where it does not fit, it is refused and the next is looked at.
   */
  async outgoing(tx: SharedTransaction, here: Here): Promise<{ after: LogHead; bodies: LogBody[] } | null> {
    let share = await needShare(tx);
    for (;;) {
      const first = share.waiting[0];
      if (!first) return null;
      if (first.seq !== null) {
        const until = share.waiting.findIndex(({ seq }) => seq === null);
        const batch = share.waiting.slice(0, Math.min(until < 0 ? Infinity : until, MOST_AT_ONCE));
        const rows = await Promise.all(batch.map(({ seq }) => tx.journalRow(share.device, seq!)));
        return { after: share.head, bodies: batch.map(({ op }, index) => bodyOf(op, rows[index]!)) };
      }
      const confirmed = await this.#confirmed(tx, share);
      try {
        const row = await this.#perform(confirmed, share, first, { ...here, again: true });
        // Somebody else did the same meanwhile.
        if (row.changes.length > 0) return { after: share.head, bodies: [bodyOf(first.op, row)] };
        share = { ...share, waiting: share.waiting.slice(1) };
      } catch (thrown) {
        share = withRefused({ ...share, waiting: share.waiting.slice(1) }, [refusedOf(first, thrown, here.now)]);
      }
      await tx.settle(null, share);
    }
  }

  /**
   * Applies rows that came after the head, this device's own among them, and plans again what waits.
   *
   * @throws LogFault where a row is not what its device may write; nothing was applied then
   */
  async hear(tx: SharedTransaction, rows: readonly OpenedRow[], here: Here): Promise<Heard> {
    const share = await needShare(tx);
    const head = rows.at(-1);
    if (!head) return { confirmed: [], refused: [], applied: [] };
    const next: Share = { ...share, head: { number: head.number, hash: head.hash } };
    const stays = await ownInOrder(tx, share, rows);
    if (stays) {
      // What was sent came back as it was: the workspace shows it already.
      const placed = rows.map(({ number, body: { row } }) => ({ device: row.device, seq: row.seq, place: number }));
      await tx.settle(
        { changes: [], gone: [], rows: [], placed },
        { ...next, waiting: this.#after(next.waiting.slice(rows.length), stays) },
      );
      return { confirmed: [...stays.keys()], refused: [], applied: [] };
    }
    const scratch = await this.#confirmed(tx, share);
    const confirmed = new Map<Id, number>();
    const applied: JournalRow[] = [];
    for (const { number, body } of rows) {
      const row = await this.#apply(scratch, number, body);
      if (row.device === share.device && share.waiting.some(({ op }) => op === body.op))
        confirmed.set(body.op, row.seq);
      else applied.push(row);
    }
    const waiting = this.#after(
      share.waiting.filter(({ op }) => !confirmed.has(op)),
      confirmed,
    );
    const again = await this.#again(scratch, { ...next, waiting }, here);
    await tx.settle(scratch.settlement(), withRefused({ ...next, waiting: again.waiting }, again.refused));
    return { confirmed: [...confirmed.keys()], refused: again.refused, applied };
  }

  /**
   * Goes on from a workspace that was begun afresh while this device was away: what waited is planned again on it, unless it is in it.
   *
   * @param before where the device stood, of a workspace that is not there any more
   * @param hashes of the rows that waited, by their doing, as they stood in the history then
   */
  async goOn(tx: SharedTransaction, before: Share, hashes: ReadonlyMap<Id, string>, here: Here): Promise<Heard> {
    const share = await needShare(tx);
    const confirmed = new Map<Id, number>();
    for (const { op, seq } of before.waiting) {
      if (seq === null) continue;
      const there = await tx.journalRow(share.device, seq);
      if (there && there.hash === hashes.get(op)) confirmed.set(op, seq);
    }
    const waiting = this.#after(
      before.waiting.filter(({ op }) => !confirmed.has(op)),
      confirmed,
    );
    const scratch = new Scratch(tx);
    const again = await this.#again(scratch, { ...share, waiting }, here);
    const refused = [...before.refused, ...again.refused];
    await tx.settle(scratch.settlement(), { ...share, waiting: again.waiting, refused });
    return { confirmed: [...confirmed.keys()], refused: again.refused, applied: [] };
  }

  /** Lets go of what was refused. */
  async letGo(tx: SharedTransaction, op: Id): Promise<void> {
    const share = await needShare(tx);
    await tx.settle(null, { ...share, refused: share.refused.filter((each) => each.op !== op) });
  }

  /**
   * Does again what was refused, on what is there now and under the same ids, so that what was refused after it may follow.
   *
   * @throws Fault where it still does not fit; it stays on the list then
   */
  async doAgain(tx: SharedTransaction, op: Id, here: Here): Promise<Submitted> {
    const share = await needShare(tx);
    const refused = share.refused.find((each) => each.op === op);
    if (!refused) throw new Fault('gone', 'This is not on the list any more.', 'op', { op });
    const { memberId } = refused;
    const { position } = here;
    const done = { ...refused.done, ...('command' in refused.done && position !== undefined && { position }) };
    return this.#submit(tx, { op, done, here: { ...here, memberId }, again: true });
  }

  async #submit(
    tx: SharedTransaction,
    { op, done, here, again = false }: { op: Id; done: Done; here: Here; again?: boolean },
  ): Promise<Submitted> {
    const share = await needShare(tx);
    const waiting: Waiting = { op, at: here.now, memberId: here.memberId, title: '', done, seq: null };
    const refused = share.refused.filter((each) => each.op !== op);
    const inTurn = 'command' in done && this.#engine.commandNamed(done.command).inTurn === true;
    if (inTurn) {
      if (share.waiting.some((each) => each.seq === null && sameData(each.done, done)))
        throw new Fault('in-use', 'This waits for its turn already: see Setup, Devices.');
      // Whether it fits what is here is said at once; whether it fits what everybody has, when its turn comes.
      const row = await this.#perform(new Scratch(tx), share, waiting, here);
      await tx.settle(null, { ...share, refused, waiting: [...share.waiting, { ...waiting, title: row.title }] });
      return { row: null, waits: true };
    }
    const scratch = new Scratch(tx);
    const row = await this.#perform(scratch, share, waiting, { ...here, ...(again && { again }) });
    const added = row.changes.length > 0 ? [{ ...waiting, title: row.title, seq: row.seq }] : [];
    await tx.settle(scratch.settlement(), { ...share, refused, waiting: [...share.waiting, ...added] });
    return { row, waits: false };
  }

  /** The workspace as everybody has it, with nothing written. */
  async #confirmed(tx: SharedTransaction, share: Share): Promise<Scratch> {
    const scratch = new Scratch(tx);
    const count = share.waiting.filter(({ seq }) => seq !== null).length;
    for (const row of count > 0 ? await tx.newest(share.device, count) : []) scratch.takeBack(row);
    return scratch;
  }

  async #perform(
    scratch: Scratch,
    share: Share,
    { op, done, memberId }: Waiting,
    here: Here & { again?: true },
  ): Promise<JournalRow> {
    const context: ExecutionContext = {
      now: here.now,
      memberId,
      device: share.device,
      newId: idsOf(op),
      ...(here.asks && { asks: true }),
      ...(here.again && { again: true }),
    };
    if ('command' in done) {
      const { command, input, seen, position } = done;
      return this.#engine.perform(scratch, command, input, {
        ...context,
        ...(seen && { seen }),
        ...(position !== undefined && { position }),
      });
    }
    const of = typeof done.of === 'number' ? done.of : share.waiting.find((each) => each.op === done.of)?.seq;
    if (of === undefined || of === null) throw new Fault('nothing-to-undo', 'What this took back was never done.');
    if (!done.again) return this.#engine.undo(scratch, context, of);
    if ((await this.#engine.standing(scratch, share.device)).redo?.seq !== of)
      throw new Fault('nothing-to-undo', 'What this repeated is not what was taken back last any more.');
    return this.#engine.redo(scratch, context);
  }

  /** Lays a row of the log over what everybody has. @throws LogFault */
  async #apply(scratch: Scratch, number: number, { version, row }: LogBody): Promise<JournalRow> {
    const refuse = (why: string, kind: LogFault['kind'] = 'does not fit') => {
      throw new LogFault(kind, number, `Row ${number} of the log cannot be applied: ${why} Nothing was changed here.`);
    };
    if (version > SCHEMA_VERSION)
      refuse(
        'it was written by a newer Half Penny. Load the page again to bring this one up to date.',
        'from a newer version',
      );
    const [last] = await scratch.newest(row.device, 1);
    const { hash, ...content } = row;
    if (row.seq !== (last?.seq ?? 0) + 1 || row.previous !== (last?.hash ?? '') || sealed(content).hash !== hash)
      refuse('it does not follow what its device did before.');
    const changes = row.changes.map(({ table, id, before, after }) =>
      changeOf(table, id, currentImage(table, before), currentImage(table, after)),
    );
    const now = await rowsBefore(scratch, changes);
    const touched = new Set<string>();
    for (const { table, id, before } of changes) {
      if (touched.has(`${table} ${id}`)) continue;
      touched.add(`${table} ${id}`);
      if (!sameData(now(table, id), before)) refuse(`its device had another ${table} ${id} than this one.`);
    }
    await scratch.write(changes, { ...row, place: number });
    try {
      await this.#engine.check(scratch, lastWords(changes));
    } catch (thrown) {
      refuse(messageOf(thrown));
    }
    return row;
  }

  /** Plans what waits again, each on what the one before left. */
  async #again(scratch: Scratch, share: Share, here: Here): Promise<{ waiting: Waiting[]; refused: Refused[] }> {
    const waiting: Waiting[] = [];
    const refused: Refused[] = [];
    // What was refused and taken back here: it is done with, unless it was repeated after that.
    const undone = new Map<Id, Refused>();
    const so = () => ({ ...share, waiting });
    for (const each of share.waiting) {
      if (each.seq === null) {
        waiting.push(each);
        continue;
      }
      const of = 'of' in each.done ? each.done.of : null;
      // What took back something that was refused has come true.
      const gone = refused.findIndex(({ op }) => op === of);
      if (gone >= 0) {
        undone.set(refused[gone]!.op, refused[gone]!);
        refused.splice(gone, 1);
        continue;
      }
      const repeated = typeof of === 'string' && undone.get(of);
      if (repeated) {
        undone.delete(of);
        refused.push(repeated);
        continue;
      }
      try {
        const row = await this.#perform(scratch, so(), each, { now: each.at, memberId: each.memberId, again: true });
        if (row.changes.length > 0) waiting.push({ ...each, title: row.title, seq: row.seq });
      } catch (thrown) {
        refused.push(refusedOf(each, thrown, here.now));
      }
    }
    return { waiting, refused };
  }

  /** What waits after some is everybody's: what it takes back has its number for good. */
  #after(waiting: readonly Waiting[], confirmed: ReadonlyMap<Id, number>): Waiting[] {
    return waiting.map((each) => {
      const of = 'of' in each.done && typeof each.done.of === 'string' ? confirmed.get(each.done.of) : undefined;
      return of === undefined || !('of' in each.done) ? each : { ...each, done: { ...each.done, of } };
    });
  }
}

/** A change of this device by the doing that waits, where it waits still. */
const opOf = (share: Share, seq: number): Id | number => share.waiting.find((each) => each.seq === seq)?.op ?? seq;

const bodyOf = (op: Id, row: JournalRow): LogBody => ({ op, version: SCHEMA_VERSION, row });

const refusedOf = ({ seq: _, done, ...rest }: Waiting, thrown: unknown, refusedAt: number): Refused => ({
  ...rest,
  done: withoutPosition(done),
  why: messageOf(thrown),
  refusedAt,
});

/** Where somebody was then is nobody's business any more, and says nothing of where it is done again. */
function withoutPosition(done: Done): Done {
  if (!('command' in done)) return done;
  const { position: _, ...rest } = done;
  return rest;
}

const withRefused = (share: Share, refused: readonly Refused[]): Share => ({
  ...share,
  refused: [...share.refused, ...refused],
});

/** Where rows are what waits first, in order and as it stands here: each doing with its number; null otherwise. */
async function ownInOrder(
  tx: SharedTransaction,
  share: Share,
  rows: readonly OpenedRow[],
): Promise<Map<Id, number> | null> {
  const stays = new Map<Id, number>();
  for (const [index, { body }] of rows.entries()) {
    const waiting = share.waiting[index];
    if (waiting?.op !== body.op || waiting.seq !== body.row.seq) return null;
    const here = await tx.journalRow(share.device, body.row.seq);
    if (here?.hash !== body.row.hash) return null;
    stays.set(body.op, body.row.seq);
  }
  return stays;
}

/** Of rows that are touched more than once, from what was there before to what is left. */
function lastWords(changes: readonly Change[]): Change[] {
  const last = new Map<string, Change>();
  for (const change of changes) {
    const key = `${change.table} ${change.id}`;
    const first = last.get(key);
    last.set(key, first ? changeOf(change.table, change.id, first.before, change.after) : change);
  }
  return [...last.values()];
}
