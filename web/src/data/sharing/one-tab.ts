/**
 * Does something in one tab for all of them: in another once this one is gone.
 *
 * @param name of what is done
 * @param work goes on until its signal is aborted
 * @returns ends it here
 */
export function inOneTab(name: string, work: (signal: AbortSignal) => Promise<void>): () => void {
  const ended = new AbortController();
  void navigator.locks
    .request(`half-penny-${name}`, { signal: ended.signal }, () => work(ended.signal))
    .catch(() => undefined);
  return () => ended.abort();
}
