import { onInvoice, putEntries, putEntry, putNewEntry, refuseIssued } from './entry-writes';
import * as z from 'zod';
import { billableOf } from '../billing/billed-lengths';
import { isApproved } from '../checking/standing';
import { joinSpans, shiftSpans, splitSpans, startOf, withLength } from '../entries/spans';
import { blankEntry, withTimes } from '../entries/timer';
import { jobKey } from '../entries/week';
import { sameData } from '../model/canonical';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import { joinTags, tagsOf, withoutTags } from '../model/tags';
import type { Id } from '../model/ids';
import { entrySchema, spanSchema, type Allocation, type Entry, type Member } from '../model/records';
import { shareOut } from '../money/share';
import { command, defined, need, Plan, needAll } from '../engine/command';
import type { Reader } from '../engine/store';
import { jobAfter, jobInput, serviceAfter, whoIsWorking } from './job-fields';

const entryFields = {
  memberId: fields.id,
  day: fields.day,
  ...jobInput,
  seconds: fields.length,
  spans: z.array(spanSchema).max(2000),
  billableSeconds: fields.seconds.nullable(),
  rate: entrySchema.shape.rate,
  planId: fields.id.nullable(),
  tags: entrySchema.shape.tags,
};

/**
 * Adds an entry of so many seconds, with its times where they are known. Without a member it is of who works.
 *
 * @throws Fault where its times do not come to its length
 */
export const addEntry = command({
  name: 'entry.add',
  title: 'Entry added',
  input: z
    .strictObject({ id: fields.id, ...entryFields })
    .partial({ id: true, memberId: true, spans: true, billableSeconds: true, rate: true, planId: true }),
  async plan(reader, input, context) {
    const member = await need(reader, 'members', input.memberId ?? whoIsWorking(context), 'member');
    const entry = blankEntry({
      ...defined(input),
      id: input.id ?? context.newId(),
      memberId: member.id,
      day: input.day,
      seconds: input.seconds,
      ...jobAfter(input),
      ...serviceAfter(input),
    });
    // Times that do not come to the length are refused by the record's own rule.
    const timed =
      entry.spans.length > 0 ? { ...withTimes(entry, entry.spans, member.zone), seconds: input.seconds } : entry;
    return putNewEntry(new Plan(), timed);
  },
});

/**
 * Changes an entry: times follow a typed length and a new day, the length follows typed times.
 *
 * @throws Fault where it is on an issued invoice and what stands there would change
 */
export const editEntry = command({
  name: 'entry.edit',
  title: 'Entry changed',
  input: z
    .strictObject({ id: fields.id, ...entryFields })
    .partial()
    .required({ id: true }),
  async plan(reader, input) {
    const before = await need(reader, 'entries', input.id, 'entry');
    const plan = new Plan();
    const member = await need(reader, 'members', input.memberId ?? before.memberId, 'member');
    await putEntry(plan, reader, before, edited(before, input, member));
    return plan;
  },
});

const some = (ids: readonly Id[]) => (ids.length === 1 ? 'Entry' : `${ids.length} entries`);
const idList = z.array(fields.id).min(1).max(20_000);

/** The same change to several entries: another day, job, service, or whether they are billable. */
export const editEntries = command({
  name: 'entry.editAll',
  title: ({ ids }: { ids: Id[] }) => `${some(ids)} changed`,
  input: z
    .strictObject({ ids: idList, ...entryFields })
    .omit({ memberId: true, seconds: true, spans: true, planId: true })
    .partial()
    .required({ ids: true }),
  async plan(reader, { ids, ...input }) {
    const plan = new Plan();
    const entries = await needAll(reader, 'entries', ids, 'entry');
    const memberOf = await membersOf(reader, entries);
    await putEntries(
      plan,
      reader,
      entries.map((before) => [before, edited(before, input, memberOf(before))] as const),
    );
    return plan;
  },
});

type Edit = { [K in keyof Omit<Entry, 'id' | 'laterDays' | 'source'>]?: Entry[K] | undefined };

/** An entry after an edit: times follow a typed length and a new day, and the length follows typed times. */
function edited(before: Entry, input: Edit, member: Member): Entry {
  const after: Entry = {
    ...before,
    ...defined(input),
    ...jobAfter(input, before),
    ...serviceAfter(input, before),
  };
  let { spans } = before;
  if (input.spans) spans = input.spans;
  else {
    if (input.day !== undefined && input.day !== before.day) {
      spans = shiftSpans(spans, before.day, input.day, member.zone);
    }
    if (input.seconds !== undefined) spans = withLength(spans, input.seconds);
  }
  const seconds = after.seconds;
  const timed = spans.length > 0 ? withTimes(after, spans, member.zone) : withTimes(after, seconds, member.zone);
  if (input.spans && input.seconds !== undefined) timed.seconds = input.seconds;
  // A billable part that was longer than the new length shrinks with it.
  if (input.billableSeconds === undefined && timed.billableSeconds !== null) {
    timed.billableSeconds = Math.min(timed.billableSeconds, timed.seconds);
  }
  return timed;
}

const tagList = entrySchema.shape.tags.unwrap();

/** Tags given to entries and taken off them; others that they have stay. */
export const tagEntries = command({
  name: 'entry.tag',
  title: ({ ids }: { ids: Id[] }) => `${some(ids)} tagged`,
  input: z.strictObject({ ids: idList, add: tagList, remove: tagList }),
  async plan(reader, { ids, add, remove }) {
    const plan = new Plan();
    const entries = await needAll(reader, 'entries', ids, 'entry');
    await putEntries(
      plan,
      reader,
      entries.map((before) => {
        const { tags, ...entry } = before;
        return [before, { ...entry, ...tagged(joinTags(withoutTags(tags ?? [], remove), add)) }] as const;
      }),
    );
    return plan;
  },
});

/** The field of tags; left out where there are none, as in entries that never had any. */
const tagged = (tags: string[]): Pick<Entry, 'tags'> => (tags.length > 0 ? { tags } : {});

/**
 * Deletes entries, off drafts as well.
 *
 * @throws Fault where one is on an issued invoice
 */
export const removeEntries = command({
  name: 'entry.remove',
  title: ({ ids }: { ids: Id[] }) => `${some(ids)} deleted`,
  input: z.strictObject({ ids: idList }),
  async plan(reader, input) {
    const plan = new Plan();
    for (const each of await reader.by('allocations', 'entryId', input.ids)) {
      if (each.amount !== null) throw new Fault('issued', await onInvoice(reader, each.entryId!), 'ids');
      plan.remove('allocations', each.id);
    }
    for (const each of await reader.by('adjustments', 'entryId', input.ids)) plan.remove('adjustments', each.id);
    for (const { id } of await needAll(reader, 'entries', input.ids, 'entry')) plan.remove('entries', id);
    return plan;
  },
});

/** One entry as two, after so many seconds of work; what is billable of it and stands on a draft is shared in proportion. */
export const splitEntry = command({
  name: 'entry.split',
  title: 'Entry split',
  input: z.strictObject({ id: fields.id, after: fields.length, secondId: fields.id.optional() }),
  async plan(reader, input, { newId }) {
    const entry = await need(reader, 'entries', input.id, 'entry');
    if (input.after >= entry.seconds) {
      throw new Fault(
        'outside',
        'The split lies outside the entry: each part must be at least a second long.',
        'after',
        {
          seconds: entry.seconds,
        },
      );
    }
    await refuseIssued(reader, [entry.id]);
    const member = await need(reader, 'members', entry.memberId, 'member');
    const lengths = [input.after, entry.seconds - input.after];
    const billable = entry.billableSeconds === null ? [null, null] : shareOut(entry.billableSeconds, lengths);
    const times: (Entry['spans'] | number)[] = entry.spans.length > 0 ? splitSpans(entry.spans, input.after) : lengths;
    const parts = times.map((each, index) => ({
      ...withTimes(entry, each, member.zone),
      billableSeconds: billable[index]!,
    }));
    parts[1] = { ...parts[1]!, id: input.secondId ?? newId(), planId: null, source: '', stretchIds: [] };
    const plan = putNewEntry(new Plan(), parts[1]);
    await putEntry(plan, reader, entry, parts[0]!);
    for (const draft of await reader.by('allocations', 'entryId', [entry.id])) {
      const shares = parts.map((part) => billableOf(part));
      plan.remove('allocations', draft.id);
      parts.forEach((part, index) => {
        if (shares[index]! > 0)
          plan.put('allocations', {
            ...draft,
            id: index ? newId() : draft.id,
            entryId: part.id,
            seconds: shares[index]!,
          });
      });
    }
    return plan;
  },
});

/** Several entries of one member and job as one that has their length, times and notes; the first one stays. */
export const joinEntries = command({
  name: 'entry.join',
  title: ({ ids }: { ids: Id[] }) => `${ids.length} entries joined`,
  input: z.strictObject({ ids: z.array(fields.id).min(2, 'Choose at least two entries to join.').max(500) }),
  async plan(reader, input) {
    const ids = [...new Set(input.ids)];
    const entries = await needAll(reader, 'entries', ids, 'entry');
    entries.sort((a, b) =>
      a.day < b.day ? -1 : a.day > b.day ? 1 : (startOf(a) ?? Infinity) - (startOf(b) ?? Infinity),
    );
    const [first, ...others] = entries as [Entry, ...Entry[]];
    refuseUnlike(first, others);
    await refuseIssued(reader, ids);
    const member = await need(reader, 'members', first.memberId, 'member');
    const timed = entries.every((entry) => entry.spans.length > 0);
    if (!timed && others.some((each) => each.day !== first.day)) {
      throw new Fault(
        'mixed',
        'These are of different days and not all have times. Move them to one day first.',
        'ids',
      );
    }
    const seconds = entries.reduce((sum, entry) => sum + entry.seconds, 0);
    const billable = entries.reduce((sum, entry) => sum + billableOf(entry), 0);
    const { approval, ...rest } = first;
    const joined: Entry = {
      ...withTimes(rest, timed ? joinSpans(entries.map((entry) => entry.spans)) : seconds, member.zone),
      note: [...new Set(entries.map((entry) => entry.note.trim()).filter(Boolean))].join('; '),
      billableSeconds: entries.every((entry) => entry.billableSeconds === null) ? null : billable,
      planId: entries.find((entry) => entry.planId !== null)?.planId ?? null,
      stretchIds: entries.flatMap((entry) => entry.stretchIds),
      ...tagged(joinTags(...entries.map(tagsOf))),
      // Approved only where all of it was.
      ...(approval && entries.every(isApproved) && { approval }),
    };
    const plan = new Plan();
    await putEntry(plan, reader, first, joined);
    for (const each of others) plan.remove('entries', each.id);
    await joinAllocations(plan, reader, ids, joined);
    return plan;
  },
});

/** What stood on one draft stands there as one; where it stood on none or several, it is to be put there again. */
async function joinAllocations(plan: Plan, reader: Reader, ids: readonly Id[], joined: Entry): Promise<void> {
  const allocations = await reader.by('allocations', 'entryId', ids);
  for (const each of allocations) plan.remove('allocations', each.id);
  const drafts = new Set(allocations.map((each) => each.invoiceId));
  const [kept] = allocations;
  if (!kept) return;
  const seconds = allocations.reduce((sum, each) => sum + each.seconds, 0);
  if (drafts.size > 1) {
    throw new Fault('mixed', 'These stand on different invoices. Take them off the drafts first.', 'ids');
  }
  plan.put('allocations', { ...kept, entryId: joined.id, seconds } satisfies Allocation);
}

function refuseUnlike(first: Entry, others: readonly Entry[]): void {
  for (const other of others) {
    if (other.memberId !== first.memberId)
      throw new Fault('mixed', 'These are of different people and stay apart.', 'ids');
    if (jobKey(other) !== jobKey(first)) {
      throw new Fault('mixed', 'These are on different jobs. Move them onto one job first.', 'ids');
    }
    if (other.serviceId !== first.serviceId) {
      throw new Fault('mixed', 'These are of different services. Give them one service first.', 'ids');
    }
    if (!sameData(other.rate, first.rate)) {
      throw new Fault('mixed', 'These were agreed at different rates. Give them one rate first.', 'ids');
    }
  }
}

/** Entries once more: on another day at the same times, on the same day by their length alone. */
export const duplicateEntries = command({
  name: 'entry.duplicate',
  title: ({ ids }: { ids: Id[] }) => `${some(ids)} duplicated`,
  input: z.strictObject({ ids: idList, day: fields.day.optional() }),
  async plan(reader, input, { newId }) {
    const plan = new Plan();
    const entries = await needAll(reader, 'entries', input.ids, 'entry');
    const memberOf = await membersOf(reader, entries);
    for (const entry of entries) {
      // A copy was looked at by nobody.
      const { approval: _looks, sentBack: _given, ...blank } = entry;
      const copy: Entry = { ...blank, id: newId(), planId: null, source: '', stretchIds: [] };
      putNewEntry(plan, copied(copy, input.day ?? entry.day, memberOf(entry)));
    }
    return plan;
  },
});

/** Whose entries are, each member read once. */
async function membersOf(reader: Reader, entries: readonly Entry[]): Promise<(entry: Entry) => Member> {
  const ids = entries.map((entry) => entry.memberId);
  const members = new Map((await needAll(reader, 'members', ids, 'member')).map((row) => [row.id, row]));
  return (entry) => members.get(entry.memberId)!;
}

function copied(entry: Entry, day: string, { zone }: Member): Entry {
  if (day === entry.day || entry.spans.length === 0) return { ...withTimes(entry, entry.seconds, zone), day };
  return withTimes(entry, shiftSpans(entry.spans, entry.day, day, zone), zone);
}
