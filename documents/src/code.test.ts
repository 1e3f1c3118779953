import { payCode } from '@half-penny/core/e-invoice';
import { frozenInvoice, frozenLine, frozenTax } from '@half-penny/core/testing';
import jsQR from 'jsqr';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { invoiceView } from '.';
import { invoicePdf } from './node';

const account = { holder: 'Saltmere Lighting', number: 'DE89 3704 0044 0532 0130 00', bic: '' };
const { studio } = frozenInvoice([frozenLine(100)], []);
const invoice = (payCodeWanted?: boolean) =>
  frozenInvoice([frozenLine(123_450)], [frozenTax('vat', '0', 'AE', 'Réverse chargé')], {
    currency: 'EUR',
    studio: { ...studio, name: 'Zoë’s Lighting', account: { ...account, holder: '' } },
    ...(payCodeWanted ? { payCode: true } : {}),
  });

/** What a camera would read on the first page of a PDF: the page as grey dots (poppler-utils), and a reader that is not ours. */
function scanned(pdf: Uint8Array): string | undefined {
  const file = join(mkdtempSync(join(tmpdir(), 'half-penny-code-')), 'invoice.pdf');
  writeFileSync(file, pdf);
  execFileSync('pdftoppm', ['-gray', '-r', '150', '-f', '1', '-l', '1', '-singlefile', file, file]);
  const picture = readFileSync(`${file}.pgm`);
  const [, width, height] = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(picture.toString('latin1', 0, 40))!.map(Number);
  const grey = picture.subarray(picture.length - width! * height!);
  const colours = new Uint8ClampedArray(grey.length * 4);
  grey.forEach((level, at) => colours.set([level, level, level, 255], at * 4));
  return jsQR(colours, width!, height!)?.data;
}

it('the code on an invoice says what it is to say, as a reader of another make reads it off the page', async () => {
  const frozen = invoice(true);
  expect(scanned(await invoicePdf(frozen))).toBe(payCode(frozen));
  expect(payCode(frozen)).toContain('Zoë’s Lighting');
  expect(invoiceView(frozen).payment.join(' ')).toMatch(/Reference RF\d\d SL00 01/);
});

it('an invoice that was issued without one stays without one', async () => {
  expect(scanned(await invoicePdf(invoice()))).toBeUndefined();
  expect(invoiceView(invoice())).toMatchObject({ payCode: '', payment: ['IBAN DE89 3704 0044 0532 0130 00'] });
});
