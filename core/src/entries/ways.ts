import type { Id } from '../model/ids';
import type { Member, RecordingWay } from '../model/records';

/** Whether a member records in this way; in every way where the studio named none. */
export const recordsBy = ({ ways }: Pick<Member, 'ways'>, way: RecordingWay): boolean =>
  ways === undefined || ways.includes(way);

/** Whether a kind of work is one that a member records; every one where the studio named none. */
export const recordsKind = ({ kindsOfWork }: Pick<Member, 'kindsOfWork'>, id: Id): boolean =>
  !kindsOfWork || kindsOfWork.includes(id);
