import { slipOf } from '@half-penny/core/e-invoice';
import { buyerDefaults, sellerDefaults, type FrozenInvoice } from '@half-penny/core/model';
import { frozenInvoice, frozenLine, frozenTax } from '@half-penny/core/testing';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import jsQR from 'jsqr';
import { describe, expect, it } from 'vitest';
import { invoicePdf } from './node';
import { slipSvg } from './swiss-slip';

const base = frozenInvoice([frozenLine(199_475)], [frozenTax('S', '8.1', 'S')]);
const invoice: FrozenInvoice = {
  ...base,
  currency: 'CHF',
  payCode: true,
  language: 'de',
  studio: {
    ...base.studio,
    taxNumber: '',
    name: 'Saltmere Lighting',
    address: 'Lantern Row 14\n8000 Saltmere',
    account: { holder: '', number: 'CH93 0076 2011 6238 5295 7', bic: '' },
  },
  client: { ...base.client, name: 'Maison Clairval', address: 'Quai des Voiliers 22\n1200 Clairval' },
  parties: {
    seller: { ...sellerDefaults, city: 'Saltmere', postCode: '8000' },
    buyer: { ...buyerDefaults, city: 'Clairval', postCode: '1200', country: 'CH' },
  },
};

/** A page of a PDF as grey picture: width, height and a byte a point. */
function pageOf(path: string, page: number): { width: number; height: number; data: Uint8Array } {
  const raw = execFileSync('pdftoppm', ['-gray', '-r', '150', '-f', String(page), '-l', String(page), path], {
    maxBuffer: 50_000_000,
  });
  const [, width, height] = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(raw.subarray(0, 40).toString('latin1'))!;
  return { width: Number(width), height: Number(height), data: raw.subarray(-Number(width) * Number(height)) };
}

describe('the Swiss payment part of an invoice', () => {
  it('is a page of its own whose code says what the paper says', async () => {
    const path = join(mkdtempSync(join(tmpdir(), 'half-penny-slip-')), 'slip.pdf');
    writeFileSync(path, await invoicePdf(invoice));
    const text = execFileSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' });
    for (const said of ['Zahlteil', 'Empfangsschein', 'CH93 0076 2011 6238 5295 7', 'Maison Clairval', '8000 Saltmere'])
      expect(text).toContain(said);
    const { width, height, data } = pageOf(path, 2);
    const inColour = new Uint8ClampedArray(width * height * 4);
    data.forEach((grey, index) => inColour.set([grey, grey, grey, 255], index * 4));
    const lines = jsQR(inColour, width, height)!.data.split(/\r?\n/);
    // Swiss Implementation Guidelines for the QR-bill, version 2: header, account, creditor (S for a structured address), amount, debtor,
    // reference (the order of lines as remembered).
    expect(lines.slice(0, 5)).toEqual(['SPC', '0200', '1', 'CH9300762011623852957', 'S']);
    expect(lines.slice(5, 11)).toEqual(['Saltmere Lighting', 'Lantern Row 14', '', '8000', 'Saltmere', 'CH']);
    expect(lines.slice(18, 20)).toEqual([(base.payable / 100).toFixed(2), 'CHF']);
    expect(lines.slice(20, 22)).toEqual(['S', 'Maison Clairval']);
    expect(lines.slice(27, 29)).toEqual(['SCOR', slipOf(invoice)!.reference]);
    expect(lines.at(-1)).toBe('EPD');
  });

  it('is printed in the language of the invoice, or in English', () => {
    const slip = slipOf(invoice)!;
    expect(slipSvg(slip, 'fr')).toContain('Section paiement');
    expect(slipSvg(slip, 'it')).toContain('Sezione pagamento');
    expect(slipSvg(slip, 'nl')).toContain('Payment part');
  });
});
