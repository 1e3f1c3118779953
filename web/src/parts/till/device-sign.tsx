import type { Member } from '@half-penny/core/model';
import { dayOf } from '@half-penny/core/time';
import { Link } from 'react-router';
import { useDevices } from '../../data/trail';
import { useAppSelector } from '../../state/store';
import { showShortDay } from '../days';
import { isSilent } from '../devices';
import { showTime } from '../spans';

/** Says that a device, which was to notice things, has not been heard for longer than an hour of work. */
export default function DeviceSign({ member }: { member: Member }) {
  const devices = useDevices();
  const now = useAppSelector((state) => Math.floor(state.clock.now / 60_000) * 60_000);
  const silent = devices?.find((each) => isSilent(each, now));
  if (!silent) return null;
  const day = dayOf(silent.heard, member.zone);
  const since = `${day === dayOf(now, member.zone) ? '' : `${showShortDay(day)}, `}${showTime(silent.heard, member.zone)}`;
  return (
    <Link
      to="/sift/sources"
      className="max-md:hidden max-w-[210px] shrink-0 truncate text-sm text-[#e3b341] hover:underline"
      title="It notices nothing meanwhile. Sources says how to mend it."
    >
      {silent.name} silent since {since}
    </Link>
  );
}
