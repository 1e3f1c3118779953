import { minutesOf } from './evidence';

/** A length of time that was seen, in milliseconds. */
export const Time = ({ ms }: { ms: number }) => (
  <span className="font-mono font-semibold text-time">{minutesOf(ms)}</span>
);
