import type { ReactNode } from 'react';
import { Opener } from '../../parts/opener';

export const wordLook =
  'rounded-sm font-semibold text-time underline decoration-dotted underline-offset-4 hover:bg-time-ground';

export const quietLook = 'rounded-sm text-soft underline decoration-dotted underline-offset-4 hover:bg-time-ground';

/** A part of the sentence that opens what it can be. */
export function Word({
  label,
  text,
  first = false,
  quiet = false,
  children,
}: {
  label: string;
  text: string;
  first?: boolean;
  /** An addition that is not made yet. */
  quiet?: boolean;
  children: ReactNode;
}) {
  return (
    <Opener
      label={label}
      trigger={{
        className: `${quiet ? quietLook : wordLook} text-left`,
        'aria-label': `${label}: ${text}`,
        children: first ? text.charAt(0).toUpperCase() + text.slice(1) : text,
      }}
      align="start"
      sideOffset={4}
      className="max-h-[70vh] w-80 max-w-[92vw] overflow-auto p-3 text-base"
    >
      {children}
    </Opener>
  );
}
