import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import type { Change } from '../model/change';
import { rightsOf } from './rights';

/**
 * Somebody can always set the studio up: otherwise nobody could ever give rights again.
 *
 * @throws Fault where the change would leave nobody
 */
export async function checkRights(after: Reader, changes: readonly Change[]): Promise<void> {
  if (!changes.some(({ table }) => table === 'members' || table === 'rightSets')) return;
  const [members, sets] = [await after.all('members'), await after.all('rightSets')];
  if (members.length === 0 || members.some((member) => rightsOf(member, sets).has('setup'))) return;
  throw new Fault(
    'last-setup',
    'Nobody could change how the studio is set up any more. Leave that right to somebody first.',
    'rightSetId',
  );
}
