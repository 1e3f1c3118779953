import { showLength, type Seconds } from '@half-penny/core/time';

interface OwedFillProps {
  recorded: Seconds;
  owed: Seconds;
  /** Said after what is owed: "today", "up to today". */
  period?: string;
}

/** Under a total: what is recorded of what is owed as a petrol fill, and what is missing or beyond in words. */
export function OwedFill({ recorded, owed, period = 'today' }: OwedFillProps) {
  const words =
    owed === 0
      ? `nothing owed ${period}`
      : recorded < owed
        ? `${showLength(owed - recorded)} still missing of ${showLength(owed)} owed ${period}`
        : recorded > owed
          ? `${showLength(recorded - owed)} beyond the ${showLength(owed)} owed ${period}`
          : `all ${showLength(owed)} owed ${period}`;
  return (
    <div className="flex items-center gap-3 text-xs text-soft">
      <span className="w-32">
        <Fill {...{ recorded, owed }} />
      </span>
      {words}
    </div>
  );
}

/** The thin petrol fill: recorded of owed, the part beyond hatched. */
export function Fill({ recorded, owed }: { recorded: Seconds; owed: Seconds }) {
  const whole = Math.max(recorded, owed, 1);
  const share = (part: Seconds) => ({ width: `${(part / whole) * 100}%` });
  return (
    <span aria-hidden className={`mt-1 flex h-1 ${owed > 0 ? 'bg-rule' : ''}`}>
      <span className="bg-time" style={share(Math.min(recorded, owed))} />
      <span className="hatched text-time" style={share(Math.max(0, recorded - owed))} />
    </span>
  );
}
