import { bankId, type PaymentFile, type Transfer } from '@half-penny/core/paying-out';
import { runs } from '@half-penny/core/testing';
import { XMLParser } from 'fast-xml-parser';
import fc from 'fast-check';
import { Document } from 'sepa';
import { describe, expect, it } from 'vitest';
import { bankText, writePain001 } from '.';

const id = (n: number) => `00000000-0000-7000-8000-${String(n).padStart(12, '0')}`;
const transfer = (n: number, amount: number, number: string, more: Partial<Transfer['payee']> = {}): Transfer => ({
  endToEndId: bankId(id(n)),
  payee: { id: id(n), name: `Payee ${n}`, memberId: null, holder: '', number, bic: '', ...more },
  amount,
  text: `Bill ${n}`,
  payouts: [],
});
const file = (more: Partial<PaymentFile> = {}): PaymentFile => ({
  messageId: bankId(id(900)),
  madeAt: Date.UTC(2026, 10, 28, 9, 30),
  day: '2026-12-01',
  currency: 'EUR',
  debtor: 'Saltmere Lighting',
  account: {
    id: id(1),
    currency: 'EUR',
    holder: '',
    number: 'DE89 3704 0044 0532 0130 00',
    bic: 'COBADEFFXXX',
    ledger: '',
  },
  transfers: [
    transfer(1, 123_456, 'FR14 2004 1010 0505 0001 3M02 606', { bic: 'PSSTFRPPPAR' }),
    transfer(2, 1, 'NL91 ABNA 0417 1643 00', { bic: 'ABNANL2A' }),
  ],
  ...more,
});

interface Element {
  [name: string]: Element | Element[] | string;
}
const parser = new XMLParser({ ignoreAttributes: true, ignoreDeclaration: true, parseTagValue: false });
const read = (xml: string) =>
  (parser.parse(xml) as { Document: { CstmrCdtTrfInitn: Element } }).Document.CstmrCdtTrfInitn;
/** Every text with the elements that it stands in, in the order of the document. */
const leaves = (node: Element | Element[] | string, path = ''): string[] => {
  if (typeof node === 'string') return [`${path}=${node}`];
  if (Array.isArray(node)) return node.flatMap((each) => leaves(each, path));
  return Object.entries(node).flatMap(([name, each]) => leaves(each, `${path}/${name}`));
};

describe('a payment file', () => {
  it('has the elements that another library writes for the same transfers, in the same order', () => {
    const asked = file();
    // The package sepa 3.0.0, pain.001.001.09.
    const peer = new Document('pain.001.001.09');
    peer.grpHdr.id = asked.messageId;
    peer.grpHdr.created = new Date(asked.madeAt);
    peer.grpHdr.initiatorName = asked.debtor;
    const info = peer.createPaymentInfo();
    info.requestedExecutionDate = new Date(`${asked.day}T00:00:00Z`);
    info.debtorIBAN = asked.account.number.replaceAll(' ', '');
    info.debtorBIC = asked.account.bic;
    info.debtorName = asked.debtor;
    peer.addPaymentInfo(info);
    for (const { payee, amount, text, endToEndId } of asked.transfers) {
      const made = info.createTransaction();
      made.creditorName = payee.name;
      made.creditorIBAN = payee.number.replaceAll(' ', '');
      made.creditorBIC = payee.bic;
      made.amount = amount / 100;
      made.remittanceInfo = text;
      made.end2endId = endToEndId;
      info.addTransaction(made);
    }
    const ours = leaves(read(writePain001(asked)));
    const theirs = leaves(read(peer.toString()));
    // What is chosen, and what names the file's own parts, may differ; what is left stands in one order.
    const own = /\/(CreDtTm|PmtInfId|InstrId|BtchBookg|Ccy|InitgPty\/Id.*)=/;
    expect(ours.filter((leaf) => !own.test(leaf))).toEqual(theirs.filter((leaf) => !own.test(leaf)));
    expect(ours).toHaveLength(30);
  });

  it('adds up, and says each sum in the digits of its currency', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 99_999_999 }), { minLength: 1, maxLength: 20 }),
        fc.constantFrom(['GBP', 2], ['JPY', 0], ['EUR', 2]),
        (amounts, [currency, digits]) => {
          const transfers = amounts.map((amount, index) => transfer(index, amount, '20-00-00 55779911'));
          const root = read(writePain001(file({ currency: String(currency), transfers }))) as never;
          const { GrpHdr, PmtInf } = root as { GrpHdr: { NbOfTxs: string; CtrlSum: string }; PmtInf: Element };
          const sum = amounts.reduce((total, amount) => total + amount, 0);
          expect(GrpHdr).toMatchObject({ NbOfTxs: String(amounts.length) });
          expect(Math.round(Number(GrpHdr.CtrlSum) * 10 ** Number(digits))).toBe(sum);
          expect(PmtInf.CtrlSum).toBe(GrpHdr.CtrlSum);
        },
      ),
      { numRuns: runs(40) },
    );
  });

  it('names a British bank by its sort code, and finds one by an IBAN alone', () => {
    const asked = file({
      currency: 'GBP',
      account: { ...file().account, currency: 'GBP', number: '20-00-00 55779911', bic: '' },
      transfers: [transfer(1, 100, '40-12-34 11223344'), transfer(2, 200, 'GB82 WEST 1234 5698 7654 32')],
    });
    const said = leaves(read(writePain001(asked)));
    expect(said).toEqual(
      expect.arrayContaining([
        '/PmtInf/DbtrAgt/FinInstnId/ClrSysMmbId/MmbId=200000',
        '/PmtInf/ChrgBr=SHAR',
        '/PmtInf/CdtTrfTxInf/CdtrAgt/FinInstnId/ClrSysMmbId/ClrSysId/Cd=GBDSC',
        '/PmtInf/CdtTrfTxInf/CdtrAgt/FinInstnId/ClrSysMmbId/MmbId=401234',
        '/PmtInf/CdtTrfTxInf/CdtrAcct/Id/Othr/Id=11223344',
        '/PmtInf/CdtTrfTxInf/CdtrAcct/Id/IBAN=GB82WEST12345698765432',
      ]),
    );
    expect(said.filter((leaf) => leaf.includes('CdtrAgt'))).toHaveLength(2);
    expect(said.some((leaf) => leaf.includes('SvcLvl'))).toBe(false);
  });

  it('gives a reference of ISO 11649 where banks look for it', () => {
    const [first] = file().transfers;
    const said = leaves(read(writePain001(file({ transfers: [{ ...first!, text: 'RF18 5390 0754 7034' }] }))));
    expect(said.at(-1)).toBe('/PmtInf/CdtTrfTxInf/RmtInf/Strd/CdtrRefInf/Ref=RF18539007547034');
  });
});

describe('a text for banks', () => {
  it('is in the letters that all of them take', () => {
    expect(bankText('Größe & Söhne – “Łódź”  #7')).toBe('Grosse + Sohne - .Lodz. .7');
    expect(bankText('//a//b/')).toBe('a/b');
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 200 }), (text) => {
        const said = bankText(text);
        expect(said).toMatch(/^[A-Za-z0-9/\-?:().,'+ ]{0,140}$/);
        expect(said).not.toMatch(/^\/|\/$|\/\//);
      }),
      { numRuns: runs(200) },
    );
  });
});
