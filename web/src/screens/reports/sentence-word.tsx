import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

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
    <Popover.Root>
      <Popover.Trigger className={`${quiet ? quietLook : wordLook} text-left`} aria-label={`${label}: ${text}`}>
        {first ? text.charAt(0).toUpperCase() + text.slice(1) : text}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={12}
          aria-label={label}
          className="z-50 max-h-[70vh] w-80 max-w-[92vw] overflow-auto rounded-lg border border-strong bg-sheet p-3 text-base shadow-xl"
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
