import { Fault, type FaultData } from '../faults/fault';
import type { FaultCode } from '../faults/codes';
import type { BankAccount, Client, FrozenInvoice, FrozenLine, Invoice, Workspace } from '../model/records';
import type { Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { ExchangeRates } from '../rates/exchange';
import { addDays, type Day } from '../time/day';
import { attentionOf } from './attention';
import type { Draft } from './draft';
import type { DraftLine } from './draft-line';
import type { Pricer } from './pricer';
import { textsToldApart } from './told-apart';
import { writtenFor } from './written-for';

/** "SL-0042": the prefix and the number, filled with zeros; YYYY and MM in the prefix are the year and month of the invoice. */
export function invoiceNumber(
  { numberPrefix, numberDigits }: { numberPrefix: string; numberDigits: number },
  seq: number,
  day: Day,
): string {
  const prefix = numberPrefix.replaceAll('YYYY', day.slice(0, 4)).replaceAll('MM', day.slice(5, 7));
  return prefix + String(seq).padStart(numberDigits, '0');
}

/** The number after the highest given so far. */
export const nextSeq = (invoices: readonly Pick<Invoice, 'seq'>[], firstNumber: number): number =>
  invoices.reduce((highest, invoice) => Math.max(highest, invoice.seq ?? 0), firstNumber - 1) + 1;

/**
 * The invoice as it will be sent: everything it says, copied, so that nothing changed later can reach it.
 *
 * @throws Fault when there is nothing on it, something on it has no price, or more is deducted than is owed
 */
export function freeze(pricer: Pricer, draft: Draft, invoice: Invoice, seq: number, day: Day): FrozenInvoice {
  const client = pricer.client.get(invoice.clientId)!;
  const [fault] = readinessFaults(pricer, draft, invoice);
  if (fault) throw fault;
  const { workspace } = pricer.book;
  const { totals } = draft;
  const days = draft.lines.flatMap((line) => [
    ...line.sources.map((source) => source.entry.day),
    ...line.charges.map((charge) => charge.day).filter(Boolean),
  ]);
  days.sort();
  const home = homeOf(pricer, invoice.currency, invoice.taxPoint ?? day, totals.tax);
  const attention = attentionOf(pricer, invoice, draft.lines);
  const written = writtenFor(workspace, client);
  const texts = textsToldApart(pricer, draft.lines, written.datesIn);
  return {
    number: invoiceNumber(workspace, seq, day),
    day,
    dueDay: addDays(day, termsOf(pricer, draft, client)),
    taxPoint: invoice.taxPoint === day ? null : invoice.taxPoint,
    studio: studioOf(pricer, invoice.currency),
    client: { name: client.name, address: client.address, taxNumber: client.taxNumber },
    ...(workspace.asSeller || client.asBuyer
      ? {
          parties: {
            ...(workspace.asSeller && { seller: workspace.asSeller }),
            ...(client.asBuyer && { buyer: client.asBuyer }),
          },
        }
      : {}),
    ...(attention ? { attention } : {}),
    currency: invoice.currency,
    paper: workspace.paper,
    lengthStyle: workspace.lengthStyle,
    ...written,
    ...(workspace.design && { design: workspace.design }),
    ...(workspace.payCode && { payCode: true }),
    amountRounding: workspace.amountRounding,
    daySeconds: workspace.daySeconds,
    period: days.length > 0 ? { from: days[0]!, to: days.at(-1)! } : null,
    lines: draft.lines.map((line, index) => ({ ...frozenLine(line, invoice), text: texts[index]! })),
    taxMethod: workspace.taxMethod,
    inclusive: invoice.inclusive,
    allowance: invoice.allowance && {
      text: invoice.allowance.text,
      percent: invoice.allowance.percent,
      amount: totals.allowance,
    },
    taxes: totals.taxes.map((part) => ({
      id: part.tax.id,
      name: part.tax.name,
      percent: part.tax.percent,
      category: pricer.tax.get(part.tax.id)?.category ?? null,
      note: pricer.tax.get(part.tax.id)?.note ?? '',
      allowance: part.allowance,
      basis: part.basis,
      amount: part.amount,
      home: home && inHome(home, part.amount, invoice.currency),
    })),
    home,
    net: totals.net,
    tax: totals.tax,
    total: totals.total,
    rounding: totals.rounding,
    deductions: draft.deductions,
    payable: draft.payable,
    note: invoice.note,
    purchaseOrder: invoice.purchaseOrder.trim(),
    sentences: [...new Set(draft.lines.flatMap((line) => sentencesOf(pricer, line)))],
    openBook: invoice.openBook,
    credits: null,
  };
}

/** What keeps a draft from being issued, in the order of its weight; none where it can be. */
export function readinessFaults(pricer: Pricer, draft: Draft, invoice: Invoice): Fault[] {
  const client = pricer.client.get(invoice.clientId)!;
  const faults: Fault[] = [];
  const refuse = (code: FaultCode, message: string, path: string, data: FaultData = {}) =>
    faults.push(new Fault(code, message, path, data));
  if (draft.unpriced.length > 0)
    refuse(
      'no-rate',
      `${draft.unpriced.length} of its entries have no rate in ${invoice.currency}. Give the project or client a rate, or take them off.`,
      'lines',
      { entries: draft.unpriced.map((entry) => entry.id) },
    );
  const [strange] = draft.unpricedCharges;
  if (strange)
    refuse(
      'no-rate',
      `${draft.unpricedCharges.length} of its costs have ${strange.fault} to ${invoice.currency}. Add the rate in Setup → Rates, or take them off.`,
      'lines',
      { costs: draft.unpricedCharges.map((charge) => charge.id) },
    );
  if (draft.lines.length === 0) refuse('empty', 'There is nothing on this invoice.', 'lines');
  if (client.purchaseOrder === 'always' && !invoice.purchaseOrder.trim())
    refuse(
      'lacking',
      `${client.name} always gives an order number. Write it on the draft before issuing it.`,
      'purchaseOrder',
    );
  if (draft.discountFault !== null) refuse('out-of-range', draft.discountFault, 'allowance');
  if (draft.totals.total < 0)
    refuse('negative', 'This comes to less than nothing. Credit an earlier invoice instead.', 'lines');
  else if (draft.payable < 0)
    refuse(
      'negative',
      'More is deducted than is owed. Deduct less of the deposits; the rest stays for later invoices.',
      'deposits',
    );
  if (draft.totals.allowance > draft.totals.net)
    refuse('out-of-range', 'The discount is more than what stands on the invoice.', 'allowance');
  return [...faults, ...categoryFaults(pricer, draft)];
}

/**
 * EN 16931-1 BR-Z-05, BR-E-05 and their like: only category S bears a percentage. BR-O-11 to BR-O-14: what is outside the scope of a tax
 * stands on an invoice of its own.
 */
function categoryFaults(pricer: Pricer, { lines, totals }: Draft): Fault[] {
  const categories = totals.taxes.map(({ tax }) => ({ tax, category: pricer.tax.get(tax.id)?.category }));
  const faults = categories
    .filter(({ tax, category }) => category && category !== 'S' && Number(tax.percent) !== 0)
    .map(
      ({ tax, category }) =>
        new Fault(
          'tax-category',
          `${tax.name} ${tax.percent} % is of category ${category}, which bears 0 %. Give it category S in Setup, or 0 %.`,
          'taxes',
        ),
    );
  const outside = categories.find((each) => each.category === 'O');
  const other = categories.find((each) => each.category !== 'O');
  if (outside && other) {
    const line = lines.find((each) => each.taxId === outside.tax.id)!;
    faults.push(
      new Fault(
        'tax-category',
        `“${line.text.slice(0, 60)}” is outside the scope of tax and cannot stand beside lines that are not. Give it another tax, or an invoice of its own.`,
        'lines',
        { key: line.key },
      ),
    );
  }
  return faults;
}

/** The account that invoices in a currency are paid into; undefined where only the payment details say. */
export const bankAccountOf = ({ bankAccounts }: Workspace, currency: CurrencyCode): BankAccount | undefined =>
  bankAccounts.find((each) => each.currency === currency);

/** The studio as it stands at the head of an invoice. */
export function studioOf(pricer: Pricer, currency: CurrencyCode): FrozenInvoice['studio'] {
  const { workspace } = pricer.book;
  const { name, address, email, taxNumber, companyNumber, registeredOffice, paymentDetails, logoId } = workspace;
  const own = bankAccountOf(workspace, currency);
  const account = own ? { holder: own.holder, number: own.number, bic: own.bic } : null;
  return { name, address, email, taxNumber, companyNumber, registeredOffice, paymentDetails, account, logoId };
}

/**
 * The rates that turn the tax of an invoice into the studio's own currency; null where it is in that currency, bears no tax, or no rate is
 * known. The tax must be stated in the national currency too (Directive 2006/112/EC, Article 230; EN 16931-1 BT-111).
 */
export function homeOf(pricer: Pricer, currency: CurrencyCode, day: Day, tax: Minor): FrozenInvoice['home'] {
  const own = pricer.book.workspace.currency;
  if (currency === own || tax === 0) return null;
  const exchanged = pricer.rates.exchange.between(currency, own, day);
  if (!exchanged) return null;
  return {
    currency: own,
    rates: exchanged.used.map((row) => ({ base: row.base, currency: row.currency, rate: row.rate, from: row.from })),
  };
}

/** An amount in the studio's currency, by the rates that were kept with the invoice; rounded once, half away from zero. */
export function inHome(home: NonNullable<FrozenInvoice['home']>, amount: Minor, currency: CurrencyCode): Minor {
  const rows = home.rates.map((rate, index) => ({ ...rate, id: String(index), source: '' }));
  const latest = rows.reduce((day, row) => (row.from > day ? row.from : day), '');
  return new ExchangeRates(rows).convert(amount, currency, home.currency, latest, 'half away from zero')!;
}

function frozenLine(line: DraftLine, { openBook, withReceipts }: Invoice): FrozenLine {
  return {
    key: line.key,
    text: line.text,
    heading: line.heading,
    seconds: line.billed,
    quantity: line.quantity,
    unitName: line.unitName,
    price: line.unitPrice,
    unit: line.unit,
    gross: line.gross,
    discount: line.discount,
    amount: line.amount,
    taxId: line.taxId,
    account: line.account,
    cost: openBook ? line.cost : null,
    costPrice: openBook ? (line.price?.costPrice ?? null) : null,
    markup: openBook ? line.markup : null,
    receiptIds: withReceipts ? [...new Set(line.charges.flatMap((charge) => charge.cost?.receiptIds ?? []))] : [],
  };
}

/** What was agreed about the rates and markups on a line. */
function sentencesOf(pricer: Pricer, line: DraftLine): string[] {
  const markups = line.charges.map((charge) => pricer.markup.get(charge.markupId ?? ''));
  return [line.price?.decided?.line, ...markups]
    .filter((row) => row?.printed && row.sentence.trim())
    .map((row) => row!.sentence.trim());
}

/** Days until an invoice is due: those of the contract that all of it stands under, the client's, or the workspace's. */
function termsOf(pricer: Pricer, draft: Draft, client: Client): number {
  const projects = draft.lines.flatMap((line) => [
    ...line.sources.map(({ entry }) => entry.projectId!),
    ...line.charges.map((charge) => charge.projectId),
  ]);
  const contracts = new Set(projects.map((id) => pricer.tree.contractOf(id)));
  const [only] = contracts;
  const contract = contracts.size === 1 && only ? pricer.contract.get(only) : undefined;
  return contract?.termsDays ?? client.termsDays ?? pricer.book.workspace.termsDays;
}
