import type { Member } from '@half-penny/core/model';
import { showLength } from '@half-penny/core/time';
import { Link } from 'react-router';
import { causeInWords, useDoubts } from '../../data/doubts';
import { showTime } from '../spans';

/** Says that some of the running or recorded time is in doubt, and leads to where it is settled. */
export function DoubtSign({ member }: { member: Member }) {
  const [doubt, ...others] = useDoubts(member);
  if (!doubt) return null;
  const { start, end } = doubt;
  const words = `${showLength(Math.floor((end - start) / 1000))} since ${showTime(start, member.zone)} ${causeInWords(doubt.doubt.cause)}`;
  return (
    <Link
      to="/today#doubts"
      className="max-md:order-2 max-w-[210px] shrink-0 rounded-md border border-[#e3b341] px-2 py-0.5 text-sm text-[#e3b341] hover:underline"
    >
      <span className="md:hidden">{showLength(Math.floor((end - start) / 1000))} in doubt</span>
      <span className="max-md:hidden">
        {words}
        {others.length > 0 && `, and ${others.length} more`}. Was it work?
      </span>
    </Link>
  );
}
