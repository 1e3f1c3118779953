import 'fake-indexeddb/auto';
import { captureDefaults } from '@half-penny/core/capture';
import Dexie from 'dexie';
import { describe, expect, it } from 'vitest';
import { trailMigrations } from './trail-migrations';
import { TrailDatabase } from './trail-database';

/** A trail as the first version kept it, under a name of its own. */
async function older(name: string, clock: Record<string, unknown>): Promise<TrailDatabase> {
  const first = new Dexie(name);
  first.version(1).stores(trailMigrations[0]!.stores);
  await first.table('purposes').add({ file: '/work/plan.lgp', purposeId: 'p1' });
  await first.table('rules').add({ id: 'r', then: { projectId: 'rig', purposeId: 'p1' } });
  await first.table('placings').add({ id: 's', day: '2026-11-12', outcome: { projectId: 'rig', purposeId: 'p2' } });
  const { documentClock: _, ...settings } = captureDefaults;
  await first.table('settings').add({ key: 'capture', value: { ...settings, awayAfter: 11, ...clock } });
  first.close();
  return new TrailDatabase(name);
}

describe('an older trail', () => {
  it('keeps what documents were opened for, in itself, in rules and in placings', async () => {
    const trail = await older('words', { clockStarts: 'opening', clockPauses: ['away', 'document'] });
    expect(await trail.openedFor.toArray()).toEqual([{ file: '/work/plan.lgp', openedForId: 'p1' }]);
    expect(await trail.rules.get('r')).toEqual({ id: 'r', then: { projectId: 'rig', openedForId: 'p1' } });
    expect(await trail.placings.get('s')).toMatchObject({ outcome: { projectId: 'rig', openedForId: 'p2' } });
    expect(trail.tables.map((table) => table.name)).not.toContain('purposes');
    trail.close();
  });

  it.each([
    ['opening', ['away', 'document'], 'in view'],
    ['opening', ['away'], 'from opening to closing'],
    ['change', ['away', 'document'], 'hands on'],
  ])('whose clock began at %s and paused at %j counts %s', async (clockStarts, clockPauses, documentClock) => {
    const trail = await older(`clock ${documentClock}`, { clockStarts, clockPauses });
    expect((await trail.settings.get('capture'))!.value).toEqual({ ...captureDefaults, awayAfter: 11, documentClock });
    trail.close();
  });
});
