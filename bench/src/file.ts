import { readWorkspace, sourceOf, unzip, writeWorkspace } from '@half-penny/formats/workspace';
import { baseRow, MemoryStore } from '@half-penny/core/engine';
import { idSource, byTable, type Entry } from '@half-penny/core/model';
import { addDays } from '@half-penny/core/time';
import { makeDemoWithFiles } from '@half-penny/demo';
import { gunzipSync, gzipSync } from 'node:zlib';
import { count, median, note, report } from './measure';

const COUNT = count(100_000, 1000);
const RUNS = count(3, 1);

/** Export and import of 100,000 entries against gzip alone of the same bytes. */
export async function benchFile(): Promise<void> {
  const { store: demo, files } = await makeDemoWithFiles({ now: Date.parse('2026-11-12T15:00:00Z') });
  const receipts = [...files].map(([sha256, bytes]) => ({ sha256, bytes }));
  const own = demo.rows('entries');
  let state = 1;
  const newId = idSource(
    () => Date.parse('2026-11-12T15:00:00Z'),
    (bytes) => bytes.map(() => (state = (state * 73 + 29) % 256)),
  );
  const more: Entry[] = Array.from({ length: COUNT - own.length }, (_, index) => {
    const like = own[index % own.length]!;
    return {
      ...like,
      id: newId(),
      day: addDays(like.day, -(index % 900)),
      spans: [],
      laterDays: [],
      seconds: 60 + ((index * 7919) % 9000),
      billableSeconds: null,
    };
  });
  const rows = byTable((table) => demo.rows(table));
  const all = new MemoryStore().load({ ...rows, entries: [...own, ...more] }, []);
  const base = baseRow((table) => all.rows(table), { device: newId(), at: Date.now(), reason: 'Made for measuring' });
  const store = new MemoryStore().load({ ...rows, entries: [...own, ...more] }, [base]);
  const sorted = byTable((table) => store.rows(table));

  let pieces: Uint8Array<ArrayBuffer>[] = [];
  const written = await median(RUNS, async () => {
    pieces = [];
    await writeWorkspace(
      sourceOf(
        (table) => sorted[table],
        store.journal,
        () => receipts.toSorted((a, b) => (a.sha256 < b.sha256 ? -1 : 1)),
      ),
      (bytes) => pieces.push(bytes as Uint8Array<ArrayBuffer>),
    );
  });
  const file = new Blob(pieces);
  const text = Buffer.concat([...(await unzip(file)).values()]);
  const zipped = gzipSync(text);
  const gzip = await median(RUNS, () => gzipSync(text));
  const gunzip = await median(RUNS, () => gunzipSync(zipped));
  const read = await median(RUNS, () => readWorkspace(file));
  note(`${COUNT} entries: ${Math.round(text.length / 1e6)} MB as text, ${Math.round(file.size / 1e6)} MB as a file`);
  report('Export', written, 'gzip', gzip);
  report('Import, everything checked', read, 'gzip', gzip);
  report('Import, everything checked', read, 'gunzip', gunzip);
}
