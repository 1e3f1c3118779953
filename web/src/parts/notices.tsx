import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useChanges } from '../data/session';
import { dismissed, type Notice } from '../state/notices';
import { useAppDispatch, useAppSelector } from '../state/store';
import { Button } from './button';

const STAYS = 6000;
const FAULT_STAYS = 15_000;

/** The trail is not there until something of it was changed. */
const undoInTrail = async (number: number) => (await import('../data/trail-changes')).undoTrail(number);

/**
 * What just happened, with "Undo"; what could not be done, in words. No layer of its own: one that appears while
 * a window is open must not take Escape from that window. It stands above the Till and takes its room from the sheet, so
 * that it never lies over a figure. `data-notices` says that a press here closes no window.
 */
export default function Notices() {
  const notices = useAppSelector((state) => state.notices);
  const [held, setHeld] = useState(false);
  return (
    <section
      aria-label="Notices"
      data-notices
      onMouseEnter={() => setHeld(true)}
      onMouseLeave={() => setHeld(false)}
      onFocus={() => setHeld(true)}
      onBlur={() => setHeld(false)}
    >
      <div
        aria-live="polite"
        className="pointer-events-none fixed right-4 bottom-[124px] z-60 flex w-80 max-w-[calc(100vw-32px)] flex-col gap-2 lg:relative lg:right-auto lg:bottom-auto lg:w-full lg:max-w-full lg:flex-row lg:justify-end lg:bg-paper lg:px-3 lg:py-1.5"
      >
        {notices.map((notice) => (
          <NoticeItem key={notice.id} notice={notice} held={held} />
        ))}
      </div>
    </section>
  );
}

/** Goes by itself after a while, but not while the pointer or the focus is on it. */
function NoticeItem({ notice, held }: { notice: Notice; held: boolean }) {
  const dispatch = useAppDispatch();
  const { undo } = useChanges();
  useEffect(() => {
    if (held) return;
    const waiting = setTimeout(() => dispatch(dismissed(notice.id)), notice.fault ? FAULT_STAYS : STAYS);
    return () => clearTimeout(waiting);
  }, [dispatch, held, notice]);
  const dismiss = () => dispatch(dismissed(notice.id));
  const takeBack = () => {
    dismiss();
    void (notice.trail ? undoInTrail(notice.undo!) : undo(notice.undo!));
  };
  return (
    <div
      role={notice.fault ? 'alert' : undefined}
      className={`pointer-events-auto flex min-w-0 items-center gap-3 rounded-md border bg-sheet py-1 pr-1 pl-3 max-lg:shadow-lg lg:max-w-105 ${notice.fault ? 'border-fault text-fault' : 'border-strong'}`}
    >
      <span className="written clamp-2 flex-1">{notice.text}</span>
      {notice.undo !== null && (
        <Button kind="quiet" title="Undo  Ctrl Z" onClick={takeBack}>
          Undo
        </Button>
      )}
      <button type="button" aria-label="Dismiss" onClick={dismiss} className="rounded-sm p-1 text-soft hover:text-ink">
        <X size={14} />
      </button>
    </div>
  );
}
