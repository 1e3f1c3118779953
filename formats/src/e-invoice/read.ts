import type { ReadAllowance, ReadInvoice, ReadInvoiceLine, ReadParty, ReadTax } from '@half-penny/core/e-invoice';
import { Fault } from '@half-penny/core/model';
import type { CurrencyCode, Minor } from '@half-penny/core/money';
import { isDay, type Day } from '@half-penny/core/time';
import { currencyOf, minorOf } from '../ledger/lines';
import { all, at, parseXml, textAt, textOf, type Node } from '../xml';

// Reads an electronic invoice of EN 16931-1 in either of its syntaxes: UBL 2.1 (OASIS) and UN/CEFACT Cross Industry Invoice D16B, to which
// Factur-X, ZUGFeRD and XRechnung belong. What is read is what it says; whether its sums hold is another question (`rulesBrokenBy`).

/**
 * Reads an electronic invoice.
 *
 * @throws Fault that names what cannot be read and where
 */
export function readEInvoice(bytes: Uint8Array, name: string): ReadInvoice {
  const document = parseXml(textOf(bytes, name), name);
  for (const root of ['Invoice', 'CreditNote'] as const) {
    const ubl = at(document, root);
    if (ubl) return readUbl(ubl, root, name);
  }
  const cii = at(document, 'CrossIndustryInvoice');
  if (cii) return readCii(cii, name);
  throw new Fault('other-file', `${name} is no electronic invoice: it is neither UBL nor CII.`, 'file');
}

/** Reads amounts, days and texts of one document, and says of what cannot be read where it stands. */
class Terms {
  constructor(
    readonly name: string,
    readonly currency: CurrencyCode,
  ) {}

  amount(node: Node | undefined, ...path: string[]): Minor {
    const text = textAt(node, ...path);
    const place = `${this.name}, ${path.at(-1)}`;
    if (text === '') throw new Fault('incomplete', `${place} is missing: this is no whole invoice.`, 'file', { place });
    return minorOf(text, this.currency, place);
  }

  maybe(node: Node | undefined, ...path: string[]): Minor | null {
    return textAt(node, ...path) === '' ? null : this.amount(node, ...path);
  }
}

function dayOf(text: string, place: string): Day | '' {
  const plain = text.trim();
  if (plain === '') return '';
  const day = /^\d{8}$/.test(plain)
    ? `${plain.slice(0, 4)}-${plain.slice(4, 6)}-${plain.slice(6)}`
    : plain.slice(0, 10);
  if (!isDay(day)) throw new Fault('not-a-day', `${place}: “${plain.slice(0, 30)}” is not a day.`, 'file', { place });
  return day;
}

function needDay(text: string, place: string): Day {
  const day = dayOf(text, place);
  if (day === '') throw new Fault('incomplete', `${place} is missing: this is no whole invoice.`, 'file', { place });
  return day;
}

const joined = (...texts: string[]): string => texts.filter(Boolean).join('\n');

const endpointIn = (node: Node | undefined) => {
  const id = textAt(node);
  return id === '' ? null : { scheme: String(node?.['@schemeID'] ?? ''), id };
};

// UBL

function readUbl(root: Node, kind: 'Invoice' | 'CreditNote', name: string): ReadInvoice {
  const currency = currencyOf(textAt(root, 'DocumentCurrencyCode'), `${name}, DocumentCurrencyCode`);
  const terms = new Terms(name, currency);
  const means = at(root, 'PaymentMeans');
  const total = at(root, 'LegalMonetaryTotal');
  const taxTotal = all(root, 'TaxTotal').find((each) => all(each, 'TaxSubtotal').length > 0) ?? at(root, 'TaxTotal');
  return {
    syntax: 'ubl',
    specification: textAt(root, 'CustomizationID'),
    type: textAt(root, `${kind}TypeCode`),
    number: textAt(root, 'ID'),
    issued: needDay(textAt(root, 'IssueDate'), `${name}, IssueDate`),
    due: dayOf(textAt(root, 'DueDate') || textAt(means, 'PaymentDueDate'), `${name}, DueDate`),
    taxPoint: dayOf(textAt(root, 'TaxPointDate'), `${name}, TaxPointDate`),
    delivered: dayOf(textAt(root, 'Delivery', 'ActualDeliveryDate'), `${name}, ActualDeliveryDate`),
    currency,
    buyerReference: textAt(root, 'BuyerReference'),
    purchaseOrder: textAt(root, 'OrderReference', 'ID'),
    preceding: textAt(root, 'BillingReference', 'InvoiceDocumentReference', 'ID'),
    notes: all(root, 'Note')
      .map((each) => textAt(each))
      .join('\n'),
    seller: ublParty(at(root, 'AccountingSupplierParty', 'Party')),
    buyer: ublParty(at(root, 'AccountingCustomerParty', 'Party')),
    paymentMeans: textAt(means, 'PaymentMeansCode'),
    account: textAt(means, 'PayeeFinancialAccount', 'ID'),
    terms: textAt(root, 'PaymentTerms', 'Note'),
    lines: all(root, `${kind}Line`).map((line) => ublLine(line, kind, terms)),
    allowances: all(root, 'AllowanceCharge').map((each) => ublAllowance(each, terms)),
    taxes: all(taxTotal, 'TaxSubtotal').map((each) => ({
      ...ublTax(at(each, 'TaxCategory')),
      basis: terms.amount(each, 'TaxableAmount'),
      amount: terms.amount(each, 'TaxAmount'),
      reason:
        textAt(each, 'TaxCategory', 'TaxExemptionReason') || textAt(each, 'TaxCategory', 'TaxExemptionReasonCode'),
    })),
    totals: {
      lines: terms.amount(total, 'LineExtensionAmount'),
      allowances: terms.maybe(total, 'AllowanceTotalAmount'),
      charges: terms.maybe(total, 'ChargeTotalAmount'),
      net: terms.amount(total, 'TaxExclusiveAmount'),
      tax: terms.maybe(taxTotal, 'TaxAmount'),
      gross: terms.amount(total, 'TaxInclusiveAmount'),
      prepaid: terms.maybe(total, 'PrepaidAmount'),
      rounding: terms.maybe(total, 'PayableRoundingAmount'),
      due: terms.amount(total, 'PayableAmount'),
    },
  };
}

const ublTax = (node: Node | undefined): ReadTax => ({
  category: textAt(node, 'ID'),
  percent: textAt(node, 'Percent'),
});

const ublAllowance = (node: Node, terms: Terms): ReadAllowance => ({
  charge: textAt(node, 'ChargeIndicator') === 'true',
  amount: terms.amount(node, 'Amount'),
  reason: textAt(node, 'AllowanceChargeReason') || textAt(node, 'AllowanceChargeReasonCode'),
  tax: ublTax(at(node, 'TaxCategory')),
});

function ublParty(party: Node | undefined): ReadParty {
  const numbers = all(party, 'PartyTaxScheme');
  const numberOf = (vat: boolean) =>
    textAt(
      numbers.find((each) => (textAt(each, 'TaxScheme', 'ID') === 'VAT') === vat),
      'CompanyID',
    );
  const address = at(party, 'PostalAddress');
  return {
    name: textAt(party, 'PartyLegalEntity', 'RegistrationName') || textAt(party, 'PartyName', 'Name'),
    address: joined(
      textAt(address, 'StreetName'),
      textAt(address, 'AdditionalStreetName'),
      textAt(address, 'AddressLine', 'Line'),
      [textAt(address, 'PostalZone'), textAt(address, 'CityName')].filter(Boolean).join(' '),
    ),
    country: textAt(address, 'Country', 'IdentificationCode'),
    vatId: numberOf(true),
    taxNumber: numberOf(false),
    endpoint: endpointIn(at(party, 'EndpointID')),
    contact: {
      name: textAt(party, 'Contact', 'Name'),
      telephone: textAt(party, 'Contact', 'Telephone'),
      email: textAt(party, 'Contact', 'ElectronicMail'),
    },
  };
}

function ublLine(line: Node, kind: 'Invoice' | 'CreditNote', terms: Terms): ReadInvoiceLine {
  const quantity = at(line, kind === 'Invoice' ? 'InvoicedQuantity' : 'CreditedQuantity');
  return {
    id: textAt(line, 'ID'),
    text: joined(textAt(line, 'Item', 'Name'), textAt(line, 'Item', 'Description')),
    quantity: textAt(quantity),
    unit: String(quantity?.['@unitCode'] ?? ''),
    price: textAt(line, 'Price', 'PriceAmount'),
    per: textAt(line, 'Price', 'BaseQuantity') || '1',
    allowances: all(line, 'AllowanceCharge').map((each) => ublAllowance(each, terms)),
    net: terms.amount(line, 'LineExtensionAmount'),
    tax: ublTax(at(line, 'Item', 'ClassifiedTaxCategory')),
  };
}

// CII

function readCii(root: Node, name: string): ReadInvoice {
  const document = at(root, 'ExchangedDocument');
  const trade = at(root, 'SupplyChainTradeTransaction');
  const agreement = at(trade, 'ApplicableHeaderTradeAgreement');
  const settlement = at(trade, 'ApplicableHeaderTradeSettlement');
  const currency = currencyOf(textAt(settlement, 'InvoiceCurrencyCode'), `${name}, InvoiceCurrencyCode`);
  const terms = new Terms(name, currency);
  const means = at(settlement, 'SpecifiedTradeSettlementPaymentMeans');
  const total = at(settlement, 'SpecifiedTradeSettlementHeaderMonetarySummation');
  const payee = at(means, 'PayeePartyCreditorFinancialAccount');
  const taxes = all(settlement, 'ApplicableTradeTax');
  const inCurrency = all(total, 'TaxTotalAmount').find((each) => (each['@currencyID'] ?? currency) === currency);
  return {
    syntax: 'cii',
    specification: textAt(root, 'ExchangedDocumentContext', 'GuidelineSpecifiedDocumentContextParameter', 'ID'),
    type: textAt(document, 'TypeCode'),
    number: textAt(document, 'ID'),
    issued: needDay(textAt(document, 'IssueDateTime', 'DateTimeString'), `${name}, IssueDateTime`),
    due: dayOf(
      textAt(settlement, 'SpecifiedTradePaymentTerms', 'DueDateDateTime', 'DateTimeString'),
      `${name}, DueDateDateTime`,
    ),
    taxPoint: dayOf(textAt(taxes[0], 'TaxPointDate', 'DateString'), `${name}, TaxPointDate`),
    delivered: dayOf(
      textAt(
        trade,
        'ApplicableHeaderTradeDelivery',
        'ActualDeliverySupplyChainEvent',
        'OccurrenceDateTime',
        'DateTimeString',
      ),
      `${name}, OccurrenceDateTime`,
    ),
    currency,
    buyerReference: textAt(agreement, 'BuyerReference'),
    purchaseOrder: textAt(agreement, 'BuyerOrderReferencedDocument', 'IssuerAssignedID'),
    preceding: textAt(settlement, 'InvoiceReferencedDocument', 'IssuerAssignedID'),
    notes: all(document, 'IncludedNote')
      .map((each) => textAt(each, 'Content'))
      .join('\n'),
    seller: ciiParty(at(agreement, 'SellerTradeParty')),
    buyer: ciiParty(at(agreement, 'BuyerTradeParty')),
    paymentMeans: textAt(means, 'TypeCode'),
    account: textAt(payee, 'IBANID') || textAt(payee, 'ProprietaryID'),
    terms: textAt(settlement, 'SpecifiedTradePaymentTerms', 'Description'),
    lines: all(trade, 'IncludedSupplyChainTradeLineItem').map((line) => ciiLine(line, terms)),
    allowances: all(settlement, 'SpecifiedTradeAllowanceCharge').map((each) => ciiAllowance(each, terms)),
    taxes: taxes.map((each) => ({
      ...ciiTax(each),
      basis: terms.amount(each, 'BasisAmount'),
      amount: terms.amount(each, 'CalculatedAmount'),
      reason: textAt(each, 'ExemptionReason') || textAt(each, 'ExemptionReasonCode'),
    })),
    totals: {
      lines: terms.amount(total, 'LineTotalAmount'),
      allowances: terms.maybe(total, 'AllowanceTotalAmount'),
      charges: terms.maybe(total, 'ChargeTotalAmount'),
      net: terms.amount(total, 'TaxBasisTotalAmount'),
      tax: inCurrency === undefined ? null : minorOf(textAt(inCurrency), currency, `${name}, TaxTotalAmount`),
      gross: terms.amount(total, 'GrandTotalAmount'),
      prepaid: terms.maybe(total, 'TotalPrepaidAmount'),
      rounding: terms.maybe(total, 'RoundingAmount'),
      due: terms.amount(total, 'DuePayableAmount'),
    },
  };
}

const ciiTax = (node: Node | undefined): ReadTax => ({
  category: textAt(node, 'CategoryCode'),
  percent: textAt(node, 'RateApplicablePercent'),
});

const ciiAllowance = (node: Node, terms: Terms): ReadAllowance => ({
  charge: textAt(node, 'ChargeIndicator', 'Indicator') === 'true',
  amount: terms.amount(node, 'ActualAmount'),
  reason: textAt(node, 'Reason') || textAt(node, 'ReasonCode'),
  tax: ciiTax(at(node, 'CategoryTradeTax')),
});

function ciiParty(party: Node | undefined): ReadParty {
  const numberOf = (scheme: string) =>
    textAt(
      all(party, 'SpecifiedTaxRegistration')
        .flatMap((each) => all(each, 'ID'))
        .find((each) => each['@schemeID'] === scheme),
    );
  const address = at(party, 'PostalTradeAddress');
  const contact = at(party, 'DefinedTradeContact');
  return {
    name: textAt(party, 'Name'),
    address: joined(
      textAt(address, 'LineOne'),
      textAt(address, 'LineTwo'),
      textAt(address, 'LineThree'),
      [textAt(address, 'PostcodeCode'), textAt(address, 'CityName')].filter(Boolean).join(' '),
    ),
    country: textAt(address, 'CountryID'),
    vatId: numberOf('VA'),
    taxNumber: numberOf('FC'),
    endpoint: endpointIn(at(party, 'URIUniversalCommunication', 'URIID')),
    contact: {
      name: textAt(contact, 'PersonName'),
      telephone: textAt(contact, 'TelephoneUniversalCommunication', 'CompleteNumber'),
      email: textAt(contact, 'EmailURIUniversalCommunication', 'URIID'),
    },
  };
}

function ciiLine(line: Node, terms: Terms): ReadInvoiceLine {
  const settlement = at(line, 'SpecifiedLineTradeSettlement');
  const price = at(line, 'SpecifiedLineTradeAgreement', 'NetPriceProductTradePrice');
  const quantity = at(line, 'SpecifiedLineTradeDelivery', 'BilledQuantity');
  return {
    id: textAt(line, 'AssociatedDocumentLineDocument', 'LineID'),
    text: joined(textAt(line, 'SpecifiedTradeProduct', 'Name'), textAt(line, 'SpecifiedTradeProduct', 'Description')),
    quantity: textAt(quantity),
    unit: String(quantity?.['@unitCode'] ?? ''),
    price: textAt(price, 'ChargeAmount'),
    per: textAt(price, 'BasisQuantity') || '1',
    allowances: all(settlement, 'SpecifiedTradeAllowanceCharge').map((each) => ciiAllowance(each, terms)),
    net: terms.amount(settlement, 'SpecifiedTradeSettlementLineMonetarySummation', 'LineTotalAmount'),
    tax: ciiTax(at(settlement, 'ApplicableTradeTax')),
  };
}
