import type { Id } from '@half-penny/core/model';
import { useEffect } from 'react';
import { noteDoubt } from '../data/doubt-store';
import { usePricer, useTimer } from '../data/book';
import { useMember } from '../data/queries';
import { useSession } from '../data/session';

const BEAT = 5_000;
/** Hidden tabs are slowed down to a beat a minute; a longer silence means that the machine slept or nothing of us was open. */
const SILENCE = 180_000;
const SIGNS = ['pointerdown', 'pointermove', 'keydown', 'wheel', 'focus'] as const;

/** The browser's idle detection, where there is one. */
interface IdleDetection extends EventTarget {
  userState: 'active' | 'idle' | null;
  start(options: { threshold: number; signal: AbortSignal }): Promise<void>;
}
type IdleWindow = Window & {
  IdleDetector?: { new (): IdleDetection; requestPermission(): Promise<'granted' | 'denied'> };
};

/** The shortest idle time that the browser tells of. */
const THRESHOLD = 60_000;

export const hasIdleDetection = (): boolean => 'IdleDetector' in window;
export const askForIdleDetection = async (): Promise<boolean> =>
  (await (window as IdleWindow).IdleDetector?.requestPermission()) === 'granted';

const read = (key: string): number => Number(localStorage.getItem(key) ?? 0);

const ranKey = (memberId: Id): string => `half-penny-ran-${memberId}`;

/** A timer of a member that was seen running in this browser, and the latest moment at which it was, whatever the clock says now. */
export function lastRan(memberId: Id | null): { timerId: Id; at: number } | undefined {
  const [timerId, at] = localStorage.getItem(ranKey(memberId ?? ''))?.split(' ') ?? [];
  return timerId && at ? { timerId, at: Number(at) } : undefined;
}

/** Notes that a timer runs. A clock that is set back takes nothing off what was seen. */
function noteRunning(memberId: Id, timerId: Id, now: number): void {
  const before = lastRan(memberId);
  const at = before?.timerId === timerId ? Math.max(before.at, now) : now;
  localStorage.setItem(ranKey(memberId), `${timerId} ${at}`);
}

/**
 * Watches, while a timer runs, whether somebody is there: notes when the machine slept, the application was closed, or there was no sign
 * of the person for longer than they allow. Every tab shares what it has seen.
 */
export function usePresence(): void {
  const { entry, memberId } = useSession();
  const timer = useTimer();
  const awayAfter = useMember(usePricer())?.awayAfter ?? null;
  const startedAt = timer?.startedAt;
  const timerId = timer?.id;
  useEffect(() => {
    if (startedAt === undefined || timerId === undefined || memberId === null) return;
    const seenKey = `half-penny-seen-${memberId}`;
    const signKey = `half-penny-sign-${memberId}`;
    const stop = new AbortController();
    const doubt = (from: number, to: number, cause: 'asleep' | 'away' | 'closed') => {
      if (to - Math.max(from, startedAt) < 60_000) return;
      void noteDoubt({ workspaceId: entry.id, memberId, from: Math.max(from, startedAt), to, cause });
    };
    let first = true;
    const beat = () => {
      const now = Date.now();
      const seen = read(seenKey);
      // What was seen before the timer started says nothing of it.
      if (seen > startedAt && now - seen > SILENCE) doubt(seen, now, first ? 'closed' : 'asleep');
      first = false;
      localStorage.setItem(seenKey, String(now));
      noteRunning(memberId, timerId, now);
    };
    beat();
    const beating = setInterval(beat, BEAT);

    const sign = () => {
      const now = Date.now();
      const last = read(signKey);
      if (awayAfter !== null && last > startedAt && now - last > awayAfter * 1000) doubt(last, now, 'away');
      if (now - last > 2000) localStorage.setItem(signKey, String(now));
    };
    // A timer that nobody has been seen with yet is watched from now on.
    if (read(signKey) <= startedAt) localStorage.setItem(signKey, String(Date.now()));
    const ownSigns = () => {
      for (const kind of SIGNS)
        window.addEventListener(kind, sign, { signal: stop.signal, passive: true, capture: true });
    };
    void idleDetection(stop.signal, (from, to) => {
      if (awayAfter !== null && to - from > awayAfter * 1000) doubt(from, to, 'away');
    }).then((works) => {
      if (!works && !stop.signal.aborted) ownSigns();
    });
    return () => {
      clearInterval(beating);
      stop.abort();
    };
  }, [startedAt, timerId, memberId, entry.id, awayAfter]);
}

/** Asks the browser when the person is away, whatever program they use; false where it may not or cannot tell. */
async function idleDetection(signal: AbortSignal, onReturn: (from: number, to: number) => void): Promise<boolean> {
  const { IdleDetector } = window as IdleWindow;
  if (!IdleDetector) return false;
  try {
    const detector = new IdleDetector();
    let idleSince: number | null = null;
    detector.addEventListener('change', () => {
      const now = Date.now();
      if (detector.userState === 'idle') idleSince ??= now - THRESHOLD;
      else if (idleSince !== null) {
        onReturn(idleSince, now);
        idleSince = null;
      }
    });
    await detector.start({ threshold: THRESHOLD, signal });
    return true;
  } catch {
    return false;
  }
}
