import { describe, expect, it } from 'vitest';
import { chanceOf } from './chance';
import { emptyTally, fileOf, fuzz, importers, tryOne } from './fuzz';
import { mutate } from './mutate';

/** Seeds of which something came that ought not to, once. */
const kept: Record<string, readonly number[]> = {
  csv: [503_627],
  ics: [42, 129, 10_884],
  ofx: [88, 718],
  camt: [13, 1139],
  work: [129],
};
const FILES = 40;

const all = await importers();

describe('importers and mutated files', () => {
  it.each(Object.keys(all))('%s: nothing raw, no garbage, nothing that hangs', async (name) => {
    const importer = all[name]!;
    const tally = await fuzz(name, importer, { seed: 1, until: ({ files }) => files >= FILES });
    for (const seed of kept[name] ?? []) await tryOne(name, importer, seed, tally);
    // What is slow on a busy machine is told by the long run.
    expect(tally.findings.filter(({ what }) => what !== 'slow')).toEqual([]);
    expect(tally.files).toBe(FILES + (kept[name]?.length ?? 0));
  });

  it.each(Object.keys(all))('%s: takes its own files as they are', async (name) => {
    const importer = all[name]!;
    for (const bytes of importer.corpus) expect((await importer.read(bytes)).taken).toBeGreaterThan(0);
  });

  it('are the same for the same seed', () => {
    const corpus = [new TextEncoder().encode('one,two\nthree,four\n')];
    const made = (seed: number) => mutate(corpus, ['five'], chanceOf(seed));
    expect(made(7)).toEqual(made(7));
    expect(new Set(Array.from({ length: 50 }, (_, seed) => made(seed).join())).size).toBeGreaterThan(40);
    expect(fileOf(all.csv!, 3)).toEqual(fileOf(all.csv!, 3));
  });

  it('are looked at: raw messages, what no schema takes and what takes long is found', async () => {
    const tally = emptyTally();
    const sound = all.csv!;
    const reading = (read: () => never) => ({ ...sound, read: () => Promise.resolve().then(read) });
    await tryOne(
      'raw',
      reading(() => (undefined as unknown as { length: never }).length),
      1,
      tally,
    );
    const told = { ...sound, read: () => Promise.resolve({ taken: 1, said: ['Row 3: Unexpected token < in JSON'] }) };
    await tryOne('told', told, 2, tally);
    expect(tally.findings.map(({ importer, what, seed }) => [importer, what, seed])).toEqual([
      ['raw', 'raw', 1],
      ['told', 'raw', 2],
    ]);
  });
});
