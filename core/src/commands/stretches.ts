import * as z from 'zod';
import { carve, joinSpans, secondsOf } from '../entries/spans';
import { blankEntry, withTimes } from '../entries/timer';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import { spanSchema, type Entry, type Span } from '../model/records';
import { dayOf } from '../time/day';
import { overlapOf } from '../time/interval';
import { command, need, Plan } from '../engine/command';
import { putNewEntry, putEntry } from './entry-writes';
import type { Reader } from '../engine/store';
import { jobAfter, jobInput, serviceAfter, whoIsWorking } from './job-fields';

const MINUTE = 60_000;

const posted = z.strictObject({
  stretchIds: z.array(fields.id).min(1).max(500),
  ...jobInput,
  spans: z.array(spanSchema).min(1).max(2000),
  billableSeconds: fields.seconds.nullable(),
});

/** Makes entries of placed stretches. What was posted already is passed over, so that posting again after a mishap doubles nothing. */
export const postStretches = command({
  name: 'stretch.post',
  title: ({ entries }: { entries: unknown[] }) =>
    entries.length === 1 ? 'Entry posted' : `${entries.length} entries posted`,
  input: z.strictObject({
    memberId: fields.id.optional(),
    entries: z.array(posted).min(1).max(500),
    /** Times that other entries of the member have are taken out of those, instead of being counted twice. */
    takeOut: z.boolean().default(false),
  }),
  async plan(reader, input, context) {
    const member = await need(reader, 'members', input.memberId ?? whoIsWorking(context), 'member');
    const ids = input.entries.flatMap((each) => each.stretchIds);
    const known = new Set((await reader.by('entries', '*stretchIds', ids)).flatMap((entry) => entry.stretchIds));
    const plan = new Plan();
    for (const { stretchIds, spans, billableSeconds, ...work } of input.entries) {
      if (stretchIds.some((id) => known.has(id))) continue;
      stretchIds.forEach((id) => known.add(id));
      const whole = wholeSeconds(joinSpans([spans]));
      if (whole[whole.length - 1]!.end > context.now + MINUTE)
        throw new Fault('in-the-future', 'This time has not passed yet; post it when it has.', 'spans');
      const seconds = secondsOf(whole);
      const entry = blankEntry({
        id: context.newId(),
        memberId: member.id,
        day: dayOf(whole[0]!.start, member.zone),
        seconds,
        ...jobAfter(work),
        ...serviceAfter(work),
        note: work.note,
        billableSeconds: billableSeconds === null ? null : Math.min(billableSeconds, seconds),
        stretchIds,
      });
      if (input.takeOut) await takeOut(plan, reader, member, whole);
      putNewEntry(plan, withTimes(entry, whole, member.zone));
    }
    if (plan.rows.size === 0) throw new Fault('already', 'All of this has been posted already.', 'entries');
    return plan;
  },
});

/** Seen to the millisecond, recorded by the second: each time is cut to whole ones, and what is left goes on to the next. */
function wholeSeconds(spans: readonly Span[]): Span[] {
  const whole: Span[] = [];
  let over = 0;
  for (const { start, end } of spans) {
    const length = end - start + over;
    over = length % 1000;
    if (length >= 1000) whole.push({ start, end: start + length - over });
  }
  if (whole.length === 0) throw new Fault('nothing-left', 'Less than a second was seen of this.', 'spans');
  // What was handed on may not reach into the next one.
  return whole
    .map((span, index) => {
      const next = whole[index + 1];
      return next && span.end > next.start ? { ...span, end: span.end - 1000 } : span;
    })
    .filter((span) => span.end > span.start);
}

/** Takes times out of the other entries of a member. */
async function takeOut(
  plan: Plan,
  reader: Reader,
  member: { id: string; zone: string },
  spans: readonly Span[],
): Promise<void> {
  const days = new Set(spans.map((span) => dayOf(span.start, member.zone)));
  for (const day of days) {
    for (const before of await reader.by('entries', 'memberId+day', [[member.id, day]])) {
      const now = (plan.rows.get(`entries ${before.id}`)?.after as Entry | undefined) ?? before;
      let left = now.spans;
      for (const span of spans) if (left.some((own) => overlapOf(own, span) > 0)) left = carve(left, span);
      if (left === now.spans) continue;
      if (left.length === 0) {
        throw new Fault(
          'nothing-left',
          `Nothing would be left of “${before.note.slice(0, 60) || 'an entry'}”. Move that entry to the job instead.`,
          'takeOut',
        );
      }
      await putEntry(plan, reader, before, withTimes(now, left, member.zone));
    }
  }
}
