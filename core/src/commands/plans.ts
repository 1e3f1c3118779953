import { putEntries, putNewEntry } from './entry-writes';
import * as z from 'zod';
import { shiftSpans } from '../entries/spans';
import { blankEntry, withTimes, workOf } from '../entries/timer';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import type { PlannedTime } from '../model/records';
import { addDays } from '../time/day';
import { command, defined, need, Plan, needAll } from '../engine/command';
import { jobAfter, jobInput, serviceAfter, whoIsWorking } from './job-fields';

const planFields = {
  memberId: fields.id,
  day: fields.day,
  ...jobInput,
  seconds: fields.length,
  start: fields.instant.nullable(),
};

/** Plans the same hours on one day or several. */
export const addPlans = command({
  name: 'plan.add',
  title: ({ days }: { days: string[] }) => (days.length === 1 ? 'Time planned' : `Time planned on ${days.length} days`),
  input: z
    .strictObject({ ...planFields, days: z.array(fields.day).min(1).max(400) })
    .omit({ day: true })
    .partial({ memberId: true, start: true }),
  async plan(reader, input, context) {
    const member = await need(reader, 'members', input.memberId ?? whoIsWorking(context), 'member');
    const { days, seconds, note, start = null } = input;
    const plan = new Plan();
    for (const day of new Set(days)) {
      const [span] = start === null ? [] : shiftSpans([{ start, end: start + 1000 }], days[0]!, day, member.zone);
      plan.put('plans', {
        id: context.newId(),
        memberId: member.id,
        day,
        ...jobAfter(input),
        ...serviceAfter(input),
        note,
        seconds,
        start: span?.start ?? null,
        source: '',
        guests: '',
      });
    }
    return plan;
  },
});

/** Changes planned time: its days, its length, its job. */
export const editPlan = command({
  name: 'plan.edit',
  title: 'Planned time changed',
  input: z
    .strictObject({ id: fields.id, ...planFields })
    .partial()
    .required({ id: true }),
  async plan(reader, input) {
    const before = await need(reader, 'plans', input.id, 'planned time');
    return new Plan().put('plans', {
      ...before,
      ...defined(input),
      ...jobAfter(input, before),
      ...serviceAfter(input, before),
    });
  },
});

/** Planned time to other days, or to another member: each as many days later or earlier, at its time of day. */
export const movePlans = command({
  name: 'plan.move',
  title: ({ ids }: { ids: Id[] }) => (ids.length === 1 ? 'Planned time moved' : `${ids.length} planned times moved`),
  input: z.strictObject({
    ids: z.array(fields.id).min(1).max(5000),
    days: z.int().min(-3660).max(3660),
    /** Whose it is from then on; who had it where left out. */
    memberId: fields.id.optional(),
  }),
  async plan(reader, { ids, days, memberId }) {
    const plan = new Plan();
    const rows = await needAll(reader, 'plans', ids, 'planned time');
    const read = rows.find(({ source }) => source !== '');
    if (read)
      throw new Fault(
        'stays',
        `“${(read.note || 'This').slice(0, 60)}” comes from a calendar, and would be put back as that is read again. Move it there.`,
        'ids',
        { id: read.id },
      );
    const to = memberId === undefined ? undefined : await need(reader, 'members', memberId, 'member');
    for (const row of rows) {
      const { zone } = to ?? (await need(reader, 'members', row.memberId, 'member'));
      const day = addDays(row.day, days);
      const [span] =
        row.start === null ? [] : shiftSpans([{ start: row.start, end: row.start + 1000 }], row.day, day, zone);
      plan.put('plans', { ...row, day, start: span?.start ?? null, memberId: to?.id ?? row.memberId });
    }
    return plan;
  },
});

/** Takes planned time away; what was recorded of it stays. */
export const removePlans = command({
  name: 'plan.remove',
  title: ({ ids }: { ids: Id[] }) =>
    ids.length === 1 ? 'Planned time removed' : `${ids.length} planned times removed`,
  input: z.strictObject({ ids: z.array(fields.id).min(1).max(5000) }),
  async plan(reader, input) {
    const plan = new Plan();
    const entries = await reader.by('entries', 'planId', input.ids);
    await putEntries(
      plan,
      reader,
      entries.map((entry) => [entry, { ...entry, planId: null }] as const),
    );
    for (const { id } of await needAll(reader, 'plans', input.ids, 'planned time')) plan.remove('plans', id);
    return plan;
  },
});

/** Planned time becomes entries, as long as planned; a single one as long as it came to. */
export const takePlans = command({
  name: 'plan.take',
  title: ({ ids }: { ids: Id[] }) =>
    ids.length === 1 ? 'Planned time recorded' : `${ids.length} planned times recorded`,
  input: z.strictObject({ ids: z.array(fields.id).min(1).max(5000), seconds: fields.length.optional() }),
  async plan(reader, input, { newId }) {
    const plan = new Plan();
    if ((await reader.by('entries', 'planId', input.ids)).length > 0) {
      throw new Fault('already', 'This has been recorded already.', 'ids');
    }
    const taken = await needAll(reader, 'plans', input.ids, 'planned time');
    const whose = taken.map((planned) => planned.memberId);
    const members = new Map((await needAll(reader, 'members', whose, 'member')).map((row) => [row.id, row]));
    for (const planned of taken) {
      const { id, memberId, day, start } = planned;
      const member = members.get(memberId)!;
      const seconds = input.seconds ?? planned.seconds;
      const entry = blankEntry({
        id: newId(),
        memberId,
        day,
        seconds,
        ...workOf(planned),
        planId: id,
      });
      const timed = start === null ? entry : withTimes(entry, [{ start, end: start + seconds * 1000 }], member.zone);
      putNewEntry(plan, timed);
    }
    return plan;
  },
});

const eventSchema = z.strictObject({
  day: fields.day,
  start: fields.instant.nullable(),
  seconds: fields.length,
  note: fields.text,
  guests: fields.text,
  source: fields.text.min(1).max(2000),
  projectId: fields.id.nullable(),
});

/**
 * Takes in events of a calendar as planned time. One that was read before is brought up to date, unless it was recorded already; its
 * job, if one was given here, stays.
 */
export const takeCalendar = command({
  name: 'calendar.take',
  title: ({ events }: { events: unknown[] }) =>
    events.length === 1 ? 'Event imported' : `${events.length} events imported`,
  input: z.strictObject({ memberId: fields.id.optional(), events: z.array(eventSchema).min(1).max(20_000) }),
  async plan(reader, input, context) {
    const memberId = input.memberId ?? whoIsWorking(context);
    await need(reader, 'members', memberId, 'member');
    const plan = new Plan();
    const sources = input.events.map((event) => event.source);
    const known = new Map<string, PlannedTime>();
    for (const row of await reader.by('plans', 'source', sources))
      if (row.memberId === memberId) known.set(row.source, row);
    const recorded = new Set(
      (
        await reader.by(
          'entries',
          'planId',
          [...known.values()].map((row) => row.id),
        )
      ).map((entry) => entry.planId),
    );
    for (const event of input.events) {
      const before = known.get(event.source);
      if (before && recorded.has(before.id)) continue;
      const none = { unlisted: '', taskId: null, serviceId: null, kindOfWorkId: null };
      const fresh = { id: context.newId(), memberId, ...none };
      const job = before?.projectId || before?.unlisted ? { projectId: before.projectId } : {};
      plan.put('plans', { ...(before ?? fresh), ...event, ...job });
    }
    return plan;
  },
});
