import { Dialog as Radix } from 'radix-ui';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';

interface DialogProps {
  title: string;
  /** What it is about, read out with the title. */
  about?: ReactNode;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
  wide?: boolean | 'widest';
}

/** A window over the sheet. Escape and the cross close it without doing anything. */
export function Dialog({ title, about, open, onClose, children, wide = false }: DialogProps) {
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-till/50" />
        <Radix.Content
          className={`fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] w-[calc(100vw-24px)] -translate-x-1/2 flex-col overflow-auto rounded-lg border border-strong bg-sheet p-5 shadow-xl ${wide === 'widest' ? 'max-w-4xl' : wide ? 'max-w-2xl' : 'max-w-md'}`}
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
          {about && (
            <Radix.Description asChild>
              <div className="mt-3 text-soft">{about}</div>
            </Radix.Description>
          )}
          <div className="mt-4">{children}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
