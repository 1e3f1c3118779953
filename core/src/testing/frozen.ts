import type { FrozenInvoice, FrozenLine } from '../model/records';
import { totalsOf } from '../money/tax';

type FrozenTax = FrozenInvoice['taxes'][number];

/** A line of one piece at its price; amounts in minor units. */
export const frozenLine = (amount: number, more: Partial<FrozenLine> = {}): FrozenLine => ({
  key: `line ${amount}`,
  text: 'Lighting design',
  heading: '',
  seconds: 0,
  quantity: amount < 0 ? '-1' : '1',
  unitName: '',
  price: String(Math.abs(amount) / 100),
  unit: 'piece',
  gross: amount,
  discount: null,
  amount,
  taxId: 'vat',
  account: '',
  cost: null,
  costPrice: null,
  markup: null,
  receiptIds: [],
  ...more,
});

/** A tax that invoices may bear, before any sum is under it. */
export const frozenTax = (
  id: string,
  percent: string,
  category: FrozenTax['category'],
  note = '',
): Pick<FrozenTax, 'id' | 'percent' | 'category' | 'note' | 'name'> => ({ id, percent, category, note, name: id });

/** An invoice as it was sent, with the sums that its lines and taxes come to. */
export function frozenInvoice(
  lines: readonly FrozenLine[],
  taxes: readonly ReturnType<typeof frozenTax>[],
  more: Partial<FrozenInvoice> = {},
): FrozenInvoice {
  const { inclusive = false, taxMethod = 'invoice', deductions = [], allowance = null } = more;
  const totals = totalsOf(lines, taxes, taxMethod, { inclusive, allowance: allowance?.amount ?? 0 });
  return {
    number: 'SL-0001',
    day: '2026-11-01',
    dueDay: '2026-12-01',
    taxPoint: null,
    studio: {
      name: 'Saltmere Lighting',
      address: '14 Lantern Row\nSaltmere\nSM4 2QT',
      email: 'accounts@saltmere-lighting.example',
      taxNumber: 'GB 999 9999 73',
      companyNumber: '',
      registeredOffice: '',
      paymentDetails: '',
      account: null,
      logoId: null,
    },
    client: { name: 'Quayside Playhouse', address: '1 Harbour Steps\nSaltmere', taxNumber: '' },
    currency: 'GBP',
    paper: 'A4',
    lengthStyle: 'h:mm',
    numberStyle: '1,234.50',
    amountRounding: 'half away from zero',
    daySeconds: 27_000,
    period: null,
    lines: [...lines],
    taxMethod,
    inclusive,
    allowance,
    taxes: totals.taxes.map((part) => ({
      ...taxes.find((tax) => tax.id === part.tax.id)!,
      allowance: part.allowance,
      basis: part.basis,
      amount: part.amount,
      home: null,
    })),
    home: null,
    net: totals.net,
    tax: totals.tax,
    total: totals.total,
    rounding: totals.rounding,
    deductions,
    payable: totals.total + totals.rounding - deductions.reduce((sum, each) => sum + each.amount, 0),
    note: '',
    purchaseOrder: '',
    sentences: [],
    openBook: false,
    credits: null,
    ...more,
  };
}
