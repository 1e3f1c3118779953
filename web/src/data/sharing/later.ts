/** Waits, in milliseconds. @throws what `signal` is aborted for */
export const later = (wait: number, signal: AbortSignal): Promise<void> =>
  new Promise((resolve, reject) => {
    const end = () => reject(signal.reason as Error);
    if (signal.aborted) return end();
    signal.addEventListener('abort', end, { once: true });
    setTimeout(() => {
      signal.removeEventListener('abort', end);
      resolve();
    }, wait);
  });
