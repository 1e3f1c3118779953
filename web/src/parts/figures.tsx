import { showAmount, type Minor } from '@half-penny/core/money';
import type { Working } from '@half-penny/core/rates';
import { showLength, type LengthStyle, type Seconds } from '@half-penny/core/time';
import { Opener } from './opener';
import type { ReactNode } from 'react';
import { Slip } from './slip';

interface LengthProps {
  seconds: Seconds;
  style?: LengthStyle;
  /** Whole minutes only, such as after rounding: no room is kept for seconds. */
  whole?: boolean;
}

/** A length: petrol, mono, lined up. Seconds stand small behind the minutes, so that what is printed adds up. */
export function Length({ seconds, style = 'h:mm', whole = false }: LengthProps) {
  const rest = style === 'h:mm' ? seconds % 60 : 0;
  return (
    <span className="font-mono font-semibold whitespace-nowrap text-time">
      {showLength(seconds, style)}
      {(!whole || rest > 0) && (
        <span className="inline-block w-[1.9em] text-left text-[10px] font-normal text-soft">
          {rest > 0 && `:${String(rest).padStart(2, '0')}`}
        </span>
      )}
    </span>
  );
}

/** A length that is not recorded: planned, or not accounted for. Lines up with those that are. */
export function SoftLength({ seconds, style = 'h:mm' }: { seconds: Seconds; style?: LengthStyle }) {
  return (
    <span className="font-mono text-soft italic">
      {showLength(seconds, style)}
      <span className="inline-block w-[1.9em] text-[10px]" />
    </span>
  );
}

/** In place of a figure that is still being worked out: never a nought. */
export const Awaited = () => (
  <span className="text-soft" title="Being worked out">
    <span aria-hidden>…</span>
    <span className="sr-only">being worked out</span>
  </span>
);

/** In place of a list that is still being read. */
export const Reading = () => <p role="status">Reading…</p>;

interface WorthProps {
  amount: Minor;
  currency: string;
  /** Makes the slip; asked for only when it is opened. */
  working: () => Working;
  /** What the amount is of, for assistive technology. */
  of: string;
  strong?: boolean;
  children?: ReactNode;
  className?: string;
}

/** An amount. Pressing it opens the slip with the arithmetic behind it. */
export function Worth({ amount, currency, working, of, strong = false, children, className = '' }: WorthProps) {
  return (
    <Opener
      label="Working"
      trigger={{
        className: `rounded-sm text-right whitespace-nowrap decoration-dotted underline-offset-4 hover:underline ${strong ? 'font-bold' : 'font-semibold'} ${className || 'text-money'}`,
        'aria-label': `${showAmount(amount, currency)}, working of ${clipped(of)}`,
        children: children ?? showAmount(amount, currency),
      }}
      align="end"
      bare
      className="w-[300px] drop-shadow-lg"
    >
      <SlipOf working={working} />
    </Opener>
  );
}

/** Builds the working only once it is on screen. */
const SlipOf = ({ working }: { working: () => Working }) => <Slip working={working()} />;

/** Names for assistive technology stay short, whatever was typed. */
export const clipped = (text: string): string => (text.length > 80 ? `${text.slice(0, 80)}…` : text);
