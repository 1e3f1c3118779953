import { eInvoiceOf, rulesBrokenBy } from '@half-penny/core/e-invoice';
import { frozenInvoice, frozenLine, frozenTax } from '@half-penny/core/testing';
import { readEInvoice, writeEInvoice } from '@half-penny/formats/e-invoice';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { fault } from '@half-penny/core/testing';
import { invoiceDataOf, isPdf } from './attached';
import { invoicePdf } from './node';

const run = (program: string, ...args: string[]) => execFileSync(program, args, { encoding: 'utf8' });

it('a hybrid invoice is the paper, tagged PDF/A-3 with its fonts, and the data as its alternative', async () => {
  const frozen = frozenInvoice([frozenLine(12_345)], [frozenTax('vat', '20', 'S')]);
  const paper = { name: 'SL-0001.pdf', bytes: await invoicePdf(frozen) };
  const hybrid = await writeEInvoice('factur-x', eInvoiceOf(frozen, { taxPlace: 'GB' }), paper);
  const folder = mkdtempSync(join(tmpdir(), 'half-penny-hybrid-'));
  const [file, xml] = [join(folder, 'hybrid.pdf'), join(folder, 'factur-x.xml')];
  writeFileSync(file, hybrid);
  // Structure by qpdf; conformance, tags and the attachment by what poppler reads.
  expect(run('qpdf', '--check', file)).toContain('No syntax or stream encoding errors found');
  expect(run('pdfinfo', file)).toMatch(/Tagged: +yes/);
  const metadata = run('pdfinfo', '-meta', file);
  expect(metadata).toMatch(/<pdfaid:part>3<[^]*<pdfaid:conformance>B</);
  expect(metadata).toMatch(/<fx:DocumentFileName>factur-x\.xml<[^]*<fx:ConformanceLevel>EN 16931</);
  const structure = run('qpdf', '--json', file);
  for (const key of ['/OutputIntents', '/MarkInfo', '/Lang', '/AFRelationship": "/Alternative'])
    expect(structure).toContain(key);
  const fonts = run('pdffonts', file).split('\n').slice(2).filter(Boolean);
  expect(fonts.length).toBeGreaterThan(0);
  for (const font of fonts) expect(font).toMatch(/ yes yes (yes|no) +\d/);
  expect(run('pdftotext', '-layout', file, '-')).toMatch(/£148\.14/);
  run('pdfdetach', '-save', '1', '-o', xml, file);
  const read = readEInvoice(new Uint8Array(readFileSync(xml)), 'factur-x.xml');
  expect([read.number, read.totals.gross, read.specification]).toEqual(['SL-0001', 14_814, 'urn:cen.eu:en16931:2017']);
  expect(rulesBrokenBy(read)).toEqual([]);
  // The same by the reader that the application has.
  expect(isPdf(hybrid)).toBe(true);
  expect(new TextDecoder().decode(await invoiceDataOf(hybrid, 'hybrid.pdf'))).toBe(readFileSync(xml, 'utf8'));
  await expect(invoiceDataOf(paper.bytes, 'paper.pdf')).rejects.toThrow(fault('other-file'));
  await expect(invoiceDataOf(hybrid.slice(0, 900), 'half.pdf')).rejects.toThrow(fault('broken-file'));
  const plain = new TextEncoder().encode('<Invoice/>');
  expect(await invoiceDataOf(plain, 'plain.xml')).toBe(plain);
  await expect(invoiceDataOf(new Uint8Array(21_000_000), 'huge.xml')).rejects.toThrow(fault('too-large'));
});
