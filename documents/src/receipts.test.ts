import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { appendReceipts, inspectReceipt, MOST_RECEIPT_BYTES } from './receipts';

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
    await expect(inspectReceipt(text, 'diary.png')).rejects.toThrow('“diary.png” is no picture and no PDF');
    await expect(inspectReceipt(PNG.subarray(0, 20), 'cut.png')).rejects.toThrow('cannot be read to its end');
    const broken = new TextEncoder().encode('%PDF-1.7\n1 0 obj\n<<');
    await expect(inspectReceipt(broken, 'cut.pdf')).rejects.toThrow('is a broken PDF');
    const locked = await PDFDocument.create();
    locked.addPage();
    locked.encrypt({ userPassword: 'gel', ownerPassword: 'gel' });
    await expect(inspectReceipt(await locked.save(), 'locked.pdf')).rejects.toThrow('is locked with a password');
    await expect(inspectReceipt(new Uint8Array(0), 'none.pdf')).rejects.toThrow('is empty');
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
