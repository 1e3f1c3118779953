import { refuseFarSpans } from '../engine/moments';
import type { Entry, Timer } from '../model/records';
import { dayOf, type Zone } from '../time/day';
import type { Instant } from '../time/interval';
import { LONGEST, type Seconds } from '../time/length';
import { joinSpans, laterDaysOf, secondsOf } from './spans';

/** Whole seconds on the clock; never negative, whatever the machine's clock did meanwhile. */
export const runningSeconds = (timer: Pick<Timer, 'startedAt'>, now: Instant): Seconds =>
  Math.max(0, Math.floor((now - timer.startedAt) / 1000));

/** Where a timer that is stopped at `at` ends: a whole number of seconds after its start, so that what follows begins right there. */
export const endOfTimer = (timer: Pick<Timer, 'startedAt'>, at: Instant): Instant =>
  timer.startedAt + Math.min(runningSeconds(timer, at), LONGEST) * 1000;

/** An entry that nothing is known of but what is given. */
export const blankEntry = (fields: Pick<Entry, 'id' | 'memberId' | 'day' | 'seconds'> & Partial<Entry>): Entry => ({
  laterDays: [],
  projectId: null,
  unlisted: '',
  taskId: null,
  serviceId: null,
  kindOfWorkId: null,
  note: '',
  spans: [],
  billableSeconds: null,
  rate: null,
  planId: null,
  source: '',
  stretchIds: [],
  ...fields,
});

/** What a piece of time was on, and what was done. */
export const workOf = ({
  projectId,
  unlisted,
  taskId,
  serviceId,
  kindOfWorkId,
  note,
}: Pick<Timer, WorkField>): Pick<Timer, WorkField> => ({ projectId, unlisted, taskId, serviceId, kindOfWorkId, note });
type WorkField = 'projectId' | 'unlisted' | 'taskId' | 'serviceId' | 'kindOfWorkId' | 'note';

/**
 * The entry that a stopped timer leaves, or null when less than a second ran. It counts for the day it started on, in the
 * member's zone, and keeps the timer's id; where the timer goes on with an entry, it is that one with the time added.
 */
export function entryOfTimer(timer: Timer, stoppedAt: Instant, zone: Zone, before?: Entry | null): Entry | null {
  const end = endOfTimer(timer, stoppedAt);
  if (end === timer.startedAt) return before ?? null;
  const { id, memberId, startedAt } = timer;
  const job = workOf(timer);
  const span = { start: startedAt, end };
  if (before) return withTimes({ ...before, ...job }, grown(before, span), zone);
  const entry = blankEntry({ id, memberId, day: dayOf(startedAt, zone), seconds: 1, ...job });
  return withTimes(entry, [span], zone);
}

/** Times of an entry with a further one; an entry of which only the length was known has none that could be told. */
function grown(before: Entry, span: Entry['spans'][number]): Entry['spans'] | Seconds {
  if (before.spans.length > 0) {
    try {
      return joinSpans([before.spans, [span]]);
    } catch {
      // The clock jumped back into what is recorded already: the length counts, the times contradict each other.
      return before.seconds + (span.end - span.start) / 1000;
    }
  }
  return before.seconds + (span.end - span.start) / 1000;
}

/**
 * An entry at other times, or of a length without times: its day, later days and length follow from them.
 *
 * @throws Fault when the times lie outside 1970 to 2200: no day can be told of what lies far outside
 */
export function withTimes(entry: Entry, times: Entry['spans'] | Seconds, zone: Zone): Entry {
  if (typeof times === 'number') return { ...entry, spans: [], laterDays: [], seconds: times };
  refuseFarSpans(times);
  return {
    ...entry,
    spans: times,
    day: dayOf(times[0]!.start, zone),
    laterDays: laterDaysOf(times, zone),
    seconds: secondsOf(times),
  };
}
