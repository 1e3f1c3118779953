import 'fake-indexeddb/auto';
import Dexie, { liveQuery, type Table } from 'dexie';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { allRows, changesOf, rowsBy } from './rows';

interface Row {
  id: string;
  jobId: string;
  ref: string;
  memberId: string;
  day: string;
  tags: string[];
}

const database = new Dexie('rows') as Dexie & { rows: Table<Row> };
database.version(1).stores({ rows: 'id, jobId, ref, [memberId+day], *tags' });

/** Three jobs: one with more rows than are read one by one, one with a few, one with none. */
const stored = Array.from({ length: 3600 }, (_, at): Row => ({
  id: `r${String(at).padStart(5, '0')}`,
  ref: `#${String(at).padStart(5, '0')}`,
  jobId: at % 100 === 0 ? 'few' : 'many',
  memberId: at % 2 ? 'imogen' : 'teodor',
  day: `2026-11-${String(1 + (at % 28)).padStart(2, '0')}`,
  tags: at % 500 === 0 ? ['site', 'night'] : [],
}));
const ids = (rows: readonly Row[]) => rows.map((row) => row.id);
const idsOf = (passes: (row: Row) => boolean) => ids(stored.filter(passes));
const inOne = <T>(task: () => Promise<T>) => database.transaction('r', database.rows, task);

beforeAll(() => database.rows.bulkAdd(stored));
afterAll(() => database.close());

describe.each([
  ['in a transaction', inOne],
  ['outside of one', <T>(task: () => Promise<T>) => task()],
])('rows by an index, %s', (_, within) => {
  const by = (index: string, keys: Parameters<typeof rowsBy>[2]) =>
    within(() => rowsBy(database.rows, index, keys)).then(ids);

  it('are all of each key, in the order of the keys, each once', async () => {
    expect(await by('jobId', ['none'])).toEqual([]);
    expect(await by('jobId', [])).toEqual([]);
    expect(await by('jobId', ['few', 'few'])).toEqual(idsOf((row) => row.jobId === 'few'));
    expect(await by('jobId', ['many', 'few'])).toEqual([
      ...idsOf((row) => row.jobId === 'few'),
      ...idsOf((row) => row.jobId === 'many'),
    ]);
  });

  it('are found by several fields, and by what is in a list', async () => {
    const keys = [
      ['teodor', '2026-11-03'],
      ['imogen', '2026-11-02'],
    ];
    expect((await by('memberId+day', keys)).toSorted()).toEqual(
      idsOf((row) => keys.some(([member, day]) => row.memberId === member && row.day === day)),
    );
    expect(await by('*tags', ['site', 'night'])).toEqual(idsOf((row) => row.tags.length > 0));
  });

  it('are found by more keys than are asked for one by one', async () => {
    const wanted = stored.filter((_, at) => at % 3 !== 1);
    expect(wanted.length).toBeGreaterThan(2000);
    expect(await by('ref', [...wanted.map((row) => row.ref), '#none'])).toEqual(ids(wanted));
  });

  it('are all there are', async () => expect(ids(await within(() => allRows(database.rows)))).toEqual(ids(stored)));
});

it.each(['few', 'many'])(
  'a screen that follows rows of a job with %s is told of a change to one of them',
  async (jobId) => {
    const seen: string[][] = [];
    const following = liveQuery(() => inOne(() => rowsBy(database.rows, 'jobId', [jobId]))).subscribe((rows) =>
      seen.push(rows.slice(-1).map((row) => row.memberId)),
    );
    await vi.waitFor(() => expect(seen).toHaveLength(1));
    const last = stored.findLast((row) => row.jobId === jobId)!;
    await database.rows.put({ ...last, memberId: 'asha' });
    await vi.waitFor(() => expect(seen.at(-1)).toEqual(['asha']));
    following.unsubscribe();
    await database.rows.put(last);
  },
);

it('puts what was done to a row in the order that counts, whatever the clocks of its devices said', async () => {
  const shared = new Dexie('shared');
  shared.version(1).stores({ journal: '[device+seq]', share: 'book' });
  const change = (device: string, seq: number, at: number, place?: number, id = 'e1') => ({
    ...{ device, seq, at, changes: [{ table: 'entries', id }] },
    ...(place !== undefined && { place }),
  });
  await shared.table('journal').bulkAdd([
    // Before it was shared, by a clock that was far ahead.
    change('laptop', 1, 9_000),
    change('laptop', 2, 9_001, undefined, 'another'),
    change('laptop', 3, 2_000, 2),
    // Not in the log yet.
    change('laptop', 4, 1_000),
    change('phone', 1, 1_500, 3),
    change('phone', 2, 3_000, 1),
  ]);
  await shared.table('share').put({ book: 'b', device: 'laptop', waiting: [{ seq: null }, { seq: 4 }] });
  const order = (await changesOf(shared, 'entries', 'e1')).map(({ device, seq }) => `${device} ${seq}`);
  expect(order).toEqual(['laptop 1', 'phone 2', 'laptop 3', 'phone 1', 'laptop 4']);
  shared.close();
});
