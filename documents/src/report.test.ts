import { FactStore, OpenReport, plainDefinition, sheetOf, type ReportSheet } from '@half-penny/core/reports';
import { freshStudio, work } from '@half-penny/core/testing';
import { PDFDocument } from '@cantoo/pdf-lib';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { reportPdf } from './node';
import { joinPdfs } from './receipts';

const studio = {
  name: 'Saltmere Lighting',
  address: '14 Lantern Row\nSaltmere',
  email: 'accounts@saltmere-lighting.example',
  paper: 'A4' as const,
};
const TODAY = '2026-11-12';

/** The text of a PDF, as pdftotext (poppler-utils) reads it. */
function textOf(bytes: Uint8Array): string {
  const path = join(mkdtempSync(join(tmpdir(), 'half-penny-report-')), 'report.pdf');
  writeFileSync(path, bytes);
  return execFileSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' });
}

let sheet: ReportSheet;

beforeAll(async () => {
  const { store, run, at } = await freshStudio();
  for (let index = 0; index < 40; index++) {
    const day = `2026-10-${String(1 + (index % 28)).padStart(2, '0')}`;
    await run('entry.add', { ...work(at.gallery, 900 + index * 617), day, note: `Case lighting, sheet ${index}` });
  }
  const keeper = await FactStore.read(store, TODAY);
  const report = new OpenReport(keeper.words, keeper.days, {
    definition: {
      ...plainDefinition,
      rows: ['project', 'member', 'note'],
      measures: ['billable', 'billed', 'worth'],
      filters: [{ field: 'client', keys: [at.museum], without: false }],
      when: { kind: 'moving', name: 'last month' },
    },
    runOn: TODAY,
  });
  for (const _ of report.run(keeper.table));
  sheet = sheetOf(report.answer(), 'Billable hours, October', 'With our thanks', 'h:mm');
});

describe('a report on paper', () => {
  it('has the studio’s head, every line and figure, and numbered pages', async () => {
    const text = textOf(await reportPdf(sheet, studio));
    for (const said of [
      'Billable hours, October',
      'With our thanks',
      'Saltmere Lighting',
      'Saltmere',
      '1 Oct 2026',
      'page 1 of',
    ]) {
      expect(text).toContain(said);
    }
    expect(sheet.lines.length).toBeGreaterThan(20);
    const flat = text.replace(/\s+/g, ' ');
    for (const { cells } of [...sheet.lines, sheet.total]) for (const cell of cells) expect(flat).toContain(cell.text);
  });

  it('lies on its side where there is much to a line', async () => {
    const wide = {
      ...sheet,
      heads: [...sheet.heads, ...sheet.heads],
      lines: [],
      total: { ...sheet.total, cells: [...sheet.total.cells, ...sheet.total.cells] },
    };
    const size = async (each: ReportSheet) => {
      const page = (await PDFDocument.load(await reportPdf(each, studio))).getPage(0);
      return page.getWidth() > page.getHeight();
    };
    expect([await size(sheet), await size(wide)]).toEqual([false, true]);
  });

  it('stands behind another document in one file', async () => {
    const own = await reportPdf({ ...sheet, lines: sheet.lines.slice(0, 3) }, studio);
    const both = await PDFDocument.load(await joinPdfs([own, own]));
    expect(both.getPageCount()).toBe(2);
  });
});
