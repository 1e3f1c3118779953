import { Dialog as Radix } from 'radix-ui';
import { X } from 'lucide-react';
import { useRef, useState, type FormEvent, type KeyboardEvent, type ReactNode } from 'react';
import { Button } from './button';
import { isKey } from './keys';

interface DialogProps {
  title: string;
  /** What it is about, read out with the title. */
  about?: ReactNode;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
  wide?: boolean | 'widest';
}

/**
 * A window over the sheet. It begins at its first field, or at its main button where it has none, and Enter presses that button.
 * Escape, the cross and a press beside it close it without doing anything; what was typed and is not saved is asked about first.
 */
export function Dialog({ title, about, open, onClose, children, wide = false }: DialogProps) {
  const content = useRef<HTMLDivElement>(null);
  const body = useRef<HTMLDivElement>(null);
  const typed = useRef(false);
  const [leaving, setLeaving] = useState(false);
  const leave = () => {
    typed.current = false;
    setLeaving(false);
    onClose();
  };
  const close = () => {
    if (!typed.current) leave();
    else setLeaving(!leaving);
  };
  const onInput = (event: FormEvent) => {
    const field = event.target as HTMLElement;
    if (!field.matches('[data-saves], [type=search]')) typed.current = true;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const field = event.target as HTMLElement;
    if (!isKey(event, 'dialog.confirm') || event.defaultPrevented || leaving) return;
    if (field.closest('form, button, a, textarea, [role=option], [role=combobox], [cmdk-root]')) return;
    event.preventDefault();
    content.current?.querySelector<HTMLElement>('[data-main]:not(:disabled)')?.click();
  };
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && close()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-till/50" />
        <Radix.Content
          ref={content}
          className={`fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] w-[calc(100vw-24px)] -translate-x-1/2 flex-col overflow-auto rounded-lg border border-strong bg-sheet p-5 shadow-xl ${wide === 'widest' ? 'max-w-4xl' : wide ? 'max-w-2xl' : 'max-w-md'}`}
          onInput={onInput}
          onKeyDown={onKeyDown}
          onOpenAutoFocus={(event) => {
            const first = firstToAnswer(body.current);
            if (!first) return;
            event.preventDefault();
            first.focus();
          }}
          onInteractOutside={(event) => {
            if (event.target instanceof Element && event.target.closest('[data-notices]')) event.preventDefault();
          }}
          {...(about ? {} : { 'aria-describedby': undefined })}
        >
          <div className="flex items-start gap-4 border-b border-ink pb-2">
            <Radix.Title className="written clamp-2 flex-1 text-lg font-semibold">{title}</Radix.Title>
            <Radix.Close className="rounded-sm p-1 text-soft hover:text-ink" aria-label="Close">
              <X size={16} />
            </Radix.Close>
          </div>
          {leaving && (
            <div
              role="alert"
              className="mt-3 flex flex-wrap items-center gap-2 border-y border-attention bg-attention-ground px-3 py-2"
            >
              <span className="flex-1">What you typed here is not saved.</span>
              <Button autoFocus onClick={() => setLeaving(false)}>
                Go on
              </Button>
              <Button kind="fault" onClick={leave}>
                Close without saving
              </Button>
            </div>
          )}
          {about && (
            <Radix.Description asChild>
              <div className="mt-3 text-soft">{about}</div>
            </Radix.Description>
          )}
          <div ref={body} className="mt-4">
            {children}
          </div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** The first field of a window that can be filled in, or else its main button. */
function firstToAnswer(body: HTMLElement | null): HTMLElement | null {
  const fields = body?.querySelectorAll<HTMLElement>(
    'input:not([type=hidden], [type=file], :disabled), textarea:not(:disabled), [role=combobox]:not(:disabled)',
  );
  const shown = [...(fields ?? [])].find((field) => field.offsetParent !== null);
  return shown ?? body?.querySelector<HTMLElement>('[data-main]:not(:disabled)') ?? null;
}
