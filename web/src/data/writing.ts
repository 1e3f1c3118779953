let pending = 0;

/** The browser asks before the page is left: what it says is its own. */
const hold = (event: BeforeUnloadEvent) => event.preventDefault();

/** Runs a change; whoever leaves or reloads the page before it is written is asked first. */
export async function whileWriting<T>(task: () => Promise<T>): Promise<T> {
  // A worker is left by nobody.
  if (typeof window === 'undefined') return task();
  // Only while something is pending: a page that always asks is kept out of the browser's back and forward cache.
  if (pending++ === 0) {
    window.addEventListener('beforeunload', hold);
    document.documentElement.dataset.writing = '';
  }
  try {
    return await task();
  } finally {
    if (--pending === 0) {
      window.removeEventListener('beforeunload', hold);
      delete document.documentElement.dataset.writing;
    }
  }
}
