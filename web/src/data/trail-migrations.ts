import type { Transaction } from 'dexie';

interface TrailMigration {
  version: number;
  stores: Record<string, string | null>;
  upgrade?: (transaction: Transaction) => Promise<void>;
}

/** How the trail's database came to be as it is, one step after another. */
export const trailMigrations: readonly TrailMigration[] = [
  {
    version: 1,
    stores: {
      activities: '[device+seq], from',
      placings: 'id, day',
      rules: 'id',
      switches: '[file+at]',
      purposes: 'file',
      settings: 'key',
    },
  },
  // What documents were open for got a name of its own, and their clock one setting in place of three.
  {
    version: 2,
    stores: { openedFor: 'file' },
    upgrade: async (transaction) => {
      const given = await transaction.table<{ file: string; purposeId: string }>('purposes').toArray();
      await transaction
        .table('openedFor')
        .bulkPut(given.map(({ file, purposeId }) => ({ file, openedForId: purposeId })));
      for (const table of ['rules', 'placings']) {
        await transaction
          .table(table)
          .toCollection()
          .modify((row: { then?: object; outcome?: object }) => {
            for (const outcome of [row.then, row.outcome]) if (outcome) renameOpenedFor(outcome);
          });
      }
      await transaction
        .table('settings')
        .where('key')
        .equals('capture')
        .modify((row: { value: Record<string, unknown> }) => {
          const { clockStarts, clockPauses, ...rest } = row.value;
          row.value = { ...rest, documentClock: documentClockOf(clockStarts, clockPauses) };
        });
    },
  },
  { version: 3, stores: { purposes: null } },
  // How the trail is backed up, and the key that seals it.
  { version: 4, stores: { backup: 'key' } },
  // What opens sealed lines, when the trail was wiped, and which devices were heard: of this browser alone, in no backup.
  { version: 5, stores: { own: 'key', devices: 'device' } },
  // Which of several files a title means, as the person said.
  { version: 6, stores: { meant: 'title' } },
];

function renameOpenedFor(outcome: { purposeId?: unknown; openedForId?: unknown }): void {
  if (!('purposeId' in outcome)) return;
  outcome.openedForId = outcome.purposeId;
  delete outcome.purposeId;
}

/** The setting that is nearest to when a clock started and what paused it. */
function documentClockOf(starts: unknown, pauses: unknown): string {
  if (starts === 'opening' && Array.isArray(pauses) && !pauses.includes('document')) return 'from opening to closing';
  return starts === 'change' ? 'hands on' : 'in view';
}
