import { useState } from 'react';
import { wordsOf } from '../data/in-words';
import { AbortError, type CancellableTask } from '../workers/tasks';

/**
 * One piece of long work at a time, with its progress.
 *
 * @param say what went wrong, where what was thrown does not say it well enough
 */
export function useWork(say: (thrown: unknown) => string = (thrown) => wordsOf(thrown)) {
  const [running, setRunning] = useState<{ title: string; share: number; stop: () => void } | null>(null);
  const [fault, setFault] = useState<string>();
  function start<T>(
    title: string,
    begin: (progress: (share: number) => void) => CancellableTask<T>,
    done: (result: T) => void,
    handled: (thrown: unknown) => boolean = () => false,
  ) {
    setFault(undefined);
    const work = begin((share) => setRunning((now) => now && { ...now, share }));
    setRunning({ title, share: 0, stop: work.stop });
    work.result
      .then(done, (thrown: unknown) => {
        if (!(thrown instanceof AbortError) && !handled(thrown)) setFault(say(thrown));
      })
      .finally(() => setRunning(null));
  }
  return { start, fault, title: running?.title, share: running?.share ?? 0, stop: () => running?.stop() };
}
