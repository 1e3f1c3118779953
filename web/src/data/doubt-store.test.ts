import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import type { UnverifiedTime } from './database';
import { forgetDoubt, noteDoubt } from './doubt-store';
import { registry } from './registry';

const MINUTE = 60_000;
const BASE = Date.parse('2026-11-12T09:00:00Z');
const at = (minutes: number) => BASE + minutes * MINUTE;
const doubt = (from: number, to: number, more: Partial<UnverifiedTime> = {}) => ({
  workspaceId: 'studio',
  memberId: 'imogen',
  from: at(from),
  to: at(to),
  cause: 'away' as const,
  ...more,
});
const kept = async () =>
  (await registry.doubts.toArray()).map((each) => [(each.from - BASE) / MINUTE, (each.to - BASE) / MINUTE]);

beforeEach(() => registry.doubts.clear());

describe('doubtful time', () => {
  it('that touches an earlier doubt makes that one longer', async () => {
    await noteDoubt(doubt(0, 30));
    await noteDoubt(doubt(31, 50, { cause: 'asleep' }));
    expect(await kept()).toEqual([[0, 50]]);
    await noteDoubt(doubt(60, 70));
    expect(await kept()).toEqual([
      [0, 50],
      [60, 70],
    ]);
  });

  it('of another member or workspace stays apart', async () => {
    await noteDoubt(doubt(0, 30));
    await noteDoubt(doubt(10, 40, { memberId: 'teodor' }));
    await noteDoubt(doubt(10, 40, { workspaceId: 'other' }));
    expect(await kept()).toHaveLength(3);
  });

  it('that was left as it is, is not opened again by what comes after', async () => {
    await noteDoubt(doubt(0, 30));
    const [first] = await registry.doubts.toArray();
    await registry.doubts.put({ ...first!, left: true });
    await noteDoubt(doubt(30, 60));
    expect((await registry.doubts.toArray()).map((each) => each.left).sort()).toEqual([false, true]);
  });

  it('is forgotten when it is settled, and after two weeks', async () => {
    await noteDoubt(doubt(0, 30));
    await forgetDoubt((await registry.doubts.toArray())[0]!.id);
    expect(await kept()).toEqual([]);
    await noteDoubt(doubt(0, 30));
    await noteDoubt(doubt(15 * 24 * 60, 15 * 24 * 60 + 30));
    expect(await kept()).toHaveLength(1);
  });
});
