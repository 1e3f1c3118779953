import { expect } from 'vitest';
import type { FaultCode } from '../faults/codes';

/** Matches a fault by its cause, and by its field where that matters: sentences may be put better, causes stay. */
export const fault = (code: FaultCode, path?: string): unknown =>
  expect.objectContaining({ code, ...(path === undefined ? {} : { path }) });
