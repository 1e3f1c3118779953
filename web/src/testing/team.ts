import { openStudio } from './studio';
import { DAY, work, ZONE } from '@half-penny/core/testing';

/** A studio of a principal and a member, Wren, whom the principal checks; the principal is at work. */
export async function openTeam() {
  const made = await openStudio();
  const { executor, at, test } = made;
  const wren = (
    await executor.run('member.add', {
      name: 'Wren Okafor',
      role: '',
      zone: ZONE,
      owed: [0, 0, 0, 28_800, 0, 0, 0],
      owesFrom: '2026-11-01',
      checkerId: at.member,
    })
  ).changes[0]!.id;
  /** Runs what Wren does; the principal is at work again after it. */
  const asWren = async <T>(task: () => Promise<T>): Promise<T> => {
    test.memberId = wren;
    const done = await task();
    test.memberId = at.member;
    return done;
  };
  const record = (seconds: number, more: object = {}) =>
    asWren(async () => (await executor.run('entry.add', work(at.rig, seconds, more))).changes[0]!.id);
  const handIn = () => asWren(() => executor.run('period.handIn', { memberId: wren, day: DAY }));
  return { ...made, wren, record, handIn };
}
