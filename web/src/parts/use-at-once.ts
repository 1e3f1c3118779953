import { useEffect, useRef, useState } from 'react';

interface Pressed<T> {
  value: T;
  /** Once it is written: what was stored as far as the screen knew then. */
  written: string | null;
}

/** What is written is on the screen sooner than this; what was saved as something else shows as that from then on. */
const LATEST = 1000;

/**
 * A value that is saved as soon as it is set, and shown before it is written: the next press builds on what stands there, however fast it
 * comes. It stands until the stored value has followed, so that it never flickers back; where saving fails, what is stored shows again.
 *
 * @param value as stored
 * @param save is called once for each press, in their order
 */
export function useAtOnce<T>(value: T, save: (next: T) => Promise<unknown>): [shown: T, set: (next: T) => void] {
  const [pressed, setPressed] = useState<Pressed<T> | null>(null);
  const waiting = useRef(0);
  const stored = JSON.stringify(value);
  const latest = useRef(stored);
  useEffect(() => {
    latest.current = stored;
  }, [stored]);
  const isOver =
    pressed !== null &&
    pressed.written !== null &&
    (stored !== pressed.written || stored === JSON.stringify(pressed.value));
  useEffect(() => {
    if (pressed === null || pressed.written === null) return;
    const timer = setTimeout(() => setPressed((now) => (now === pressed ? null : now)), isOver ? 0 : LATEST);
    return () => clearTimeout(timer);
  }, [pressed, isOver]);
  const set = (next: T) => {
    waiting.current++;
    setPressed({ value: next, written: null });
    const last = () => --waiting.current === 0;
    save(next).then(
      (result) => {
        if (!last()) return;
        // A change that was refused answers with nothing.
        if (result === null) setPressed(null);
        else setPressed((now) => now && { ...now, written: latest.current });
      },
      () => last() && setPressed(null),
    );
  };
  return [pressed !== null && !isOver ? pressed.value : value, set];
}
