import { Toast } from 'radix-ui';
import { X } from 'lucide-react';
import { useChanges } from '../data/session';
import { dismissed } from '../state/notices';
import { useAppDispatch, useAppSelector } from '../state/store';
import { Button } from './button';

const STAYS = 6000;
const FAULT_STAYS = 15_000;

/** The trail is not there until something of it was changed. */
const undoInTrail = async (number: number) => (await import('../data/trail-changes')).undoTrail(number);

/** What just happened, with "Undo"; what could not be done, in words. */
export default function Notices() {
  const notices = useAppSelector((state) => state.notices);
  const dispatch = useAppDispatch();
  const { undo } = useChanges();
  return (
    <Toast.Provider swipeDirection="down" label="Notice">
      {notices.map((notice) => (
        <Toast.Root
          key={notice.id}
          type={notice.fault ? 'foreground' : 'background'}
          duration={notice.fault ? FAULT_STAYS : STAYS}
          onOpenChange={(open) => !open && dispatch(dismissed(notice.id))}
          className={`flex items-center gap-3 rounded-md border bg-sheet py-1 pr-1 pl-3 shadow-lg ${notice.fault ? 'border-fault text-fault' : 'border-strong'}`}
        >
          <Toast.Title className="written clamp-2 flex-1">{notice.text}</Toast.Title>
          {notice.undo !== null && (
            <Toast.Action altText="Undo with Ctrl Z" asChild>
              <Button kind="quiet" onClick={() => void (notice.trail ? undoInTrail(notice.undo!) : undo(notice.undo!))}>
                Undo
              </Button>
            </Toast.Action>
          )}
          <Toast.Close aria-label="Dismiss" className="rounded-sm p-1 text-soft hover:text-ink">
            <X size={14} />
          </Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed right-4 bottom-[74px] z-50 flex w-80 max-w-[calc(100vw-32px)] flex-col gap-2" />
    </Toast.Provider>
  );
}
