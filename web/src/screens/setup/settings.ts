import type { Right } from '@half-penny/core/model';
import { folded } from '@half-penny/core/entries';

/** One thing that can be set: what it is called where it stands, and other words it may be looked for by. */
export interface Setting {
  part: SetupPart;
  /** As it is written at the field or over the table. */
  name: string;
  words?: string;
}

export type SetupPart =
  | 'studio'
  | 'people'
  | 'rates'
  | 'services'
  | 'elsewhere'
  | 'recording'
  | 'rounding'
  | 'invoicing'
  | 'post'
  | 'bookkeeping'
  | 'looks'
  | 'keys'
  | 'devices'
  | 'data';

export const partNames: Record<SetupPart, string> = {
  studio: 'Studio',
  people: 'People',
  rates: 'Rates',
  services: 'Services and stages',
  elsewhere: 'Work from elsewhere',
  recording: 'Recording',
  rounding: 'Rounding',
  invoicing: 'Invoicing',
  post: 'Post',
  bookkeeping: 'Bookkeeping',
  looks: 'Looks',
  keys: 'Keys',
  devices: 'Devices',
  data: 'Your data',
};

/** Parts that are only for those who have one of these rights. */
export const partRights: Partial<Record<SetupPart, readonly Right[]>> = {
  studio: ['setup'],
  rates: ['rates'],
  services: ['setup'],
  elsewhere: ['work'],
  rounding: ['setup'],
  invoicing: ['setup'],
  post: ['setup', 'billing'],
  bookkeeping: ['setup', 'costs'],
  data: ['setup'],
};

/** The parts of Setup by what they are about. */
export const setupGroups: readonly { name: string; parts: readonly SetupPart[] }[] = [
  { name: 'Who', parts: ['studio', 'people'] },
  { name: 'Time', parts: ['recording', 'rounding', 'services', 'elsewhere'] },
  { name: 'Money', parts: ['rates', 'invoicing', 'post', 'bookkeeping'] },
  { name: 'Here', parts: ['looks', 'keys', 'devices', 'data'] },
];

const inPart = (part: SetupPart, settings: readonly (readonly [name: string, words?: string])[]): Setting[] =>
  settings.map(([name, words]) => ({ part, name, ...(words && { words }) }));

/** Everything that can be looked for in Setup. */
export const settings: readonly Setting[] = [
  ...inPart('post', [
    ['Mail server', 'smtp send e-mail host password test try'],
    ['Letters', 'templates text reminder wording'],
    ['Words on papers', 'wording translation invoice language title'],
    ['Days past the due day', 'reminders late dunning'],
  ]),
  ...inPart('invoicing', [['Address to pay at', 'card payment online link service']]),
  ...inPart('studio', [
    ['Logo', 'picture image letterhead'],
    ['Studio', 'name business company firm'],
    ['E-mail', 'mail address'],
    ['Address', 'street town'],
    ['How to pay', 'payment details bank instructions'],
    ['Tax number', 'vat registration'],
    ['Company number', 'registered'],
    ['Registered office', 'seat'],
    ['Currency', 'pound euro dollar money'],
    ['Time zone', 'clock'],
    ['Length of a day that is sold as a day', 'day rate hours'],
    ['For e-invoices', 'electronic xrechnung peppol factur-x country town telephone'],
    ['Electronic address', 'peppol endpoint eas'],
  ]),
  ...inPart('people', [
    ['Members and the hours they owe', 'team staff working hours target'],
    ['What members cost', 'cost rate wage salary'],
    ['Time zone, checker, required fields, services', 'approve review member'],
  ]),
  ...inPart('recording', [
    ['Needed before a timer starts', 'required ask'],
    ['Choosing a job', 'required form project'],
    ['Jobs are shown and sorted by', 'order number name'],
    ['Running time is in doubt after no sign of you for', 'idle away'],
    ['Breaks', 'pause lunch'],
    ['Weeks and billing periods', 'month start monday sunday'],
    ['Holidays and absences', 'leave vacation sick'],
  ]),
  ...inPart('rounding', [
    ['Rounding of time', 'increment six minutes quarter hour tenth minimum'],
    ['What each policy would have made of the last three months', 'compare'],
  ]),
  ...inPart('services', [
    ['Services', 'activity kind work type'],
    ['Tasks that stand by themselves', 'free'],
    ['Cost codes', 'heading'],
    ['Stages', 'status phase'],
  ]),
  ...inPart('elsewhere', [['A list to follow', 'tracker tasks issues tickets todo vtodo clients hours back']]),
  ...inPart('rates', [
    ['The studio’s card', 'hourly price charge'],
    ['Markups on costs', 'percent margin'],
    ['Exchange rates', 'currency euro foreign ecb'],
  ]),
  ...inPart('invoicing', [
    ['Number: prefix', 'numbering invoice'],
    ['Number: digits', 'numbering zeros'],
    ['Number: first', 'numbering start'],
    ['Days until due', 'terms payment net 30'],
    ['Paper', 'a4 letter pdf size'],
    ['Lengths are written', 'decimal hours minutes'],
    ['Tax is worked out', 'vat line total'],
    ['Amounts are rounded', 'half even bankers'],
    ['Look of invoices', 'design template colour layout'],
    ['Accounts to pay into', 'bank iban bic'],
    ['Code to pay by', 'qr epc scan sepa'],
    ['Late payment', 'interest overdue base rate reminder'],
    ['Taxes', 'vat sales tax gst category reverse charge'],
  ]),
  ...inPart('bookkeeping', [
    ['Accounts', 'ledger chart nominal'],
    ['Journal', 'export accountant csv'],
    ['Receipts', 'missing limit'],
  ]),
  ...inPart('looks', [
    ['Figures are written', 'thousands comma decimal number format'],
    ['Times of day are written', '24 hour am pm'],
    ['Theme', 'dark light colour mode'],
  ]),
  ...inPart('keys', [['Everywhere', 'shortcuts keyboard hotkeys']]),
  ...inPart('devices', [['On several devices', 'phone laptop share sync relay pair qr']]),
  ...inPart('data', [
    ['This workspace as a file', 'export import json download'],
    ['Backups', 'copy restore'],
    ['Workspaces in this browser', 'delete switch demo'],
    ['Room in this browser', 'storage space quota'],
    ['Deleting a person’s data for good', 'privacy erase forget'],
  ]),
];

/** How many are offered at once. */
const MOST = 12;

/** What is meant by some words: names that begin with them first, then names that hold them, then other words for it. */
export function findSettings(text: string): Setting[] {
  const words = folded(text).split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  const rank = ({ part, name, words: other = '' }: Setting): number | null => {
    const own = folded(name);
    const all = `${own} ${folded(partNames[part])} ${other}`;
    if (!words.every((word) => all.includes(word))) return null;
    if (own.startsWith(words[0]!)) return 0;
    return words.every((word) => own.includes(word)) ? 1 : 2;
  };
  return settings
    .flatMap((setting) => {
      const at = rank(setting);
      return at === null ? [] : [{ setting, at }];
    })
    .sort((a, b) => a.at - b.at)
    .slice(0, MOST)
    .map(({ setting }) => setting);
}
