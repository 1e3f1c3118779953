import type { Heard } from '@half-penny/core/capture';

const HOUR = 3_600_000;
/** One that was not heard for so long is not used any more. */
const LONG_GONE = 14 * 24 * HOUR;

/** Whether a device that was not ended has not been heard for longer than a working hour. */
export const isSilent = ({ heard, ended }: Heard, now: number): boolean =>
  !ended && now - heard > HOUR && now - heard < LONG_GONE;
