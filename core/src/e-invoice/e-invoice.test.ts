import { describe, expect, it } from 'vitest';
import { buyerDefaults, sellerDefaults } from '../model/defaults';
import { frozenInvoice, frozenLine, frozenTax } from '../testing/frozen';
import { eInvoiceKinds, eInvoiceOf, endpointOf, lackingFor, vatIdOf, type PresentParties } from '.';

const vat = frozenTax('vat', '20', 'S');
const british: PresentParties = { taxPlace: 'GB' };
/** What no kind of e-invoice finds anything lacking in, beside the invoice itself. */
const whole: PresentParties = {
  seller: { ...sellerDefaults, country: 'GB', city: 'Saltmere', postCode: 'SM4 2QT', telephone: '+44 1632 960100' },
  buyer: {
    ...buyerDefaults,
    country: 'GB',
    city: 'Saltmere',
    postCode: 'SM1 1AA',
    electronicAddress: 'in@quayside-playhouse.example',
    reference: 'R-7',
  },
};
const account = { holder: 'Saltmere Lighting', number: 'GB42 SALT 0000 0012 3456 78', bic: 'SALTGB2L' };
const studio = { ...frozenInvoice([frozenLine(100)], [vat]).studio, account };
const terms = (frozen: Parameters<typeof lackingFor>[1], present = british) =>
  eInvoiceKinds.map((kind) => lackingFor(kind, frozen, present).map((each) => each.term));

describe('the parties', () => {
  it('have VAT numbers with the letters of their country, and no others', () => {
    expect(vatIdOf('GB 999 9999 73')).toBe('GB999999973');
    expect(vatIdOf('el-123.456.789')).toBe('EL123456789');
    expect([vatIdOf('12/345/67890'), vatIdOf(''), vatIdOf('VAT EXEMPT')]).toEqual(['', '', '']);
  });

  it('are reached by mail, or by a number in a scheme', () => {
    expect(endpointOf(' in@x.example ')).toEqual({ scheme: 'EM', id: 'in@x.example' });
    expect(endpointOf('0204:991-12345-67')).toEqual({ scheme: '0204', id: '991-12345-67' });
    expect(endpointOf('')).toBeNull();
  });

  it('are as they were when it was issued; what nobody had said then is taken from now', () => {
    const frozen = frozenInvoice([frozenLine(100)], [vat], {
      parties: { buyer: { ...buyerDefaults, country: 'FR', reference: '' } },
    });
    const { buyer, seller, buyerReference } = eInvoiceOf(frozen, { ...whole, taxPlace: 'DE' });
    expect([buyer.country, buyer.city, buyerReference]).toEqual(['FR', 'Saltmere', 'R-7']);
    // Town and post code stand in fields of their own, not in the lines above them as well.
    expect(seller.lines).toEqual(['14 Lantern Row']);
    expect(seller.endpoint).toEqual({ scheme: 'EM', id: 'accounts@saltmere-lighting.example' });
  });
});

describe('what is lacking', () => {
  it('is said with its term, for each form by itself, and nothing is where all is there', () => {
    const frozen = frozenInvoice([frozenLine(100)], [vat]);
    expect(terms(frozen, {})).toEqual([
      ['BT-55'],
      ['BT-10', 'BT-49', 'BT-55'],
      ['BT-10', 'BT-37', 'BT-38', 'BT-42', 'BT-49', 'BT-52', 'BT-53', 'BT-55', 'BT-84'],
    ]);
    expect(terms({ ...frozen, studio }, whole)).toEqual([[], [], []]);
    // An order number is as good as a reference for Peppol, not for XRechnung.
    const ordered = { ...frozen, studio, purchaseOrder: 'PO 7' };
    const unreferred = { ...whole, buyer: { ...whole.buyer!, reference: '' } };
    expect(terms(ordered, unreferred)).toEqual([[], [], ['BT-10']]);
  });

  it('is a category on lines without a tax, unless the studio charges none at all', () => {
    const untaxed = [frozenLine(100, { taxId: null })];
    expect(terms(frozenInvoice(untaxed, []))[0]).toEqual(['BT-151']);
    const small = frozenInvoice(untaxed, [], { studio: { ...studio, taxNumber: '' } });
    expect(terms(small, whole)[0]).toEqual([]);
    expect(eInvoiceOf(small, british).taxes).toEqual([
      { category: 'O', percent: null, basis: 100, amount: 0, reason: 'Not subject to VAT' },
    ]);
  });

  it('is the reason of an exemption, and the VAT numbers that reverse charge asks for', () => {
    const lines = [frozenLine(100, { taxId: 'none' })];
    expect(terms(frozenInvoice(lines, [frozenTax('none', '0', 'E')]))[0]).toEqual(['BT-120']);
    expect(terms(frozenInvoice(lines, [frozenTax('none', '0', 'E', 'Education')]))[0]).toEqual([]);
    const reverse = [frozenTax('none', '0', 'AE')];
    expect(terms(frozenInvoice(lines, reverse))[0]).toEqual(['BT-48']);
    const client = { name: 'Maison Clairval', address: '', taxNumber: 'FR 00 999999999' };
    expect(terms(frozenInvoice(lines, reverse, { client }))[0]).toEqual([]);
    const local = { ...studio, taxNumber: '12/345' };
    expect(terms(frozenInvoice(lines, reverse, { client, studio: local }), whole)[0]).toEqual(['BT-31']);
    expect(terms(frozenInvoice([frozenLine(100)], [vat], { studio: { ...studio, taxNumber: '' } }), whole)[0]).toEqual([
      'BT-31',
    ]);
  });

  it('is a tax by the sum, where it was worked out line by line and came to something else', () => {
    // Three lines of 0.33 at 20 %: 0.07 each makes 0.21, on the sum it is 0.20 (HMRC Notice 700 §17.5 allows both).
    const lines = [33, 33, 33].map((amount, index) => frozenLine(amount, { key: `${index}` }));
    expect(terms(frozenInvoice(lines, [vat], { taxMethod: 'line' }))[0]).toEqual(['BT-117']);
    expect(terms(frozenInvoice([frozenLine(100)], [vat], { taxMethod: 'line' }))[0]).toEqual([]);
  });
});

describe('the figures', () => {
  it('are those of the paper; hours are priced by the hour, and what is not their product as a whole', () => {
    const hours = frozenLine(8250, { unit: 'hour', seconds: 5400, price: '55', gross: 8250 });
    // Two entries of 20 minutes at 85.00, each rounded by itself: 28.33 twice is a minor unit less than 40 minutes.
    const rounded = frozenLine(5666, { unit: 'hour', seconds: 2400, price: '85', gross: 5666 });
    const far = frozenLine(5000, { unit: 'hour', seconds: 2400, price: '85', gross: 5000 });
    const { lines } = eInvoiceOf(frozenInvoice([hours, rounded, far], [vat]), british);
    expect(lines.map(({ quantity, unit, price, per, net }) => [quantity, unit, price, per, net])).toEqual([
      ['1.50', 'HUR', '55', '1', 8250],
      [expect.stringMatching(/^0\.66/), 'HUR', '85', '1', 5666],
      [expect.stringMatching(/^0\.66/), 'HUR', '50.00', expect.stringMatching(/^0\.66/), 5000],
    ]);
  });

  it('name the units that the trade sells in', () => {
    const km = frozenLine(4500, { quantity: '100', unitName: 'km', price: '0.45' });
    const lump = frozenLine(1000, { unit: 'lump', quantity: '1', price: '10' });
    const own = frozenLine(300, { quantity: '3', unitName: 'gels', price: '1' });
    const { lines } = eInvoiceOf(frozenInvoice([km, lump, own], [vat]), british);
    expect(lines.map(({ quantity, unit }) => [quantity, unit])).toEqual([
      ['100', 'KMT'],
      ['1', 'C62'],
      ['3', 'C62'],
    ]);
  });

  it('of a credit note are positive, and its lines are of what they give back', () => {
    const sent = frozenInvoice(
      [frozenLine(-8500, { unit: 'hour', seconds: -3600, price: '85', gross: -8500 })],
      [vat],
      {
        credits: { number: 'SL-0001', day: '2026-10-01', reason: 'Cut short' },
      },
    );
    const note = eInvoiceOf(sent, british);
    expect([note.type, note.preceding, note.notes]).toEqual([
      'credit note',
      { number: 'SL-0001', day: '2026-10-01' },
      ['Cut short'],
    ]);
    expect(note.totals).toMatchObject({ lines: 8500, tax: 1700, gross: 10_200, due: 10_200 });
    expect(note.lines[0]).toMatchObject({ quantity: '1.00', price: '85', net: 8500 });
  });

  it('leave what is held back in what is due, and take off what was paid ahead', () => {
    const frozen = frozenInvoice([frozenLine(100_000)], [vat], {
      deductions: [
        { kind: 'deposit', depositId: 'd', text: 'Paid ahead', amount: 20_000, dueDay: null },
        { kind: 'retention', depositId: null, text: 'Retention', amount: 5000, dueDay: '2027-03-01' },
      ],
    });
    const { totals, terms: said } = eInvoiceOf(frozen, british);
    expect([totals.gross, totals.prepaid, totals.due]).toEqual([120_000, 20_000, 100_000]);
    expect(said).toBe('Due 1 Dec 2026. Of this £50.00 is held back until 1 Mar 2027.');
  });

  it('are without the tax where prices have it in them: lines, discount and basis still sum', () => {
    const lines = [frozenLine(12_000), frozenLine(3333, { key: 'b' }), frozenLine(5000, { key: 'c', taxId: 'low' })];
    const frozen = frozenInvoice(lines, [vat, frozenTax('low', '5', 'S')], {
      inclusive: true,
      allowance: { text: 'Autumn', percent: null, amount: 1000 },
    });
    const invoice = eInvoiceOf(frozen, british);
    const { totals } = invoice;
    expect(totals.lines - totals.allowances).toBe(totals.net);
    expect(totals.net + totals.tax + totals.rounding).toBe(20_333 - 1000);
    for (const tax of invoice.taxes) {
      const own = (each: { tax: { percent: string | null } | null }) => each.tax?.percent === tax.percent;
      const nets = invoice.lines.filter(own).reduce((sum, line) => sum + line.net, 0);
      const off = invoice.allowances.filter(own).reduce((sum, each) => sum + each.amount, 0);
      expect(nets - off).toBe(tax.basis);
    }
  });

  it('outside the scope of tax have no VAT numbers beside them', () => {
    const frozen = frozenInvoice([frozenLine(100, { taxId: 'o' })], [frozenTax('o', '0', 'O')]);
    const { seller, taxes } = eInvoiceOf(frozen, british);
    expect([seller.vatId, seller.taxNumber, taxes[0]!.percent]).toEqual(['', 'GB999999973', null]);
  });
});
