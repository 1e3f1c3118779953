import { Popover } from 'radix-ui';
import type { ComponentProps, ReactNode } from 'react';

type FloatingProps = ComponentProps<typeof Popover.Content> & {
  /** What it holds, for assistive technology. */
  label: string;
  children: ReactNode;
};

/** What opens beside a trigger and floats over the sheet. */
export function Floating({ label, className = '', children, ...rest }: FloatingProps) {
  return (
    <Popover.Portal>
      <Popover.Content
        sideOffset={6}
        collisionPadding={12}
        {...rest}
        aria-label={label}
        className={`z-50 rounded-lg border border-strong bg-sheet text-ink shadow-lg ${className}`}
      >
        {children}
      </Popover.Content>
    </Popover.Portal>
  );
}
