import * as z from 'zod';
import { sameData } from '../model/canonical';
import { Fault } from '../faults/fault';
import { changesIn, type Change } from '../model/change';
import {
  clientDefaults,
  memberDefaults,
  projectDefaults,
  rateDefaults,
  sellerDefaults,
  taxDefaults,
  workspaceDefaults,
} from '../model/defaults';
import { price } from '../model/fields';
import { ALWAYS } from '../time/day';
import * as R from '../model/records';
import { WORKSPACE_ID } from '../model/records';
import { command, defined, need, Plan } from '../engine/command';
import { plainCommands } from '../engine/crud';

const optionalIn = <D extends object>(defaults: D) =>
  Object.fromEntries(Object.keys(defaults).map((field) => [field, true])) as { [K in keyof D]: true };

/**
 * Sets up a studio with its first member, taxes, an hourly price and who is worked for first.
 *
 * @throws Fault where the workspace has a studio
 */
export const createWorkspace = command({
  name: 'workspace.create',
  title: 'Studio set up',
  outward: 'Setting up the studio is the beginning and cannot be undone. Start another workspace in Setup instead.',
  input: z.strictObject({
    workspace: R.workspaceSchema.omit({ id: true }).partial(optionalIn(workspaceDefaults)),
    member: R.memberSchema.omit({ id: true }).partial(optionalIn(memberDefaults)),
    taxes: z.array(R.taxSchema.omit({ id: true }).partial(optionalIn(taxDefaults))).max(50),
    /** What an hour of anybody's work sells for, in the studio's currency, until more is said. */
    hourly: price.optional(),
    /** Who is worked for first, and what that work is called. The first of the taxes is the client's. */
    first: z.strictObject({ client: R.clientSchema.shape.name, project: R.projectSchema.shape.name }).optional(),
  }),
  async plan(reader, { workspace, member, taxes, hourly, first }, { newId }) {
    if ((await reader.all('workspace')).length > 0)
      throw new Fault('already', 'This workspace has been set up already.');
    const plan = new Plan()
      .put('workspace', { ...workspaceDefaults, ...defined(workspace), id: WORKSPACE_ID } as R.Workspace)
      .put('members', { ...memberDefaults, ...defined(member), id: newId() } as R.Member);
    const taxIds = taxes.map((tax) => {
      const id = newId();
      plan.put('taxes', { ...taxDefaults, ...defined(tax), id });
      return id;
    });
    const { currency } = workspace;
    if (hourly !== undefined)
      plan.put('rateLines', { ...rateDefaults, id: newId(), from: ALWAYS, price: hourly, currency });
    if (first) {
      const clientId = newId();
      plan
        .put('clients', {
          ...clientDefaults,
          id: clientId,
          name: first.client,
          address: '',
          email: '',
          taxNumber: '',
          currency,
          taxId: taxIds[0] ?? null,
          termsDays: null,
          archived: false,
        })
        .put('projects', { ...projectDefaults, id: newId(), clientId, name: first.project, kind: 'hourly' });
    }
    return plan;
  },
});

/**
 * Changes settings of the studio.
 *
 * @throws Fault where the first number would change after invoices were numbered
 */
export const editWorkspace = command({
  name: 'workspace.edit',
  title: 'Studio changed',
  titleOf: titleOfEdit,
  // What e-invoices need is written field by field: each joins what is there, so that two in a row do not undo one another.
  input: R.workspaceSchema.partial().omit({ id: true }).extend({ asSeller: R.sellerSchema.partial().optional() }),
  async plan(reader, input) {
    const workspace = await need(reader, 'workspace', WORKSPACE_ID, 'studio');
    if (input.firstNumber !== undefined && input.firstNumber !== workspace.firstNumber) {
      const issued = (await reader.all('invoices')).some((invoice) => invoice.seq !== null);
      if (issued)
        throw new Fault(
          'numbering',
          'Invoices have been numbered already; the first number can no longer change.',
          'firstNumber',
        );
    }
    const { asSeller, ...rest } = defined(input);
    const seller = asSeller && { asSeller: { ...sellerDefaults, ...workspace.asSeller, ...defined(asSeller) } };
    return new Plan().put('workspace', { ...workspace, ...rest, ...seller });
  },
});

/** What each field of the studio is called in a notice and in the history. */
const studioFields: Readonly<Record<Exclude<keyof R.Workspace, 'id' | 'logoId' | 'ofMember'>, string>> = {
  name: 'Studio’s name',
  address: 'Studio’s address',
  email: 'Studio’s e-mail',
  taxNumber: 'Tax number',
  companyNumber: 'Company number',
  asSeller: 'Details for e-invoices',
  registeredOffice: 'Registered office',
  bankAccounts: 'Bank accounts',
  paymentDetails: 'Payment details',
  currency: 'Currency',
  zone: 'Time zone',
  daySeconds: 'Length of a day',
  amountRounding: 'Rounding of amounts',
  taxMethod: 'How tax is worked out',
  rounding: 'Rounding of time',
  numberPrefix: 'Prefix of invoice numbers',
  numberDigits: 'Digits of invoice numbers',
  quotePrefix: 'Prefix of quote numbers',
  firstNumber: 'First invoice number',
  termsDays: 'Days until due',
  paper: 'Paper',
  lengthStyle: 'How lengths are written',
  breakRule: 'Break rule',
  periods: 'Billing periods',
  cutOff: 'End of the week',
  handsIn: 'What is handed in at once',
  billsApproved: 'Whether only approved time is invoiced',
  numberStyle: 'How figures are written',
  clockStyle: 'How times of day are written',
  datesIn: 'Language of days on invoices',
  wording: 'Wording of documents',
  letters: 'Letters',
  reminders: 'Days of reminders',
  payCode: 'Code to pay by',
  payAddress: 'Address to pay at',
  latePayment: 'Interest on late payment',
  places: 'Places to record from',
  design: 'Look of invoices',
  receiptOver: 'Receipt limit',
  receiptPolicy: 'What a missing receipt does',
  accounts: 'Accounts',
  openedFor: '“Opened for” list',
  weights: 'Weight groups',
};

/** "Weight group added", "Days until due changed", "Tax number and 2 more changed". */
function titleOfEdit(changes: readonly Change[]): string {
  const { before, after } = changesIn(changes, 'workspace')[0]!;
  if (!before || !after) return 'Studio changed';
  const changed = (Object.keys(studioFields) as (keyof typeof studioFields)[]).filter(
    (key) => !sameData(before[key], after[key]),
  );
  const field = changed[0]!;
  const rest = changed.length - 1;
  if (rest === 0 && (field === 'weights' || field === 'openedFor')) {
    const grown = after[field].length - before[field].length;
    const one = field === 'weights' ? 'Weight group' : 'Entry of the “Opened for” list';
    return `${one} ${grown > 0 ? 'added' : grown < 0 ? 'removed' : 'changed'}`;
  }
  return `${studioFields[field]}${rest > 0 ? ` and ${rest} more` : ''} changed`;
}

/** The picture at the head of invoices from now on; none where null. Invoices that were issued keep theirs. */
export const setLogo = command({
  name: 'workspace.logo',
  title: ({ picture }: { picture: unknown }) => (picture === null ? 'Logo taken off' : 'Logo set'),
  input: z.strictObject({ picture: R.pictureSchema.omit({ id: true }).nullable() }),
  async plan(reader, { picture }, { newId }) {
    const workspace = await need(reader, 'workspace', WORKSPACE_ID, 'studio');
    if (picture === null) return new Plan().put('workspace', { ...workspace, logoId: null });
    const id = newId();
    return new Plan().put('pictures', { ...picture, id }).put('workspace', { ...workspace, logoId: id });
  },
});

/** Who works in the studio. */
export const members = plainCommands('members', 'member', 'Member', R.memberSchema, memberDefaults);
/** Taxes that lines can have, with their history of percentages. */
export const taxes = plainCommands('taxes', 'tax', 'Tax', R.taxSchema, taxDefaults);
/** Days on which a member, or everybody, does not work or works less. */
export const absences = plainCommands('absences', 'absence', 'Absence', z.strictObject(R.absenceSchema.shape));
