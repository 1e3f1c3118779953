/** Wakes whoever sleeps until something happens; what happens while they are at work wakes them at once afterwards. */
export class Bell {
  #rung = false;
  #wake: (() => void) | null = null;

  readonly ring = (): void => {
    this.#rung = true;
    this.#wake?.();
  };

  /** Until it rings, or for so many milliseconds. */
  async sleep(most: number, signal: AbortSignal): Promise<void> {
    if (!this.#rung && !signal.aborted)
      await new Promise<void>((resolve) => {
        const wake = () => {
          clearTimeout(late);
          signal.removeEventListener('abort', wake);
          resolve();
        };
        const late = setTimeout(wake, most);
        this.#wake = wake;
        signal.addEventListener('abort', wake, { once: true });
      });
    this.#wake = null;
    this.#rung = false;
  }
}
