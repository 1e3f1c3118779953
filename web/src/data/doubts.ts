import { useTimer } from './book';
import { entryOfTimer, owedOnDay, recordedOn } from '@half-penny/core/entries';
import type { Entry, Member, Timer } from '@half-penny/core/model';
import { clip, dayOf, type Interval } from '@half-penny/core/time';
import { useLiveQuery } from 'dexie-react-hooks';
import { useMemo } from 'react';
import { useAppSelector } from '../state/store';
import type { UnverifiedTime } from './database';
import { readRange, useAbsences, useEntriesOfDay } from './queries';
import { registry } from './registry';
import { useSession } from './session';

/** The time stays as it is, and is not asked about again. */
export async function leaveDoubt({ doubt }: OpenDoubt): Promise<void> {
  await registry.doubts.put({ ...doubt, left: true });
}

/** A doubt and the time it is about. */
export interface OpenDoubt extends Interval {
  doubt: UnverifiedTime;
  target: { timer: Timer } | { entry: Entry };
}

/** The member's doubts that touch time which runs or is recorded. */
export function useDoubts(member: Member | undefined): OpenDoubt[] {
  const { database, entry: workspace, memberId } = useSession();
  const kept = useLiveQuery(async () => {
    if (!member || memberId !== member.id) return [];
    const doubts = await registry.doubts.where('memberId').equals(member.id).toArray();
    const timer = await database.rows('timers').where('memberId').equals(member.id).first();
    const open: OpenDoubt[] = [];
    for (const doubt of doubts) {
      if (doubt.left || doubt.workspaceId !== workspace.id || doubt.cause === 'beyond') continue;
      const running = timer && clip({ start: doubt.from, end: doubt.to }, { start: timer.startedAt, end: Infinity });
      if (timer && running) {
        open.push({ doubt, ...running, target: { timer } });
        continue;
      }
      for (const entry of await readRange(
        database,
        member.id,
        dayOf(doubt.from, member.zone),
        dayOf(doubt.to, member.zone),
      )) {
        const touched = entry.spans.map((span) => clip({ start: doubt.from, end: doubt.to }, span)).find(Boolean);
        if (touched && touched.end - touched.start >= 60_000) open.push({ doubt, ...touched, target: { entry } });
      }
    }
    return open;
  }, [database, workspace.id, member, memberId]);
  const beyond = useBeyond(member);
  return useMemo(() => {
    const open = kept ?? [];
    // The same minutes are asked about once: what is left of them after an answer is asked about then.
    const again = beyond && open.some((each) => each.start < beyond.end && beyond.start < each.end);
    return beyond && !again ? [...open, beyond] : open;
  }, [kept, beyond]);
}

/** A few minutes past the end of the day are nothing to ask about. */
const GRACE = 15 * 60;

/** What runs past the end of the owed day. */
function useBeyond(member: Member | undefined): OpenDoubt | null {
  const { entry: workspace, memberId } = useSession();
  const timer = useTimer();
  const minute = useAppSelector((state) => Math.floor(state.clock.now / 60_000));
  const now = minute * 60_000;
  const today = member ? dayOf(now, member.zone) : '';
  const entries = useEntriesOfDay(member?.id ?? null, today || '1970-01-01');
  const absences = useAbsences();
  const id = `beyond ${workspace.id} ${member?.id} ${today}`;
  const left = useLiveQuery(async () => (await registry.doubts.get(id))?.left ?? false, [id]);
  return useMemo(() => {
    if (!member || member.id !== memberId || !timer || !entries || !absences || left !== false) return null;
    const before = entries.find((entry) => entry.id === timer.entryId);
    const running = entryOfTimer(timer, now, member.zone, before);
    if (!running) return null;
    const owed = owedOnDay(member, today, absences);
    const total = recordedOn([...entries.filter((entry) => entry !== before), running], today, member.zone);
    if (owed === 0 || total <= owed + GRACE) return null;
    const start = Math.max(timer.startedAt, now - (total - owed) * 1000);
    if (start >= now) return null;
    const doubt: UnverifiedTime = {
      id,
      workspaceId: workspace.id,
      memberId: member.id,
      from: start,
      to: now,
      cause: 'beyond',
      left: false,
    };
    return { doubt, start, end: now, target: { timer } };
  }, [member, memberId, timer, entries, absences, left, now, today, id, workspace.id]);
}

/** "while the machine slept". */
export const causeInWords = (cause: UnverifiedTime['cause']): string =>
  ({
    asleep: 'while the machine slept',
    away: 'without a sign of you',
    closed: 'while the application was closed',
    beyond: 'past the end of the owed day',
  })[cause];
