import type { Temporal as Polyfill } from 'temporal-polyfill';

/** The runtime's own Temporal; the polyfill is loaded only where there is none. */
export const Temporal: typeof Polyfill =
  (globalThis as { Temporal?: typeof Polyfill }).Temporal ?? (await import('temporal-polyfill')).Temporal;
