import { MemoryExecutor } from '@half-penny/core/commands';
import { MemoryStore } from '@half-penny/core/engine';
import { setUp, TestContext, work } from '@half-penny/core/testing';
import type { FrozenInvoice } from '@half-penny/core/model';
import { beforeAll, describe, expect, it } from 'vitest';
import { invoiceView } from './invoice-view';

let frozen: FrozenInvoice;

beforeAll(async () => {
  const test = new TestContext();
  const store = new MemoryStore();
  const executor = new MemoryExecutor(store, test.context);
  const at = await setUp(executor, test);
  await executor.run('workspace.edit', {
    taxNumber: 'GB 999 9999 73',
    rounding: { increment: 1, direction: 'nearest', minimum: 0, per: 'entry' },
  });
  const { changes } = await executor.run('entry.add', work(at.rig, 2867));
  const drafted = await executor.run('invoice.draft', { clientId: at.playhouse, entryIds: [changes[0]!.id] });
  const id = drafted.changes.find((change) => change.table === 'invoices')!.id;
  await executor.run('invoice.issue', { id });
  frozen = (await store.get('invoices', id))!.frozen!;
});

const fact = (name: string, more: Partial<FrozenInvoice> = {}) =>
  invoiceView({ ...frozen, ...more }).facts.find(([label]) => label === name)?.[1];

describe('an invoice as its client reads it', () => {
  it.each([
    ['2026-09-02', '2026-09-02', '2 September 2026'],
    ['2026-09-02', '2026-09-30', '2 to 30 September 2026'],
    ['2026-09-28', '2026-10-04', '28 September to 4 October 2026'],
    ['2025-12-29', '2026-01-04', '29 December 2025 to 4 January 2026'],
  ])('says month and year of %s to %s once', (from, to, said) => {
    expect(fact('For', { period: { from, to } })).toBe(said);
  });

  it('prints lengths with their seconds, so that quantity × price is the amount', () => {
    const [line] = invoiceView(frozen).lines;
    expect(line).toMatchObject({ quantity: '0:47:47 h' });
  });

  it('is a VAT invoice where VAT is charged, and a credit note names what it credits and its day', () => {
    expect(invoiceView(frozen).title).toBe('VAT invoice');
    expect(invoiceView({ ...frozen, taxes: [] }).title).toBe('Invoice');
    const credits = { number: 'SL-0131', reason: 'Too long', day: '2026-11-02' };
    const note = invoiceView({ ...frozen, credits });
    expect(note.title).toBe('Credit note');
    expect(JSON.stringify(note.facts)).toContain('SL-0131 of 2 November 2026');
    expect(note.facts.map(([label]) => label)).not.toContain('Due');
  });
});
