import { Link } from 'react-router';
import { usePricer } from '../data/book';
import { useMember } from '../data/queries';
import { useSharedBook, useShare } from '../data/sharing/book';
import { shareWords } from './share-words';

/** How a shared workspace stands, in a few quiet words; nothing where it is not shared. @param look where it stands */
export default function ShareMark({ look, quiet = false }: { look: string; quiet?: boolean }) {
  const shared = useSharedBook();
  const share = useShare();
  const pricer = usePricer();
  const zone = useMember(pricer)?.zone ?? pricer?.book.workspace.zone ?? 'UTC';
  if (!shared || !share) return null;
  const isAllHere = shared.standing.kind === 'together' && share.waiting.length === 0 && share.refused.length === 0;
  // Where there is little room it speaks only when there is something to say.
  if (quiet && isAllHere && !shared.removed) return null;
  const isWrong = shared.standing.kind === 'stopped' || share.refused.length > 0 || shared.removed;
  return (
    <Link
      to="/setup/devices"
      aria-label={`Devices: ${shareWords(shared, share.waiting.length, share.refused.length, zone)}`}
      className={`${look} text-xs hover:underline ${isWrong ? 'text-attention' : 'text-soft'}`}
    >
      {shareWords(shared, share.waiting.length, share.refused.length, zone)}
    </Link>
  );
}
