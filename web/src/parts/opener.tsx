import { lazy, Suspense, useId, useRef, useState, type ComponentProps, type ReactNode, type RefObject } from 'react';
import type { FloatingPlace, FloatingProps } from './floating';
import { floatingHere } from './floating-here';

// What floats is not needed to show a screen, and tables have hundreds of presses that open something: until one is pressed it is a button.
const readFloating = () => import('./floating');
const Floating = lazy(readFloating);

interface OpenerProps extends FloatingPlace {
  /** What opens, for assistive technology. */
  label: string;
  /** The press that opens it. */
  trigger: Omit<ComponentProps<'button'>, 'ref' | 'onClick' | 'type'>;
  /** Whether it is open, where that is not its own affair. */
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  /** What it stands beside; the press itself where not given. */
  anchor?: RefObject<HTMLElement | null>;
  /** Made only while it is open. */
  children: ReactNode;
}

/** A press that opens something beside it, and closes it again. */
export function Opener({ label, trigger, open: given, onOpenChange, anchor, children, ...place }: OpenerProps) {
  const id = useId();
  const button = useRef<HTMLButtonElement>(null);
  const [own, setOwn] = useState(false);
  const open = given ?? own;
  const change = (next: boolean) => {
    setOwn(next);
    onOpenChange?.(next);
  };
  return (
    <>
      <button
        {...trigger}
        ref={button}
        type="button"
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-controls={open ? id : undefined}
        data-state={open ? 'open' : 'closed'}
        onPointerEnter={() => void readFloating()}
        onClick={() => change(!open)}
      />
      {open && (
        <Opened {...place} {...{ id, label }} press={button} anchor={anchor ?? button} onClose={() => change(false)}>
          {children}
        </Opened>
      )}
    </>
  );
}

/** What floats, at once where it was read before; what is open stays what it is. */
function Opened(props: FloatingProps) {
  const [here] = useState(() => floatingHere());
  const Shown = here ?? Floating;
  return (
    <Suspense>
      <Shown {...props} />
    </Suspense>
  );
}
