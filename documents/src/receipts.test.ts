import { PDFDocument, PDFName, PDFString, StandardFonts } from '@cantoo/pdf-lib';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { appendReceipts, inspectReceipt, MOST_RECEIPT_BYTES } from './receipts';
import { fault } from '@half-penny/core/testing';

/** One pixel, as the PNG specification has it. */
const PNG = Uint8Array.from(
  atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='),
  (char) => char.charCodeAt(0),
);

async function pdfOf(...texts: string[]): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Courier);
  for (const text of texts) pdf.addPage([300, 200]).drawText(text, { x: 20, y: 100, size: 12, font });
  return pdf.save();
}

const textOf = (bytes: Uint8Array): string => {
  const path = join(mkdtempSync(join(tmpdir(), 'half-penny-receipts-')), 'a.pdf');
  writeFileSync(path, bytes);
  return execFileSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' });
};

describe('a receipt before it is kept', () => {
  it('is known by its bytes, not by its name', async () => {
    expect(await inspectReceipt(PNG, 'photo.jpg')).toEqual({ mediaType: 'image/png', pages: 1 });
    expect(await inspectReceipt(await pdfOf('one', 'two'), 'x.bin')).toEqual({
      mediaType: 'application/pdf',
      pages: 2,
    });
  });

  it('is refused in words where it is no picture, broken, locked or too large', async () => {
    const text = new TextEncoder().encode('Dear diary');
    await expect(inspectReceipt(text, 'diary.png')).rejects.toThrow(fault('other-file'));
    await expect(inspectReceipt(PNG.subarray(0, 20), 'cut.png')).rejects.toThrow(fault('broken-file'));
    const broken = new TextEncoder().encode('%PDF-1.7\n1 0 obj\n<<');
    await expect(inspectReceipt(broken, 'cut.pdf')).rejects.toThrow(fault('broken-file'));
    const locked = await PDFDocument.create();
    locked.addPage();
    locked.encrypt({ userPassword: 'gel', ownerPassword: 'gel' });
    await expect(inspectReceipt(await locked.save(), 'locked.pdf')).rejects.toThrow(fault('locked-file'));
    await expect(inspectReceipt(new Uint8Array(0), 'none.pdf')).rejects.toThrow(fault('empty-file'));
    const large = { length: MOST_RECEIPT_BYTES + 1 } as Uint8Array;
    await expect(inspectReceipt(large, 'film.pdf')).rejects.toThrow('has 51 MB; a receipt has at most 50 MB');
  });
});

describe('receipts behind an invoice', () => {
  it('follow it page by page, each marked with its line', async () => {
    const receipts = [
      { name: 'gel.pdf', mediaType: 'application/pdf' as const, bytes: await pdfOf('Gel 12.40', 'Terms'), line: 2 },
      { name: 'lamp.png', mediaType: 'image/png' as const, bytes: PNG, line: 3 },
    ];
    const whole = await appendReceipts(await pdfOf('Invoice SL-0131'), receipts);
    const pages = textOf(whole)
      .split('\f')
      .map((page) => page.replace(/\s+/g, ' ').trim())
      .filter(Boolean);
    expect(pages).toEqual([
      'Invoice SL-0131',
      'Receipt for line 2 Gel 12.40',
      'Receipt for line 2 Terms',
      'Receipt for line 3',
    ]);
    const alone = await pdfOf('Invoice');
    expect(await appendReceipts(alone, [])).toBe(alone);
  });
});

describe('a receipt that does something', () => {
  /** Names that stand in any object of a PDF. */
  const namesIn = async (bytes: Uint8Array): Promise<string> => {
    const pdf = await PDFDocument.load(bytes);
    return pdf.context
      .enumerateIndirectObjects()
      .map(([, object]) => object.toString())
      .join('\n');
  };

  it('does nothing any more behind an invoice, and still shows what its fields showed', async () => {
    const pdf = await PDFDocument.create();
    const page = pdf.addPage([300, 200]);
    pdf.addJavaScript('start', 'app.alert(1)');
    await pdf.attach(new TextEncoder().encode('payload'), 'payload.exe', { mimeType: 'application/octet-stream' });
    const field = pdf.getForm().createTextField('amount');
    field.setText('Paid 12.40');
    field.addToPage(page, { x: 20, y: 100, width: 120, height: 20 });
    const { context } = pdf;
    const launch = context.obj({
      Type: 'Annot',
      Subtype: 'Link',
      Rect: [0, 0, 300, 200],
      A: { S: 'Launch', F: 'payload.exe' },
    });
    page.node.addAnnot(context.register(launch));
    page.node.set(PDFName.of('AA'), context.obj({ O: { S: 'JavaScript', JS: PDFString.of('app.alert(2)') } }));
    const bytes = await pdf.save();
    const dangerous = ['/JavaScript', '/Launch', '/EmbeddedFile', '/AA', '/Annot\n'];
    const before = await namesIn(bytes);
    for (const name of dangerous) expect(before).toContain(name);
    const whole = await appendReceipts(await pdfOf('Invoice SL-0131'), [
      { name: 'odd.pdf', mediaType: 'application/pdf', bytes, line: 1 },
    ]);
    const after = await namesIn(whole);
    for (const name of dangerous) expect(after).not.toContain(name);
    expect(textOf(whole)).toContain('Paid 12.40');
  });

  it('is refused where a picture says it has more pixels than a browser has room for', async () => {
    const huge = PNG.slice();
    new DataView(huge.buffer).setUint32(16, 12_000);
    new DataView(huge.buffer).setUint32(20, 12_000);
    await expect(inspectReceipt(huge, 'wall.png')).rejects.toThrow(
      '“wall.png” has 144 million pixels; a receipt has at most 100 million.',
    );
    // SOI, an empty comment, then a frame of 20,000 × 20,000 (ITU-T T.81).
    const jpeg = Uint8Array.from([
      0xff, 0xd8, 0xff, 0xfe, 0, 2, 0xff, 0xc0, 0, 11, 8, 0x4e, 0x20, 0x4e, 0x20, 1, 1, 0x11, 0,
    ]);
    await expect(inspectReceipt(jpeg, 'wall.jpg')).rejects.toThrow('“wall.jpg” has 400 million pixels');
  });
});
