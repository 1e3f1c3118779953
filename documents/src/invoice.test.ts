import { readBook, Pricer, computeDraft, freeze, invoiceNumber } from '@half-penny/core/billing';
import { MemoryExecutor } from '@half-penny/core/commands';
import { MemoryStore } from '@half-penny/core/engine';
import { invoiceDesigns, type FrozenInvoice, type Invoice } from '@half-penny/core/model';
import { setUp, TestContext, work } from '@half-penny/core/testing';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, expect, it } from 'vitest';
import { designList, invoiceView } from '.';
import { invoicePdf } from './node';

let frozen: FrozenInvoice;
const folder = mkdtempSync(join(tmpdir(), 'half-penny-pdf-'));

/** The text of each page, as pdftotext (poppler-utils) reads it. */
async function pagesOf(invoice: FrozenInvoice): Promise<string[]> {
  const path = join(folder, 'invoice.pdf');
  writeFileSync(path, await invoicePdf(invoice));
  return execFileSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' })
    .split('\f')
    .filter((page) => page.trim() !== '');
}

const infoOf = (): string => execFileSync('pdfinfo', [join(folder, 'invoice.pdf')], { encoding: 'utf8' });

beforeAll(async () => {
  const test = new TestContext();
  const store = new MemoryStore();
  const executor = new MemoryExecutor(store, test.context);
  const at = await setUp(executor, test);
  await executor.run('timer.start', { projectId: at.rig, serviceId: at.design, note: 'Rig plan' });
  test.wait(61);
  await executor.run('timer.stop', { id: store.rows('timers')[0]!.id });
  await executor.run('entry.add', work(at.rig, 3600, { serviceId: at.design }));
  const entryIds = store.rows('entries').map((entry) => entry.id);
  const row = await executor.run('invoice.draft', { clientId: at.playhouse, entryIds, condense: 'item' });
  const id = row.changes.find((change) => change.table === 'invoices')!.id;
  await executor.run('invoice.issue', { id });
  const invoice = store.rows('invoices')[0] as Invoice;
  frozen = invoice.frozen!;
  // What was frozen is what the draft said.
  const draft = computeDraft(new Pricer(await readBook(store)), {
    invoice,
    entries: store.rows('entries'),
    allocations: store.rows('allocations'),
    day: frozen.day,
  });
  expect(freeze(new Pricer(await readBook(store)), draft, invoice, 1, frozen.day)).toEqual(frozen);
  expect(frozen.number).toBe(invoiceNumber(store.rows('workspace')[0]!, 1, frozen.day));
});

it('carries the computed lines and totals from the timer to the paper', async () => {
  const [page] = await pagesOf(frozen);
  const text = page!.replace(/[ ]+/g, ' ');
  // 61 min is 1:06 in six-minute steps: 93.50; 1:00 is 85.00; net 178.50; 20 % is 35.70; together 214.20.
  expect(text).toMatch(/Rig plan 1:06 h 85\.00 \/h £93\.50/);
  expect(text).toMatch(/Plot sheet 4 1:00 h 85\.00 \/h £85\.00/);
  expect(text).toMatch(/Net £178\.50/);
  expect(text).toMatch(/VAT 20 % on £178\.50 £35\.70/);
  expect(text).toMatch(/To pay, GBP £214\.20/);
  expect(text).toMatch(/SL-0001/);
  expect(text).toMatch(/page 1 of 1/);
  expect(infoOf()).toMatch(/Page size:.*A4/);
});

it('repeats heads, counts pages and never leaves totals alone, on A4 and US Letter', async () => {
  for (const paper of ['A4', 'Letter'] as const) {
    for (const count of [24, 25, 26, 27, 28, 29, 30, 70]) {
      const lines = Array.from({ length: count }, (_, index) => ({
        ...frozen.lines[0]!,
        key: String(index),
        text: `Line number ${index + 1}.`,
      }));
      const pages = await pagesOf({ ...frozen, paper, lines });
      pages.forEach((page, index) => {
        expect(page).toMatch(`page ${index + 1} of ${pages.length}`);
        if (/Line number/.test(page)) expect(page).toMatch(/Description\s+Quantity\s+Price\s+Amount/);
      });
      const withTotals = pages.find((page) => /To pay, GBP/.test(page))!;
      expect(withTotals, `${count} lines on ${paper}`).toMatch(/Line number/);
      expect(pages.join('')).toContain(`Line number ${count}.`);
    }
    expect(infoOf()).toMatch(paper === 'A4' ? /595\.28 x 841\.89/ : /612 x 792/);
  }
});

it('prints any text as text: markup, other scripts, emoji, very long', async () => {
  const texts = [
    '<b onclick="x()">bold</b> & co',
    'Žluťoučký kůň',
    'שלום עולם',
    'Lamp 💡 order',
    'word '.repeat(4000),
    'x'.repeat(3000),
  ];
  const lines = texts.map((text, index) => ({ ...frozen.lines[0]!, key: String(index), text }));
  const all = (await pagesOf({ ...frozen, lines })).join('\n');
  expect(all).toContain('<b onclick="x()">bold</b> & co');
  expect(all).toContain('Žluťoučký kůň');
  expect(all).toMatch(/שלום|םולש/);
  expect(all).toContain('💡');
  expect(all.match(/\bword\b/g)!.length).toBe(4000);
  expect(all.match(/x/g)!.length).toBeGreaterThanOrEqual(3000);
  expect(all).toMatch(/To pay, GBP/);
});

it('says the same on screen as on paper', () => {
  const view = invoiceView(
    { ...frozen, taxes: [{ ...frozen.taxes[0]!, note: 'Reverse charge.' }], note: 'Thank you\n\nImogen' },
    'Draft',
  );
  expect(view.facts[0]).toEqual(['Invoice', 'Draft']);
  expect(view.notes).toEqual(['Thank you', 'Imogen', 'Reverse charge.']);
  expect(view.totals.at(-1)).toMatchObject({ label: 'To pay, GBP', amount: '£214.20', strong: true });
  expect(invoiceView({ ...frozen, lengthStyle: 'decimal' }).lines[0]!.quantity).toBe('1.10 h');
});

it('bears the logo it was issued with, and what was agreed', async () => {
  // One grey pixel.
  const data = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGNoAAAAggCBd81ytgAAAABJRU5ErkJggg==';
  const logo = { id: 'logo', mediaType: 'image/png' as const, data };
  const written = async (with_: typeof logo | undefined) =>
    Buffer.from(await invoicePdf(frozen, with_)).toString('latin1');
  expect(await written(logo)).toContain('/Subtype /Image');
  expect(await written(undefined)).not.toContain('/Subtype /Image');
  const agreed = { ...frozen, purchaseOrder: 'PO-77', sentences: ['Labour at cost plus 62.5 %.'] };
  const all = (await pagesOf(agreed)).join('\n');
  expect(all).toMatch(/Your order\s+PO-77/);
  expect(all).toContain('Labour at cost plus 62.5 %.');
});

it.each(invoiceDesigns)('in the design %s says the same, in whatever order, on one page', async (design) => {
  const pages = await pagesOf({ ...frozen, design });
  expect(pages).toHaveLength(1);
  const words = (text: string) => text.split(/\s+/).filter(Boolean).toSorted();
  expect(words(pages[0]!)).toEqual(words((await pagesOf(frozen))[0]!));
  expect(pages[0]).toContain('To pay');
  expect(pages[0]).toContain(`by ${invoiceView(frozen).facts.find(([label]) => label === 'Due')![1]}`);
});

it('accents can be read on white, and what is asked for on its band (WCAG 2.2, 1.4.3: 4.5:1)', () => {
  const luminance = (hex: string) => {
    const [r, g, b] = [1, 3, 5]
      .map((at) => parseInt(hex.slice(at, at + 2), 16) / 255)
      .map((each) => (each <= 0.04045 ? each / 12.92 : ((each + 0.055) / 1.055) ** 2.4));
    return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
  };
  const contrast = (dark: string, light: string) => (luminance(light) + 0.05) / (luminance(dark) + 0.05);
  for (const { name, accent, tint } of designList) {
    expect(contrast(accent, '#ffffff'), name).toBeGreaterThanOrEqual(4.5);
    expect(contrast(accent, tint), name).toBeGreaterThanOrEqual(4.5);
    expect(contrast('#566873', tint), `${name}, soft`).toBeGreaterThanOrEqual(4.5);
  }
});

it('is printed in the client’s language, with a space between thousands that there is a glyph of', async () => {
  const [line] = frozen.lines;
  const lines = [{ ...line!, amount: 123_450, gross: 123_450 }];
  const [text] = await pagesOf({
    ...frozen,
    language: 'fr',
    datesIn: 'fr-FR',
    numberStyle: '1 234,50',
    lines,
    net: 123_450,
  });
  expect(text).toContain('Désignation');
  expect(text).toMatch(/£1[\u00a0 ]234,50/);
});
