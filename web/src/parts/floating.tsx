import { Popover } from 'radix-ui';
import { useRef, type ComponentProps, type ReactNode, type RefObject } from 'react';
import { floatingIsHere } from './floating-here';

/** Where something floats, and how it looks. */
export interface FloatingPlace extends Pick<
  ComponentProps<typeof Popover.Content>,
  'side' | 'align' | 'sideOffset' | 'collisionPadding' | 'className' | 'onCloseAutoFocus'
> {
  /** It has a shape of its own, and no sheet under it. */
  bare?: boolean;
}

export interface FloatingProps extends FloatingPlace {
  id: string;
  /** What it holds, for assistive technology. */
  label: string;
  /** The press that opened it: pressed again it closes it, and it has the focus afterwards. */
  press: RefObject<HTMLElement | null>;
  anchor: RefObject<HTMLElement | null>;
  onClose: () => void;
  children: ReactNode;
}

/** What opens beside a press and floats over the sheet. */
export default function Floating({
  label,
  press,
  anchor,
  onClose,
  onCloseAutoFocus,
  bare = false,
  className = '',
  children,
  ...rest
}: FloatingProps) {
  const leftByPress = useRef(false);
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor virtualRef={anchor} />
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={12}
          {...rest}
          aria-label={label}
          className={`z-50 ${bare ? '' : 'rounded-lg border border-strong bg-sheet text-ink shadow-lg'} ${className}`}
          onInteractOutside={(event) => {
            if (press.current?.contains(event.target as Node)) event.preventDefault();
            else leftByPress.current = true;
          }}
          onCloseAutoFocus={(event) => {
            onCloseAutoFocus?.(event);
            if (event.defaultPrevented) return;
            event.preventDefault();
            // Whoever pressed something else is there already.
            if (!leftByPress.current) press.current?.focus();
          }}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

floatingIsHere(Floating);
