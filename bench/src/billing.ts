import {
  byWhen,
  computeDraft,
  freeze,
  newAllocation,
  newDraft,
  Pricer,
  readBook,
  type ChargeRows,
} from '@half-penny/core/billing';
import type { MemoryStore } from '@half-penny/core/engine';
import { costDefaults, costLineDefaults, type Cost, type CostLine, type Entry } from '@half-penny/core/model';
import { makeDemo } from '@half-penny/demo';
import { invoiceView } from '@half-penny/documents';
import { invoicePdf } from '@half-penny/documents/node';
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { count, median, note, report } from './measure';

const SOURCES = count(20_000, 1000);
const DAY = '2026-11-30';
const LINES = count(200, 20);

/** A draft from 20,000 entries and costs against the time of one frame, and a long invoice's PDF against pdf-lib writing the same text. */
export async function benchBilling(): Promise<void> {
  const store = await makeDemo({ now: Date.parse('2026-11-12T15:00:00Z') });
  const pricer = new Pricer(await readBook(store));
  const client = pricer.book.clients.find((each) => each.name === 'Fernhill Folk Museum')!;
  for (const condense of ['cost code', 'item'] as const) {
    const input = sources(store, pricer, client.id);
    const invoice = { ...newDraft(client, { id: 'draft', createdAt: 0 }), condense };
    const whole = await median(5, () => computeDraft(pricer, { invoice, ...input, day: DAY }));
    note(`Draft from ${SOURCES} sources, ${condense}: ${Math.round(whole)} ms in all`);
  }
  await benchPdf(store, pricer, client.id);
}

function sources(store: MemoryStore, pricer: Pricer, clientId: string, many = SOURCES) {
  const own = store.rows('entries').filter((entry) => pricer.clientOf(entry.projectId)?.id === clientId);
  const projectId = own[0]!.projectId!;
  const codes = pricer.book.costCodes.filter((code) => code.costType !== 'labour');
  const half = many / 2;
  const entries = Array.from({ length: half }, (_, index): Entry => ({
    ...own[index % own.length]!,
    id: `entry ${index}`,
  })).sort(byWhen);
  const costs = Array.from({ length: half / 10 }, (_, index): Cost => ({
    ...costDefaults,
    id: `cost ${index}`,
    kind: 'bill',
    day: '2026-11-10',
    currency: 'GBP',
  }));
  const costLines = Array.from({ length: half }, (_, index): CostLine => ({
    ...costLineDefaults,
    id: `line ${index}`,
    costId: `cost ${index % costs.length}`,
    text: `Lamp ${index}`,
    amount: 1000 + (index % 700),
    projectId,
    costCodeId: codes[index % codes.length]!.id,
  }));
  const rows: ChargeRows = { costs, costLines, agreed: [], milestones: [] };
  const allocations = [
    ...entries.map((row) => newAllocation({ id: row.id, invoiceId: 'draft', entryId: row.id, seconds: row.seconds })),
    ...costLines.map((row) => newAllocation({ id: row.id, invoiceId: 'draft', costLineId: row.id, part: row.amount! })),
  ];
  return { entries, rows, allocations };
}

async function benchPdf(store: MemoryStore, pricer: Pricer, clientId: string): Promise<void> {
  const input = sources(store, pricer, clientId, LINES);
  const client = pricer.client.get(clientId)!;
  const invoice = { ...newDraft(client, { id: 'draft', createdAt: 0 }), condense: 'item' as const };
  const frozen = freeze(pricer, computeDraft(pricer, { invoice, ...input, day: DAY }), invoice, 1, DAY);
  const view = invoiceView(frozen);
  const own = await median(3, () => invoicePdf(frozen));
  const bare = await median(3, async () => {
    const pdf = await PDFDocument.create();
    const font = await pdf.embedFont(StandardFonts.Helvetica);
    let page = pdf.addPage();
    let y = 780;
    for (const line of view.lines) {
      if (y < 60) [page, y] = [pdf.addPage(), 780];
      page.drawText([line.text, line.quantity, line.price, line.amount].join('   ').replace(/[^\x20-\x7e£€]/g, ' '), {
        x: 48,
        y,
        size: 9.5,
        font,
      });
      y -= 20;
    }
    await pdf.save();
  });
  report(`Invoice of ${view.lines.length} lines as PDF`, own, 'the same text by pdf-lib alone', bare);
}
