import type { Id } from '../model/ids';
import type { Member, RecordingWay } from '../model/records';

/** What each way is called, after "records". */
export const wayWords: Readonly<Record<RecordingWay, string>> = {
  timer: 'by a timer',
  'by hand': 'by hand',
  trail: 'from what was noticed',
  plan: 'from planned time',
};

/** Whether a member records in this way; in every way where the studio named none. */
export const recordsBy = ({ ways }: Pick<Member, 'ways'>, way: RecordingWay): boolean =>
  ways === undefined || ways.includes(way);

/** Whether a kind of work is one that a member records; every one where the studio named none. */
export const recordsKind = ({ kindsOfWork }: Pick<Member, 'kindsOfWork'>, id: Id): boolean =>
  !kindsOfWork || kindsOfWork.includes(id);
