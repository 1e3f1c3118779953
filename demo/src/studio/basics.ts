// Saltmere Lighting of Saltmere: invented, like everybody and everything in it.
import type { CostType, ProjectKind } from '@half-penny/core/model';

const HOURS = 3600;
const fullWeek = [7.5, 7.5, 7.5, 7.5, 7.5, 0, 0].map((hours) => hours * HOURS);
const fourDays = [7.5, 7.5, 7.5, 7.5, 0, 0, 0].map((hours) => hours * HOURS);

export const workspace = {
  name: 'Saltmere Lighting',
  address: '14 Lantern Row\nSaltmere\nSM4 2QT',
  email: 'accounts@saltmere-lighting.example',
  taxNumber: 'GB 999 9999 73',
  companyNumber: '00999973',
  registeredOffice: '',
  payCode: true,
  latePayment: { law: 'UK', baseRates: [{ from: '2020-01-01', percent: '4' }] },
  asSeller: {
    country: 'GB',
    city: 'Saltmere',
    postCode: 'SM4 2QT',
    electronicAddress: '',
    contact: 'Imogen Vale',
    telephone: '+44 1632 960100',
  },
  paymentDetails: 'Please quote the invoice number.',
  bankAccounts: [
    {
      id: '00000000-0000-7000-8000-0000000000a1',
      currency: 'GBP',
      holder: 'Saltmere Lighting',
      number: 'GB42 SALT 0000 0012 3456 78',
      bic: 'SALTGB2L',
      ledger: '1200',
    },
    {
      id: '00000000-0000-7000-8000-0000000000a2',
      currency: 'EUR',
      holder: 'Saltmere Lighting',
      number: 'GB81 SALT 0000 0087 6543 21',
      bic: 'SALTGB2L',
      ledger: '1210',
    },
    {
      id: '00000000-0000-7000-8000-0000000000a3',
      currency: 'USD',
      holder: 'Saltmere Lighting',
      number: 'GB11 SALT 0000 0055 2211 09',
      bic: 'SALTGB2L',
      ledger: '1220',
    },
  ],
  currency: 'GBP',
  zone: 'Europe/London',
  daySeconds: 7.5 * HOURS,
  amountRounding: 'half away from zero',
  taxMethod: 'invoice',
  rounding: { increment: 360, direction: 'up', minimum: 0, per: 'entry' },
  numberPrefix: 'SL-',
  numberDigits: 4,
  firstNumber: 131,
  termsDays: 30,
  paper: 'A4',
  lengthStyle: 'h:mm',
  breakRule: { after: 6 * HOURS, take: HOURS / 2, projectId: null },
} as const;

export const members = {
  imogen: {
    email: 'imogen@saltmere-lighting.example',
    name: 'Imogen Vale',
    role: 'principal',
    zone: 'Europe/London',
    owed: fullWeek,
  },
  teodor: {
    email: 'teodor@saltmere-lighting.example',
    name: 'Teodor Lund',
    role: 'designer',
    zone: 'Europe/London',
    owed: fullWeek,
  },
  asha: {
    email: 'asha@saltmere-lighting.example',
    name: 'Asha Quill',
    role: 'programmer',
    zone: 'Europe/London',
    owed: fourDays,
  },
} as const;
export type MemberKey = keyof typeof members;

/** How far work is, in the studio's words. */
export const stages = [
  { name: 'Enquiry', finished: false },
  { name: 'In hand', finished: false },
  { name: 'On site', finished: false },
  { name: 'Handed over', finished: true },
] as const;
export type StageName = (typeof stages)[number]['name'];

export const taxes = {
  standard: { name: 'VAT', percent: '20', note: '', place: 'GB', code: 'S20' },
  reverse: {
    name: 'VAT',
    percent: '0',
    place: 'FR',
    reverseCharge: true,
    category: 'AE',
    code: 'RC',
    note: 'Reverse charge: VAT is to be accounted for by the customer (Article 196, Directive 2006/112/EC).',
  },
  outside: {
    name: 'VAT',
    percent: '0',
    place: 'US',
    reverseCharge: true,
    category: 'O',
    code: 'OS',
    note: 'Outside the scope of UK VAT.',
  },
} as const;
export type TaxKey = keyof typeof taxes;

/** Budget headings; each has a cost type. */
export const costCodes = {
  design: { code: '10', name: 'Design', costType: 'labour' },
  production: { code: '20', name: 'Production', costType: 'labour' },
  lamps: { code: '30', name: 'Lamps, gel and cable', costType: 'material' },
  riggers: { code: '40', name: 'Riggers and electricians', costType: 'subcontract' },
  hire: { code: '50', name: 'Hired equipment', costType: 'equipment' },
  travel: { code: '60', name: 'Travel', costType: 'expense' },
} as const satisfies Record<string, { code: string; name: string; costType: CostType }>;
export type CostCodeKey = keyof typeof costCodes;

export interface DemoService {
  name: string;
  code: string;
  costCode: CostCodeKey;
  /** The income account it is booked to. */
  account: string;
  /** Kinds of project it is offered for, where that is not every one. */
  kinds?: ProjectKind[];
  /** What the studio tells apart and the client sees as one. */
  kindsOfWork?: readonly string[];
}

export const services = {
  design: { name: 'Lighting design', code: 'DES', costCode: 'design', account: '4000' },
  plans: { name: 'Plans and sections', code: 'PLN', costCode: 'design', account: '4000' },
  programming: {
    name: 'Programming',
    code: 'PRG',
    costCode: 'production',
    account: '4010',
    kindsOfWork: ['at the desk', 'in the venue'],
  },
  site: {
    name: 'Site and focus',
    code: 'SIT',
    costCode: 'production',
    account: '4010',
    kinds: ['hourly', 'fixed price', 'cost-plus'],
  },
  meeting: { name: 'Meetings', code: 'MTG', costCode: 'design', account: '4000' },
} as const satisfies Record<string, DemoService>;
export type ServiceKey = keyof typeof services;
