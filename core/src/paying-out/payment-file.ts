import { bankAccountOf } from '../billing/freeze';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import type { BankAccount, Cost, Payee, Payout, Workspace } from '../model/records';
import type { Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { sumExact } from '../money/rational';
import type { Day } from '../time/day';
import { payeeOf } from './dues';

/** One transfer that the bank is asked for. */
export interface Transfer {
  /** Comes back on the statement as it is (ISO 20022, end-to-end identification). */
  endToEndId: string;
  payee: Payee;
  amount: Minor;
  /** What the payee reads: the supplier's number, or the days of what a member spent. */
  text: string;
  payouts: readonly Payout[];
}

/** What a payment file asks a bank for: transfers of one currency, from one account, on one day. */
export interface PaymentFile {
  /** Tells the file from every other (at most 35 signs). */
  messageId: string;
  /** Milliseconds since 1970. */
  madeAt: number;
  day: Day;
  currency: CurrencyCode;
  /** Whose account it is. */
  debtor: string;
  account: BankAccount;
  transfers: Transfer[];
}

/** An id without its dashes fits where banks allow 35 signs. */
export const bankId = (id: Id): string => id.replaceAll('-', '');

/** Payments by the file that they were asked by. */
export function filesOf(payouts: readonly Payout[]): Map<Id, Payout[]> {
  const files = new Map<Id, Payout[]>();
  for (const payout of payouts) {
    if (!payout.file) continue;
    const own = files.get(payout.file.id);
    if (own) own.push(payout);
    else files.set(payout.file.id, [payout]);
  }
  return files;
}

/**
 * The file that some payments were asked by. A supplier gets a transfer for each bill, by its number; a member one for all that was spent.
 *
 * @param payouts those of one file, all in one currency
 * @returns null where an account is not known any more
 */
export function paymentFileOf(
  payouts: readonly Payout[],
  costs: ReadonlyMap<Id, Cost>,
  payees: readonly Payee[],
  workspace: Workspace,
): PaymentFile | null {
  const [first] = payouts;
  if (!first?.file) return null;
  const account = bankAccountOf(workspace, first.currency);
  const made: Transfer[] = [];
  for (const own of transfersIn(payouts, costs)) {
    const bought = own.flatMap((payout) => costs.get(payout.costId) ?? []);
    const payee = bought[0] && payeeOf(bought[0], payees);
    if (!payee) return null;
    const amount = sumExact(own.map((payout) => payout.amount));
    made.push({ endToEndId: endToEndIdOf(own), payee, amount, text: textOf(bought), payouts: own });
  }
  if (!account) return null;
  return {
    messageId: bankId(first.file.id),
    madeAt: first.file.madeAt,
    day: first.day,
    currency: first.currency,
    debtor: account.holder || workspace.name,
    account,
    transfers: made,
  };
}

/** The payments of one file as the bank is asked for them, transfer by transfer. */
export const transfersIn = (payouts: readonly Payout[], costs: ReadonlyMap<Id, Cost>): Payout[][] => [
  ...grouped(payouts, (payout) => {
    const cost = costs.get(payout.costId);
    return cost ? transferKey(cost) : payout.id;
  }).values(),
];

/** The end-to-end identification (ISO 20022) of payments that go as one: it comes back on the statement. */
export const endToEndIdOf = ([first]: readonly Payout[]): string => bankId(first!.id);

/** A member is paid once for all; a bill that is kept in parts, one a tax, is paid as a whole by its number. */
function transferKey({ id, kind, memberId, supplier, reference }: Cost): string {
  if (kind === 'expense') return `member ${memberId}`;
  const number = reference.trim();
  return number === '' ? `bill ${id}` : `bill ${number} of ${supplier.trim().toLowerCase()}`;
}

function textOf(costs: readonly Cost[]): string {
  const [first] = costs;
  if (first!.kind === 'bill') return first!.reference.trim() || `Bill of ${first!.day}`;
  const days = [...new Set(costs.map((cost) => cost.day))].sort();
  return `Expenses ${days.join(', ')}`;
}
