import { printedQuantities } from '../billing/printed';
import type { FrozenInvoice, FrozenLine } from '../model/records';
import { plainAmount, showAmount, type Minor } from '../money/amount';
import { minorPerMajor, type CurrencyCode } from '../money/currency';
import type { Decimal } from '../money/decimal';
import { SCALE, toScaled } from '../money/decimal';
import { divideRounded, sumExact } from '../money/rational';
import { shareSigned } from '../money/share';
import type { TaxCategory } from '../money/tax';
import { showDayShort, type Day } from '../time/day';
import { partiesOf, type Party, type PresentParties } from './party';
import { unitCode } from './units';

// The semantic model of EN 16931-1, made from an issued invoice. Amounts are whole minor units and stand as the paper has them: what is
// worked out here is only what the paper does not show, such as the lines without the tax that is in their prices. A credit note is of type
// 381 and carries its amounts positive.

/** A tax as a line or a sum bears it. */
export interface EInvoiceTax {
  category: TaxCategory;
  /** Null outside the scope of a tax, where there is no rate at all. */
  percent: Decimal | null;
}

/** One line (BG-25). */
export interface EInvoiceLine {
  id: string;
  text: string;
  /** BT-129: negative where the line takes something off. */
  quantity: Decimal;
  unit: string;
  /** BT-146, for so many units (BT-149). */
  price: Decimal;
  per: Decimal;
  /** Taken off this line alone (BG-27). */
  allowance: { amount: Minor; percent: Decimal | null } | null;
  /** BT-131. */
  net: Minor;
  /** Null where nobody said what the line's tax is: such an invoice is not sent. */
  tax: EInvoiceTax | null;
}

/** An invoice or credit note as EN 16931-1 sees it. */
export interface EInvoice {
  /** BT-3: 380 or 381. */
  type: 'invoice' | 'credit note';
  number: string;
  issued: Day;
  due: Day;
  taxPoint: Day | null;
  currency: CurrencyCode;
  /** BT-22. */
  notes: string[];
  /** BT-10. */
  buyerReference: string;
  /** BT-13. */
  purchaseOrder: string;
  /** BG-3. */
  preceding: { number: string; day: Day | null } | null;
  seller: Party;
  buyer: Party;
  /** BG-14. */
  period: { from: Day; to: Day } | null;
  account: FrozenInvoice['studio']['account'];
  /** BT-20. */
  terms: string;
  /** BG-20, one for each tax. */
  allowances: { amount: Minor; reason: string; tax: EInvoiceTax | null }[];
  /** BG-23. */
  taxes: (EInvoiceTax & { basis: Minor; amount: Minor; reason: string })[];
  /** BT-6 and BT-111. */
  home: { currency: CurrencyCode; tax: Minor } | null;
  totals: {
    /** BT-106. */
    lines: Minor;
    /** BT-107. */
    allowances: Minor;
    /** BT-109. */
    net: Minor;
    /** BT-110. */
    tax: Minor;
    /** BT-112. */
    gross: Minor;
    /** BT-113. */
    prepaid: Minor;
    /** BT-114. */
    rounding: Minor;
    /** BT-115: what is held back is owed as well, only later. */
    due: Minor;
  };
  lines: EInvoiceLine[];
}

/**
 * An issued invoice in the terms of EN 16931-1. It may lack what the standard wants; `lackingFor` says what.
 *
 * @param present what is known of the parties now
 */
export function eInvoiceOf(frozen: FrozenInvoice, present: PresentParties): EInvoice {
  const note = frozen.credits !== null;
  const signed = (amount: Minor): Minor => (note ? -amount || 0 : amount);
  const groups = groupsOf(frozen);
  const nets = new Map(groups.flatMap((group) => group.lines.map((line, index) => [line, group.nets[index]!])));
  const taxOf = new Map(groups.flatMap((group) => group.lines.map((line) => [line, group.tax])));
  const held = sumExact(frozen.deductions.filter((each) => each.kind === 'retention').map((each) => each.amount));
  const prepaid = sumExact(frozen.deductions.filter((each) => each.kind === 'deposit').map((each) => each.amount));
  const allowances = groups.filter((group) => group.allowance !== 0);
  const quantities = printedQuantities(frozen.lines, {
    lengthStyle: 'decimal',
    numberStyle: '1,234.50',
    currency: frozen.currency,
    daySeconds: frozen.daySeconds,
    rule: frozen.amountRounding,
  });
  const homeTax = frozen.taxes.every((tax) => tax.home !== null)
    ? sumExact(frozen.taxes.map((tax) => tax.home ?? 0))
    : null;
  const { home } = frozen;
  return {
    type: note ? 'credit note' : 'invoice',
    number: frozen.number,
    issued: frozen.day,
    due: frozen.dueDay,
    taxPoint: frozen.taxPoint,
    currency: frozen.currency,
    notes: [frozen.credits?.reason ?? '', frozen.note, ...frozen.sentences].filter((text) => text.trim() !== ''),
    buyerReference: frozen.parties?.buyer?.reference || (present.buyer?.reference ?? ''),
    purchaseOrder: frozen.purchaseOrder,
    preceding: frozen.credits && { number: frozen.credits.number, day: frozen.credits.day },
    ...withoutVat(partiesOf(frozen, present), groups),
    period: frozen.period,
    account: frozen.studio.account,
    terms: termsOf(frozen, held),
    allowances: allowances.map(({ allowance, tax }) => ({
      amount: signed(allowance),
      reason: frozen.allowance?.text || 'Discount',
      tax,
    })),
    taxes: taxesOf(groups, signed),
    home:
      home && homeTax !== null && frozen.taxes.length > 0 ? { currency: home.currency, tax: signed(homeTax) } : null,
    totals: {
      lines: signed(sumExact(nets.values())),
      allowances: signed(sumExact(allowances.map((group) => group.allowance))),
      net: signed(frozen.total - frozen.tax),
      tax: signed(frozen.tax),
      gross: signed(frozen.total),
      prepaid: signed(prepaid),
      rounding: signed(frozen.rounding),
      due: signed(frozen.payable + held),
    },
    lines: frozen.lines.map((line, index) =>
      lineOf(frozen, line, { index, net: nets.get(line)!, tax: taxOf.get(line) ?? null, quantity: quantities[index]! }),
    ),
  };
}

/**
 * Where all is outside the scope of VAT, no VAT identifier may stand on it (BR-O-02 to BR-O-04); the seller's number still can, as that of a
 * tax registration (BT-32).
 */
function withoutVat({ seller, buyer }: { seller: Party; buyer: Party }, groups: readonly TaxGroup[]) {
  if (!groups.some((group) => group.tax?.category === 'O')) return { seller, buyer };
  return {
    seller: { ...seller, vatId: '', taxNumber: seller.vatId || seller.taxNumber },
    buyer: { ...buyer, vatId: '' },
  };
}

/** Lines under one tax of the paper, with their amounts without it, and the group's part of the discount on the whole. */
interface TaxGroup {
  tax: EInvoiceTax | null;
  reason: string;
  lines: FrozenLine[];
  nets: Minor[];
  allowance: Minor;
  basis: Minor;
  amount: Minor;
}

function groupsOf(frozen: FrozenInvoice): TaxGroup[] {
  const known = new Set(frozen.taxes.map((tax) => tax.id));
  const untaxed = frozen.lines.filter((line) => !known.has(line.taxId ?? ''));
  const groups = frozen.taxes.map((tax): TaxGroup => {
    const lines = frozen.lines.filter((line) => line.taxId === tax.id);
    const amounts = lines.map((line) => line.amount);
    const gross = sumExact(amounts);
    const own = { lines, reason: tax.note, basis: tax.basis, amount: tax.amount, tax: rateOf(tax) };
    if (!frozen.inclusive) return { ...own, nets: amounts, allowance: gross - tax.basis };
    // With the tax in its prices, the group's lines have less without it: in proportion, so that they sum to the basis and the discount.
    const allowance = netOf(tax.allowance ?? 0, tax.percent);
    const nets = gross === 0 ? amounts : shareSigned(tax.basis + allowance, amounts);
    return { ...own, nets, allowance: sumExact(nets) - tax.basis };
  });
  if (untaxed.length === 0) return groups;
  const amounts = untaxed.map((line) => line.amount);
  const basis = frozen.total - frozen.tax - sumExact(frozen.taxes.map((tax) => tax.basis));
  const outside: TaxGroup = {
    lines: untaxed,
    nets: amounts,
    allowance: sumExact(amounts) - basis,
    basis,
    amount: 0,
    reason: '',
    // A studio that charges no tax at all and has no number for it is outside the scope of the tax.
    tax: frozen.taxes.length === 0 && frozen.studio.taxNumber.trim() === '' ? { category: 'O', percent: null } : null,
  };
  return [...groups, outside];
}

/** The category of a tax; of one from before categories were kept it is known only where it has a rate. */
function rateOf({ category, percent }: FrozenInvoice['taxes'][number]): EInvoiceTax | null {
  const known = category ?? (Number(percent) > 0 ? 'S' : null);
  return known && { category: known, percent: known === 'O' ? null : percent };
}

const netOf = (amount: Minor, percent: Decimal): Minor => {
  const whole = 100 * SCALE;
  return divideRounded(BigInt(amount) * BigInt(whole), whole + toScaled(percent), 'half away from zero');
};

/** What the standard wants said where no tax is charged, if the tax has no sentence of its own (BR-AE-10, BR-IC-10, BR-G-10, BR-O-10). */
const REASONS: Partial<Record<TaxCategory, string>> = {
  AE: 'Reverse charge',
  K: 'Intra-community supply',
  G: 'Export outside the EU',
  O: 'Not subject to VAT',
};

/** Taxes of the same category and rate are one here, whatever they are called on paper. */
function taxesOf(groups: readonly TaxGroup[], signed: (amount: Minor) => Minor): EInvoice['taxes'] {
  const merged = new Map<string, EInvoice['taxes'][number]>();
  for (const { tax, basis, amount, reason } of groups) {
    if (!tax) continue;
    const key = `${tax.category} ${tax.percent ?? ''}`;
    const before = merged.get(key);
    const own = tax.category === 'S' || tax.category === 'Z' ? '' : reason || (REASONS[tax.category] ?? '');
    merged.set(key, {
      ...tax,
      basis: (before?.basis ?? 0) + signed(basis),
      amount: (before?.amount ?? 0) + signed(amount),
      reason: before?.reason || own,
    });
  }
  return [...merged.values()];
}

/** How far quantity × price may be from a line's amount, in minor units (PEPPOL-EN16931-R120, from memory). */
const SLACK = 2;

interface LineFacts {
  index: number;
  net: Minor;
  tax: EInvoiceTax | null;
  quantity: string;
}

function lineOf(frozen: FrozenInvoice, line: FrozenLine, { index, net, tax, quantity }: LineFacts): EInvoiceLine {
  const note = frozen.credits !== null;
  const turned = (decimal: Decimal): Decimal =>
    !note || decimal === '0' ? decimal : decimal.startsWith('-') ? decimal.slice(1) : `-${decimal}`;
  const counted = countedOf(line, quantity);
  const gross = frozen.inclusive ? net : line.gross;
  const off = gross - net;
  const asPrinted = !frozen.inclusive && fits(counted, line.price, gross, frozen.currency);
  // What is put together of several roundings, or has no tax in it here, is priced for its whole quantity.
  const [price, per] = asPrinted
    ? [line.price, '1']
    : [plainAmount(Math.abs(gross), frozen.currency), counted.replace('-', '')];
  const least = counted === '0' || per === '0';
  return {
    id: String(index + 1),
    text: line.heading && !line.text.trim() ? line.heading : line.text,
    quantity: turned(least ? (gross < 0 ? '-1' : '1') : withSign(counted, gross)),
    unit: least ? 'C62' : unitCode(line.unit, line.unitName),
    price: least ? plainAmount(Math.abs(gross), frozen.currency) : price,
    per: least ? '1' : per,
    allowance: off === 0 ? null : { amount: note ? -off : off, percent: line.discount },
    net: note ? -net || 0 : net,
    tax,
  };
}

/** A quantity has the sign of its amount: a price never has one (BR-27). */
const withSign = (counted: Decimal, gross: Minor): Decimal =>
  gross < 0 && !counted.startsWith('-') ? `-${counted}` : gross > 0 ? counted.replace('-', '') : counted;

function countedOf(line: FrozenLine, printed: string): Decimal {
  if (line.unit === 'piece' || line.unit === 'lump') return line.quantity;
  return printed.split(' ')[0]!.replace('−', '-');
}

function fits(quantity: Decimal, price: Decimal, gross: Minor, currency: CurrencyCode): boolean {
  const product = Number(quantity) * Number(price) * minorPerMajor(currency);
  return Math.abs(product - gross) <= SLACK;
}

/** BT-20: when it is due, what is held back of it, and how to pay where no account says it. */
function termsOf(frozen: FrozenInvoice, held: Minor): string {
  if (frozen.credits) return `Credited against ${frozen.credits.number}.`;
  const until = frozen.deductions.find((each) => each.kind === 'retention')?.dueDay;
  return [
    `Due ${showDayShort(frozen.dueDay)}.`,
    held === 0
      ? ''
      : `Of this ${showAmount(held, frozen.currency, '1,234.50')} is held back${until ? ` until ${showDayShort(until)}` : ''}.`,
    frozen.studio.account ? '' : frozen.studio.paymentDetails.trim(),
  ]
    .filter(Boolean)
    .join(' ');
}
