import * as z from 'zod';
import { carve } from '../entries/spans';
import { blankEntry, endOfTimer, entryOfTimer, withTimes, workOf } from '../entries/timer';
import { guardChecked } from '../checking/guard';
import { Fault, Question } from '../faults/fault';
import { changeOf } from '../model/change';
import * as fields from '../model/fields';
import type { Entry, Timer } from '../model/records';
import { dayOf, minuteOf } from '../time/day';
import { showExactly, showMinute } from '../time/length';
import { command, type CommandContext, defined, need, Plan } from '../engine/command';
import { putNewEntry, isIssued, putEntry } from './entry-writes';
import type { Reader } from '../engine/store';
import { jobAfter, jobInput, refuseFuture, refuseLacking, serviceAfter, whoIsWorking } from './job-fields';

/** Starts on a job; what runs is stopped at the very moment the new one starts. */
export const startTimer = command({
  name: 'timer.start',
  title: 'Timer started',
  input: z.strictObject({ id: fields.id.optional(), ...jobInput, startedAt: fields.instant.optional() }),
  async plan(reader, input, context) {
    const memberId = whoIsWorking(context);
    const member = await need(reader, 'members', memberId, 'member');
    const work = { ...jobAfter(input), ...serviceAfter(input), note: input.note };
    refuseLacking(member, work);
    const plan = new Plan();
    const id = input.id ?? context.newId();
    const timer = { id, memberId, ...work, entryId: null };
    const ended = await endedByLater(plan, reader, { ...timer, startedAt: input.startedAt ?? context.now }, context);
    if (ended) return plan;
    const startedAt = await switchAt(plan, reader, memberId, input.startedAt, context);
    return plan.put('timers', { ...timer, startedAt });
  },
});

/** Goes on with an entry, so that the time adds to it. What is invoiced already is gone on with as a new entry of the same job. */
export const resumeEntry = command({
  name: 'timer.resume',
  title: 'Timer goes on',
  input: z.strictObject({ entryId: fields.id, startedAt: fields.instant.optional() }),
  async plan(reader, input, context) {
    const { newId } = context;
    const entry = await need(reader, 'entries', input.entryId, 'entry');
    const { memberId } = entry;
    const member = await need(reader, 'members', memberId, 'member');
    const plan = new Plan();
    const id = newId();
    const timer = { id, memberId, ...workOf(entry), entryId: null };
    const ended = await endedByLater(plan, reader, { ...timer, startedAt: input.startedAt ?? context.now }, context);
    if (ended) return plan;
    const startedAt = await switchAt(plan, reader, memberId, input.startedAt, context);
    const issued = await isIssued(reader, entry.id);
    // Without times, what is added would count for the entry's own day: on another day that would be wrong.
    const addable =
      !issued &&
      !(await isHeld(reader, entry, context)) &&
      (entry.spans.length > 0 || entry.day === dayOf(startedAt, member.zone));
    return plan.put('timers', { ...timer, startedAt, entryId: addable ? entry.id : null });
  },
});

/** Whether an entry is kept as it is: what goes on with it is an entry of its own. */
async function isHeld(reader: Reader, entry: Entry, context: CommandContext): Promise<boolean> {
  const grown = changeOf('entries', entry.id, entry, { ...entry, seconds: entry.seconds + 1 });
  try {
    await guardChecked(reader, [grown], context);
    return false;
  } catch (thrown) {
    if (thrown instanceof Fault) return true;
    throw thrown;
  }
}

/**
 * Changes what runs: its job, its note, when it began.
 *
 * @throws Fault where it would begin in the future
 */
export const editTimer = command({
  name: 'timer.edit',
  title: 'Running time changed',
  input: z
    .strictObject({ id: fields.id, ...jobInput, startedAt: fields.instant })
    .partial()
    .required({ id: true }),
  async plan(reader, input, { now }) {
    const timer = await need(reader, 'timers', input.id, 'timer');
    if (input.startedAt !== undefined) refuseFuture(input.startedAt, now);
    return new Plan().put('timers', {
      ...timer,
      ...defined(input),
      ...jobAfter(input, timer),
      ...serviceAfter(input, timer),
    });
  },
});

/**
 * Stops a timer and records what it came to, until now or a moment that is said; where the clock was set back meanwhile, until it was last
 * seen running.
 *
 * @throws Fault where that is before its start or in the future
 */
export const stopTimer = command({
  name: 'timer.stop',
  title: 'Timer stopped',
  input: z.strictObject({ id: fields.id, at: fields.instant.optional() }),
  async plan(reader, input, context) {
    const { now } = context;
    // A later start elsewhere ended it meanwhile: what it came to is recorded.
    if (context.again && !(await reader.get('timers', input.id)) && (await reader.get('entries', input.id)))
      return new Plan();
    const timer = await need(reader, 'timers', input.id, 'timer');
    if (input.at !== undefined) refuseFuture(input.at, now);
    const at = input.at ?? (await endBySight(reader, timer, context));
    if (input.at !== undefined && at <= timer.startedAt)
      throw new Fault('end-before-start', 'The end is before the start.', 'at');
    const plan = new Plan();
    await stopInto(plan, reader, timer, at);
    return plan;
  },
});

/** Discards a timer; nothing is recorded. */
export const discardTimer = command({
  name: 'timer.discard',
  title: 'Running time discarded',
  input: z.strictObject({ id: fields.id }),
  plan: async (reader, input) => new Plan().remove('timers', (await need(reader, 'timers', input.id, 'timer')).id),
});

/**
 * Says what became of a stretch of time that is in doubt: the work ended at `from`, and what lies between `from` and `to` was on another
 * job, or none. What runs goes on from `to`; an entry keeps what lies before and after.
 */
export const settleDoubt = command({
  name: 'time.settle',
  title: 'Doubtful time settled',
  input: z.strictObject({
    timerId: fields.id.optional(),
    entryId: fields.id.optional(),
    from: fields.instant,
    to: fields.instant,
    rest: z.strictObject({ ...jobInput }).nullable(),
  }),
  async plan(reader, input, { newId, now }) {
    const { from, rest } = input;
    const to = Math.min(input.to, now);
    if (to <= from) throw new Fault('end-before-start', 'The end is before the start.', 'from');
    const plan = new Plan();
    let end = from;
    let memberId;
    if (input.timerId) {
      const timer = await need(reader, 'timers', input.timerId, 'timer');
      memberId = timer.memberId;
      end = await stopInto(plan, reader, timer, Math.max(from, timer.startedAt));
      const worked = plan.rows.get(`entries ${timer.entryId ?? timer.id}`)?.after as Entry | undefined;
      plan.put('timers', {
        ...timer,
        id: worked ? newId() : timer.id,
        startedAt: to,
        entryId: worked?.id ?? timer.entryId,
      });
    } else if (input.entryId) {
      const entry = await need(reader, 'entries', input.entryId, 'entry');
      memberId = entry.memberId;
      const member = await need(reader, 'members', memberId, 'member');
      const spans = carve(entry.spans, { start: from, end: to });
      if (spans.length === 0) {
        throw new Fault(
          'nothing-left',
          'Nothing of the entry would be left. Delete it, or move it to the other job.',
          'from',
        );
      }
      end = spans.findLast((span) => span.end <= from)?.end ?? from;
      await putEntry(plan, reader, entry, withTimes(entry, spans, member.zone));
    } else throw new Fault('empty', 'Say what the doubtful time belongs to.', 'entryId');
    const seconds = Math.floor((to - end) / 1000);
    if (rest && seconds > 0) {
      const member = await need(reader, 'members', memberId, 'member');
      const work = { ...jobAfter(rest), ...serviceAfter(rest), note: rest.note };
      const other = blankEntry({ id: newId(), memberId, day: '', seconds, ...work });
      putNewEntry(plan, withTimes(other, [{ start: end, end: end + seconds * 1000 }], member.zone));
    }
    return plan;
  },
});

/**
 * Stops what runs for a member, and says when what comes next starts: to the millisecond where the other ends, so that no second is
 * lost or counted twice.
 *
 * @throws Fault where it was said to start before what runs did
 */
async function switchAt(
  plan: Plan,
  reader: Reader,
  memberId: string,
  asked: number | undefined,
  context: CommandContext,
): Promise<number> {
  const { now } = context;
  const at = asked ?? now;
  refuseFuture(at, now);
  const [running] = await reader.by('timers', 'memberId', [memberId]);
  if (!running) return at;
  if (asked !== undefined && asked <= running.startedAt) {
    const member = await need(reader, 'members', memberId, 'member');
    throw new Fault(
      'end-before-start',
      `What runs now was started at ${showMinute(minuteOf(running.startedAt, member.zone))}; nothing can start before it. Stop it first.`,
      'startedAt',
    );
  }
  const end = asked ?? (await endBySight(reader, running, context));
  return Math.min(at, await stopInto(plan, reader, running, end));
}

/** A clock is set by a few seconds all the time; that is no matter. */
const SET_BACK = 60_000;

/**
 * When what runs ends if it is stopped now. Where the clock was set back while it ran, it ends when it was last seen: no time is swallowed.
 *
 * @throws Question about that, where somebody is there to be asked
 * @throws Fault where the clock stands before the start and nobody saw it running
 */
async function endBySight(reader: Reader, timer: Timer, { now, seen, asks }: CommandContext): Promise<number> {
  const last = seen?.timerId === timer.id ? seen.at : now;
  if (last - now < SET_BACK && timer.startedAt - now < SET_BACK) return now;
  const { zone } = await need(reader, 'members', timer.memberId, 'member');
  const clock = (at: number) => showMinute(minuteOf(at, zone));
  if (last <= timer.startedAt) {
    throw new Fault(
      'clock-set-back',
      `The clock says ${clock(now)}, and this was started at ${clock(timer.startedAt)}: it was set back meanwhile. Set the start, or discard what runs.`,
      'at',
    );
  }
  const length = showExactly(Math.floor((last - timer.startedAt) / 1000));
  if (asks) {
    throw new Question(
      'clock-set-back',
      `The clock was set back while this ran: it says ${clock(now)} now. It was started at ${clock(timer.startedAt)} and last seen running at ${clock(last)}, ${length}. Is it right?`,
      `Record ${length}`,
      'at',
    );
  }
  return last;
}

/**
 * Somebody has one timer over all devices. Where another was started later meanwhile, this one ended at that moment: what lies between is
 * recorded, and the later one runs on.
 *
 * @returns whether that is so
 */
async function endedByLater(plan: Plan, reader: Reader, timer: Timer, { again }: CommandContext): Promise<boolean> {
  const [running] = again ? await reader.by('timers', 'memberId', [timer.memberId]) : [];
  if (!running || running.startedAt <= timer.startedAt) return false;
  await stopInto(plan, reader, timer, running.startedAt);
  return true;
}

/** Puts what a stopped timer leaves, and returns the moment it ends. */
async function stopInto(plan: Plan, reader: Reader, timer: Timer, at: number): Promise<number> {
  const member = await need(reader, 'members', timer.memberId, 'member');
  const goneOnWith = timer.entryId === null ? null : await need(reader, 'entries', timer.entryId, 'entry');
  // Invoiced while the timer ran: the invoice stays as it was sent, and the time becomes an entry of its own.
  const before = goneOnWith && (await isIssued(reader, goneOnWith.id)) ? null : goneOnWith;
  const entry = entryOfTimer(timer, at, member.zone, before);
  plan.remove('timers', timer.id);
  if (entry && before) await putEntry(plan, reader, before, entry);
  else if (entry) putNewEntry(plan, entry);
  return endOfTimer(timer, at);
}
