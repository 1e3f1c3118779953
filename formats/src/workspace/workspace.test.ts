import { MemoryExecutor } from '@half-penny/core/commands';
import { MemoryStore, sha256Hex } from '@half-penny/core/engine';
import { canonical, migrateRow, SCHEMA_VERSION } from '@half-penny/core/model';
import { setUp, TestContext, work } from '@half-penny/core/testing';
import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { FORMAT, readWorkspace, showFault, sourceOf, unzip, WorkspaceFileError, writeWorkspace, zipParts } from '.';
import { workspaceJsonSchema } from './schema';
import { fault } from '@half-penny/core/testing';

let store: MemoryStore;
let file: Blob;
let parts: Map<string, string>;

const written = async (from: MemoryStore): Promise<Blob> => {
  const pieces: Uint8Array[] = [];
  await writeWorkspace(
    sourceOf((table) => from.rows(table), from.journal),
    (bytes) => pieces.push(bytes),
  );
  return new Blob(pieces as Uint8Array<ArrayBuffer>[]);
};

/** A file of altered parts whose manifest fits them again, unless a manifest is given. */
function packed(changes: Record<string, string | null>): Blob {
  const altered = new Map(parts);
  for (const [name, text] of Object.entries(changes)) {
    if (text === null) altered.delete(name);
    else altered.set(name, text);
  }
  if (!('manifest.json' in changes)) {
    const manifest = JSON.parse(parts.get('manifest.json')!) as {
      tables: Record<string, { count: number; sha256: string }>;
    };
    for (const [name, text] of altered) {
      const table = /tables\/(\w+)\.jsonl/.exec(name)?.[1];
      if (table) manifest.tables[table] = { count: text.split('\n').length - 1, sha256: sha256Hex(text) };
    }
    altered.set('manifest.json', canonical(manifest));
  }
  const pieces: Uint8Array[] = [];
  zipParts(altered, (bytes) => pieces.push(bytes));
  return new Blob(pieces as Uint8Array<ArrayBuffer>[]);
}

async function faultsOf(blob: Blob): Promise<string[]> {
  const error = await readWorkspace(blob).then(
    () => null,
    (thrown: unknown) => thrown,
  );
  expect(error).toBeInstanceOf(WorkspaceFileError);
  return (error as WorkspaceFileError).faults.map(showFault);
}

beforeAll(async () => {
  const test = new TestContext();
  store = new MemoryStore();
  const executor = new MemoryExecutor(store, test.context);
  const at = await setUp(executor, test);
  for (const note of ['Plot sheet 4', 'שלום 👩🏽‍🎨', 'line one\nline two'])
    await executor.run('entry.add', work(at.rig, 3600, { note }));
  file = await written(store);
  parts = new Map([...(await unzip(file))].map(([name, bytes]) => [name, new TextDecoder().decode(bytes)]));
});

describe('receipts in a workspace file', () => {
  const bytes = new TextEncoder().encode('%PDF-1.7 a receipt');
  const hash = bytesToHex(sha256(bytes));
  const withReceipt = async (files: { sha256: string; bytes: Uint8Array }[]) => {
    const test = new TestContext(9);
    const own = new MemoryStore();
    const executor = new MemoryExecutor(own, test.context);
    await setUp(executor, test);
    const receipt = {
      name: 'gel.pdf',
      mediaType: 'application/pdf' as const,
      bytes: bytes.length,
      sha256: hash,
      preview: '',
      pages: 1,
    };
    await executor.run('receipt.add', { receipts: [receipt] });
    const pieces: Uint8Array[] = [];
    await writeWorkspace(
      sourceOf(
        (table) => own.rows(table),
        own.journal,
        () => files,
      ),
      (piece) => pieces.push(piece),
    );
    return new Blob(pieces as Uint8Array<ArrayBuffer>[]);
  };

  it('come back byte for byte', async () => {
    const content = await readWorkspace(await withReceipt([{ sha256: hash, bytes }]));
    const back: unknown[] = [];
    for await (const each of content.files()) back.push([each.sha256, [...each.bytes]]);
    expect(back).toEqual([[hash, [...bytes]]]);
  });

  it('may be missing by choice, and are named; whatever else is wrong is still refused', async () => {
    const file = await withReceipt([]);
    const thrown = await readWorkspace(file).catch((fault: unknown) => fault as WorkspaceFileError);
    expect(thrown).toMatchObject({ count: 1, onlyReceipts: true });
    const content = await readWorkspace(file, { withoutReceipts: true });
    expect(content.missing).toEqual(['gel.pdf']);
    expect(content.rows.receipts).toHaveLength(1);
    const altered = await withReceipt([{ sha256: hash, bytes: new TextEncoder().encode('%PDF-1.7 other') }]);
    await expect(readWorkspace(altered, { withoutReceipts: true })).rejects.toMatchObject({ onlyReceipts: false });
    expect((await readWorkspace(await withReceipt([{ sha256: hash, bytes }]))).missing).toEqual([]);
  });

  it('are named where their bytes are missing or altered', async () => {
    expect((await faultsOf(await withReceipt([])))[0]).toMatch(
      /receipts.jsonl:1 sha256: The file of the receipt “gel.pdf” is missing/,
    );
    const other = new TextEncoder().encode('%PDF-1.7 another');
    expect((await faultsOf(await withReceipt([{ sha256: hash, bytes: other }])))[0]).toMatch(/does not match its hash/);
  });
});

describe('a workspace file', () => {
  it('comes back as it went, and identical content gives identical bytes', async () => {
    const read = await readWorkspace(file);
    expect(read.rows.entries).toEqual(store.rows('entries'));
    expect(read.journal).toEqual(store.journal);
    const again = await written(read.store);
    expect(new Uint8Array(await again.arrayBuffer())).toEqual(new Uint8Array(await file.arrayBuffer()));
  });

  it('says how far it is and stops when asked', async () => {
    const shares: number[] = [];
    await readWorkspace(file, { onProgress: (share) => shares.push(share) });
    expect(shares.at(-1)).toBe(1);
    const signal = AbortSignal.abort();
    await expect(
      writeWorkspace(
        sourceOf((table) => store.rows(table), store.journal),
        () => undefined,
        { signal },
      ),
    ).rejects.toThrow();
  });

  it.each([
    ['nothing', new Blob([])],
    ['text', new Blob(['Dear diary'])],
    ['an empty zip', new Blob([new Uint8Array([0x50, 0x4b, 5, 6, ...Array.from({ length: 18 }, () => 0)])])],
  ])('is not made of %s', async (_, blob) => {
    expect(await faultsOf(blob)).toEqual(['file: This is not a workspace file of Half Penny.']);
  });

  it('is refused as broken wherever it is cut off', async () => {
    const size = file.size;
    for (const end of [5, 40, Math.floor(size / 3), Math.floor(size / 2), size - 30, size - 1]) {
      expect(await faultsOf(file.slice(0, end)), `cut at ${end} of ${size}`).toEqual([
        expect.stringMatching(/broken or cut off/),
      ]);
    }
  });

  it('is refused when a byte within was damaged', async () => {
    const bytes = new Uint8Array(await file.arrayBuffer());
    bytes[Math.floor(bytes.length / 2)]! ^= 0xff;
    expect((await faultsOf(new Blob([bytes]))).length).toBeGreaterThan(0);
  });

  it('from a newer version says so', async () => {
    const manifest = { ...(JSON.parse(parts.get('manifest.json')!) as object), version: SCHEMA_VERSION + 1 };
    const [fault] = await faultsOf(packed({ 'manifest.json': JSON.stringify(manifest) }));
    expect(fault).toMatch(/^manifest.json version: .*newer version of Half Penny/);
  });

  it('of another kind is not ours', async () => {
    expect(await faultsOf(packed({ 'manifest.json': '{"format":"something else"}' }))).toEqual([
      'manifest.json format: This is not a workspace file of Half Penny.',
    ]);
    expect((await faultsOf(packed({ 'manifest.json': null })))[0]).toMatch('not a workspace file');
  });

  it('names file, line and path of every fault', async () => {
    const lines = parts.get('tables/entries.jsonl')!.trim().split('\n');
    const entry = (index: number, fields: object) =>
      JSON.stringify({ ...(JSON.parse(lines[index]!) as object), ...fields });
    const faults = await faultsOf(
      packed({
        'tables/entries.jsonl': [
          entry(0, { seconds: -5, day: '12 Nov' }),
          '{broken',
          entry(2, { colour: 'red' }),
          lines[0]!,
          lines[0]!,
          '',
        ].join('\n'),
      }),
    );
    expect(faults).toEqual([
      expect.stringMatching(/^tables\/entries.jsonl:1 day: This is not a day/),
      expect.stringMatching(/^tables\/entries.jsonl:1 seconds: A length cannot be negative/),
      expect.stringMatching(/^tables\/entries.jsonl:1 seconds: A length of nothing/),
      expect.stringMatching(/^tables\/entries.jsonl:2: This line cannot be read as JSON\.$/),
      expect.stringMatching(/^tables\/entries.jsonl:3: There is no field “colour”/),
      expect.stringMatching(/^tables\/entries.jsonl:5 id: The same record stands on line 4/),
    ]);
  });

  it('is refused where it is made to fill the machine, by the part and line that would', async () => {
    const deep = `{"id":"x","note":${'['.repeat(3000)}${']'.repeat(3000)}}`;
    expect((await faultsOf(packed({ 'tables/entries.jsonl': deep })))[0]).toMatch(
      /^tables\/entries.jsonl:1: This line is nested deeper than 64 levels/,
    );
    const long = `{"id":"${'x'.repeat(20 << 20)}"}`;
    expect(await faultsOf(packed({ 'tables/entries.jsonl': long }))).toEqual([
      expect.stringMatching(/^tables\/entries.jsonl:1: This line is longer than 16 million characters/),
    ]);
    expect(await faultsOf(packed({ 'manifest.json': '['.repeat(4000) }))).toEqual([
      expect.stringMatching(/^manifest.json: The manifest is nested deeper than 64 levels/),
    ]);
  });

  it('says what is wrong with a field in words of its own', async () => {
    const lines = parts.get('tables/entries.jsonl')!.trim().split('\n');
    const first = JSON.parse(lines[0]!) as Record<string, unknown>;
    const wrong = { ...first, note: 7, billable: null, projectId: undefined };
    const faults = await faultsOf(packed({ 'tables/entries.jsonl': JSON.stringify(wrong) }));
    expect(faults.join('\n')).toMatch(/note: This must be a text; a number stands here\./);
    expect(faults.join('\n')).not.toMatch(/Invalid input|expected/);
  });

  it('names what refers to nothing, and a history that was altered', async () => {
    const missing = '01900000-0000-7000-8000-000000000000';
    const entries = parts.get('tables/entries.jsonl')!.replace(/"projectId":"[^"]+"/, `"projectId":"${missing}"`);
    expect(await faultsOf(packed({ 'tables/entries.jsonl': entries }))).toEqual([
      'tables/entries.jsonl:1 projectId: There is no such project.',
      'tables/entries.jsonl:1 projectId: This is not what change 10 of the history made of it: it was altered beside the history.',
    ]);
    const journal = parts.get('tables/journal.jsonl')!.replace('"title":"Entry added"', '"title":"Entry removed"');
    expect(await faultsOf(packed({ 'tables/journal.jsonl': journal }))).toEqual([
      expect.stringMatching(/^tables\/journal.jsonl:\d+: Change \d+ was altered/),
    ]);
  });

  it('must fit its manifest', async () => {
    const entries = parts.get('tables/entries.jsonl')!.replace('Plot sheet 4', 'Plot sheet 5');
    expect(
      await faultsOf(packed({ 'manifest.json': parts.get('manifest.json')!, 'tables/entries.jsonl': entries })),
    ).toEqual([expect.stringMatching(/^tables\/entries.jsonl: The content does not match the hash/)]);
    expect(
      await faultsOf(packed({ 'manifest.json': parts.get('manifest.json')!, 'tables/entries.jsonl': null })),
    ).toEqual(['tables/entries.jsonl: This file is missing.']);
  });

  it('with a part that leads elsewhere is not unpacked', async () => {
    await expect(unzip(packed({ '../outside.txt': 'x' }))).rejects.toBeInstanceOf(WorkspaceFileError);
  });
});

describe('records of older versions', () => {
  const steps = [
    { from: 1, row: (_: string, row: Record<string, unknown>) => ({ ...row, added: 1 }) },
    { from: 2, row: (_: string, row: Record<string, unknown>) => ({ ...row, added: (row.added as number) + 1 }) },
  ];
  it('are brought forward step by step', () => {
    expect(migrateRow('entries', { id: 'x' }, 1, 3, steps)).toEqual({ id: 'x', added: 2 });
    expect(migrateRow('entries', { id: 'x' }, 3, 3, steps)).toEqual({ id: 'x' });
  });
  it('are never guessed at', () => {
    expect(() => migrateRow('entries', {}, 1, 4, steps)).toThrow('no way from version 3');
    expect(() => migrateRow('entries', {}, 5, 3, steps)).toThrow(fault('newer-version'));
  });
});

it('publishes schemas that are current', () => {
  const published = JSON.parse(
    readFileSync(new URL('../../../docs/workspace.schema.json', import.meta.url), 'utf8'),
  ) as { $defs: object };
  const undescribed: string[] = [];
  const bare = JSON.parse(JSON.stringify(published), (key, value: unknown) => {
    if (key !== 'properties') return value;
    return Object.fromEntries(
      Object.entries(value as Record<string, { description?: string }>).map(([name, { description, ...field }]) => {
        if (!description) undescribed.push(name);
        return [name, field];
      }),
    );
  }) as object;
  expect(bare).toEqual(JSON.parse(JSON.stringify(workspaceJsonSchema())));
  // Whoever reads a file with another program finds what each field means.
  expect(undescribed).toEqual([]);
  expect(Object.keys(published.$defs)).toContain('entries');
  expect(FORMAT).toBe('half-penny workspace');
});
