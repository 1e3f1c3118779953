import { useEffect } from 'react';
import { Link } from 'react-router';
import { useSession } from '../data/session';
import { isTimeToSave, useRoom, useUnsaved } from '../data/storage';
import { noticed } from '../state/notices';
import { useAppDispatch, useAppSelector } from '../state/store';

const HOUR = 3_600_000;

/** Changes from which on there is something to lose: whoever just began has other things to read. */
const WORTH_WARNING = 20;

const TOLD = 'half-penny.told-of-clearing';

/** Says once that the browser may clear what it was given, and where the remedy is. Nobody is told of the demo. */
function useWarningOnce(demo: boolean, changes: number): void {
  const dispatch = useAppDispatch();
  const { room } = useRoom();
  const kept = room?.kept;
  useEffect(() => {
    if (demo || changes < WORTH_WARNING || kept !== false || localStorage.getItem(TOLD)) return;
    localStorage.setItem(TOLD, '1');
    const text = 'Short of room, this browser may clear what is kept here. Setup → Your data says how to prevent that.';
    dispatch(noticed({ text, fault: false, undo: null }));
  }, [demo, changes, kept, dispatch]);
}

/** A quiet reminder: how much is in this browser only, and since when. */
export default function UnsavedSign() {
  const { entry } = useSession();
  const now = useAppSelector((state) => Math.floor(state.clock.now / HOUR) * HOUR);
  const unsaved = useUnsaved(now);
  useWarningOnce(entry.demo, unsaved?.changes ?? 0);
  if (!unsaved || !isTimeToSave(entry, unsaved)) return null;
  return (
    <Link
      to="/setup/data"
      className="shrink-0 px-2 text-xs text-attention hover:underline max-lg:hidden lg:mt-auto lg:mb-3 lg:px-5"
    >
      {unsaved.changes.toLocaleString('en-GB')} changes in {unsaved.days} days are in this browser only. Export a file
    </Link>
  );
}
