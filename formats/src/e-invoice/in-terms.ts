import type { EInvoice, EInvoiceLine, EInvoiceTax, Endpoint, Party } from '@half-penny/core/e-invoice';
import { plainAmount, type Minor } from '@half-penny/core/money';
import type { Invoice } from '@e-invoice-eu/core';

// The semantic model in the shape that the writing library takes: that of UBL, each element by its name.

type Content = Invoice['ubl:Invoice'];
type Code<T> = Extract<T, string>;

const VAT = { 'cbc:ID': 'VAT' };

/**
 * An electronic invoice as the writing library takes it.
 *
 * @param specification what it follows beyond EN 16931 (BT-24); the library's own word where nothing is given
 */
export function inTerms(invoice: EInvoice, specification?: string): Invoice {
  const { currency, totals } = invoice;
  const amount = (minor: Minor) => plainAmount(minor, currency);
  /** An amount and, beside it, its currency. */
  const money = <Name extends string>(name: Name, minor: Minor) =>
    ({ [name]: amount(minor), [`${name}@currencyID`]: currency }) as Record<Name, string> &
      Record<`${Name}@currencyID`, Code<Content['cbc:DocumentCurrencyCode']>>;
  const content: Content = {
    ...(specification && { 'cbc:CustomizationID': specification }),
    'cbc:ID': invoice.number,
    'cbc:IssueDate': invoice.issued,
    ...(invoice.type === 'invoice' && { 'cbc:DueDate': invoice.due }),
    'cbc:InvoiceTypeCode': invoice.type === 'credit note' ? '381' : '380',
    ...(invoice.notes.length > 0 && { 'cbc:Note': [invoice.notes.join('\n')] }),
    ...(invoice.taxPoint && { 'cbc:TaxPointDate': invoice.taxPoint }),
    'cbc:DocumentCurrencyCode': currency as Code<Content['cbc:DocumentCurrencyCode']>,
    ...(invoice.home && {
      'cbc:TaxCurrencyCode': invoice.home.currency as Code<NonNullable<Content['cbc:TaxCurrencyCode']>>,
    }),
    ...(invoice.buyerReference && { 'cbc:BuyerReference': invoice.buyerReference }),
    ...(invoice.period && {
      'cac:InvoicePeriod': { 'cbc:StartDate': invoice.period.from, 'cbc:EndDate': invoice.period.to },
    }),
    ...(invoice.purchaseOrder && { 'cac:OrderReference': { 'cbc:ID': invoice.purchaseOrder } }),
    ...(invoice.preceding && {
      'cac:BillingReference': [
        {
          'cac:InvoiceDocumentReference': {
            'cbc:ID': invoice.preceding.number,
            ...(invoice.preceding.day && { 'cbc:IssueDate': invoice.preceding.day }),
          },
        },
      ],
    }),
    'cac:AccountingSupplierParty': { 'cac:Party': sellerTerms(invoice.seller) },
    'cac:AccountingCustomerParty': { 'cac:Party': buyerTerms(invoice.buyer) },
    ...deliveryTerms(invoice),
    'cac:PaymentMeans': [meansTerms(invoice)],
    ...(invoice.terms && { 'cac:PaymentTerms': { 'cbc:Note': invoice.terms } }),
    ...(invoice.allowances.length > 0 && {
      'cac:AllowanceCharge': invoice.allowances.map((each) => ({
        'cbc:ChargeIndicator': 'false',
        'cbc:AllowanceChargeReason': each.reason,
        ...money('cbc:Amount', each.amount),
        'cac:TaxCategory': categoryTerms(each.tax),
      })),
    }),
    'cac:TaxTotal': [
      {
        ...money('cbc:TaxAmount', totals.tax),
        'cac:TaxSubtotal': invoice.taxes.map((tax) => ({
          ...money('cbc:TaxableAmount', tax.basis),
          ...money('cbc:TaxAmount', tax.amount),
          'cac:TaxCategory': {
            ...categoryTerms(tax),
            ...(tax.reason && { 'cbc:TaxExemptionReason': tax.reason }),
          },
        })),
      },
      ...homeTerms(invoice),
    ] as Content['cac:TaxTotal'],
    'cac:LegalMonetaryTotal': {
      ...money('cbc:LineExtensionAmount', totals.lines),
      ...money('cbc:TaxExclusiveAmount', totals.net),
      ...money('cbc:TaxInclusiveAmount', totals.gross),
      ...(totals.allowances !== 0 && money('cbc:AllowanceTotalAmount', totals.allowances)),
      ...(totals.prepaid !== 0 && money('cbc:PrepaidAmount', totals.prepaid)),
      ...(totals.rounding !== 0 && money('cbc:PayableRoundingAmount', totals.rounding)),
      ...money('cbc:PayableAmount', totals.due),
    },
    'cac:InvoiceLine': invoice.lines.map((line) => lineTerms(line, money)) as Content['cac:InvoiceLine'],
  };
  return { 'ubl:Invoice': content };
}

type Seller = Content['cac:AccountingSupplierParty']['cac:Party'];
type Buyer = Content['cac:AccountingCustomerParty']['cac:Party'];

const endpointTerms = (endpoint: Endpoint | null) =>
  endpoint && { 'cbc:EndpointID': endpoint.id, 'cbc:EndpointID@schemeID': endpoint.scheme as 'EM' };

function addressTerms({ lines, city, postCode, country }: Party) {
  const [first, second, ...others] = lines;
  return {
    ...(first && { 'cbc:StreetName': first }),
    ...(second && { 'cbc:AdditionalStreetName': second }),
    ...(city && { 'cbc:CityName': city }),
    ...(postCode && { 'cbc:PostalZone': postCode }),
    ...(others.length > 0 && { 'cac:AddressLine': { 'cbc:Line': others.join(', ') } }),
    'cac:Country': { 'cbc:IdentificationCode': country as 'GB' },
  };
}

function sellerTerms(seller: Party): Seller {
  const { contact } = seller;
  return {
    ...endpointTerms(seller.endpoint),
    'cac:PostalAddress': addressTerms(seller),
    ...(seller.vatId && { 'cac:PartyTaxScheme': [{ 'cbc:CompanyID': seller.vatId, 'cac:TaxScheme': VAT }] }),
    ...(seller.taxNumber && {
      'cac:PartyTaxScheme': [{ 'cbc:CompanyID': seller.taxNumber, 'cac:TaxScheme': { 'cbc:ID': 'FC' } }],
    }),
    'cac:PartyLegalEntity': {
      'cbc:RegistrationName': seller.name,
      ...(seller.companyNumber && { 'cbc:CompanyID': seller.companyNumber }),
    },
    'cac:Contact': {
      'cbc:Name': contact.name,
      ...(contact.telephone && { 'cbc:Telephone': contact.telephone }),
      ...(contact.email && { 'cbc:ElectronicMail': contact.email }),
    },
  };
}

function buyerTerms(buyer: Party): Buyer {
  return {
    ...endpointTerms(buyer.endpoint),
    'cac:PostalAddress': addressTerms(buyer),
    ...(buyer.vatId && { 'cac:PartyTaxScheme': { 'cbc:CompanyID': buyer.vatId, 'cac:TaxScheme': VAT } }),
    'cac:PartyLegalEntity': { 'cbc:RegistrationName': buyer.name },
    ...(buyer.contact.name && { 'cac:Contact': { 'cbc:Name': buyer.contact.name } }),
  };
}

/** When the work was done to its end (BT-72); a supply within the Union also says to where it went (BR-IC-11, BR-IC-12). */
function deliveryTerms({ taxes, period, issued, buyer }: EInvoice): Pick<Content, 'cac:Delivery'> {
  const within = taxes.some((tax) => tax.category === 'K');
  return {
    'cac:Delivery': {
      'cbc:ActualDeliveryDate': period?.to ?? issued,
      ...(within && { 'cac:DeliveryLocation': { 'cac:Address': addressTerms(buyer) } }),
    },
  };
}

const IBAN = /^[A-Z]{2}\d{2}[A-Z0-9]{11,30}$/;

/** BT-81 of UNTDID 4461: 58 a SEPA credit transfer, 30 another one, 1 whatever was agreed. */
function meansTerms({ account, currency, number }: EInvoice): NonNullable<Content['cac:PaymentMeans']>[number] {
  const id = account?.number.replace(/\s/g, '') ?? '';
  if (!account || id === '') return { 'cbc:PaymentMeansCode': '1', 'cbc:PaymentID': number };
  return {
    'cbc:PaymentMeansCode': currency === 'EUR' && IBAN.test(id) ? '58' : '30',
    'cbc:PaymentID': number,
    'cac:PayeeFinancialAccount': {
      'cbc:ID': id,
      ...(account.holder && { 'cbc:Name': account.holder }),
      ...(account.bic && { 'cac:FinancialInstitutionBranch': { 'cbc:ID': account.bic } }),
    },
  };
}

/** The total tax in the studio's own currency (BT-111). */
function homeTerms({ home }: EInvoice): object[] {
  if (!home) return [];
  return [{ 'cbc:TaxAmount': plainAmount(home.tax, home.currency), 'cbc:TaxAmount@currencyID': home.currency }];
}

/** Without a category nothing is written at all: what lacks it is refused before. */
const categoryTerms = (tax: EInvoiceTax | null) => ({
  'cbc:ID': (tax?.category ?? 'O') as Code<'S'>,
  ...(tax && tax.percent !== null && { 'cbc:Percent': tax.percent }),
  'cac:TaxScheme': VAT,
});

function lineTerms(
  line: EInvoiceLine,
  money: <Name extends string>(name: Name, minor: Minor) => object,
): Content['cac:InvoiceLine'][number] {
  const [first = '', ...more] = line.text.split('\n');
  return {
    'cbc:ID': line.id,
    'cbc:InvoicedQuantity': line.quantity,
    'cbc:InvoicedQuantity@unitCode': line.unit as 'HUR',
    ...money('cbc:LineExtensionAmount', line.net),
    ...(line.allowance && {
      'cac:AllowanceCharge': [
        {
          'cbc:ChargeIndicator': line.allowance.amount < 0 ? 'true' : 'false',
          'cbc:AllowanceChargeReason': 'Discount',
          ...money('cbc:Amount', Math.abs(line.allowance.amount)),
        },
      ],
    }),
    'cac:Item': {
      ...(more.length > 0 && { 'cbc:Description': more.join('\n').trim() }),
      'cbc:Name': first.trim() || 'Work',
      'cac:ClassifiedTaxCategory': categoryTerms(line.tax),
    },
    'cac:Price': {
      ...pricePlain(line.price, money),
      ...(line.per !== '1' && {
        'cbc:BaseQuantity': line.per,
        'cbc:BaseQuantity@unitCode': line.unit as 'HUR',
      }),
    },
  } as Content['cac:InvoiceLine'][number];
}

/** A price may have more decimals than an amount. */
function pricePlain(price: string, money: (name: string, minor: Minor) => object): object {
  return { ...money('cbc:PriceAmount', 0), 'cbc:PriceAmount': price };
}
