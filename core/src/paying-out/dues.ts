import { costAmounts, dueDayOf } from '../costs/amounts';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import type { Cost, CostLine, Member, Milestone, Payee, Payout, Tax } from '../model/records';
import type { Rows, TableName } from '../model/tables';
import { nameWords } from '../money-in/payer-names';
import type { Minor } from '../money/amount';
import { lessExact, sumExact, type RoundingRule } from '../money/rational';
import type { Day } from '../time/day';

// What the studio owes suppliers and members: bills and what was spent for it, less what was paid.

/** Rows that dues are told from. */
export interface DueRows {
  costs: readonly Cost[];
  costLines: readonly CostLine[];
  payouts: readonly Payout[];
  payees: readonly Payee[];
  milestones: readonly Milestone[];
  taxes: readonly Tax[];
  members: readonly Pick<Member, 'id' | 'name'>[];
  rounding: RoundingRule;
}

/** The rows that all dues of a workspace are told from, as they are read. */
export const dueRows = (read: <T extends TableName>(table: T) => Rows[T][]): DueRows => ({
  costs: read('costs'),
  costLines: read('costLines'),
  payouts: read('payouts'),
  payees: read('payees'),
  milestones: read('milestones'),
  taxes: read('taxes'),
  members: read('members'),
  rounding: read('workspace')[0]?.amountRounding ?? 'half away from zero',
});

/** A bill, or what a member spent, that is not paid in full. Amounts are in minor units of the cost's currency. */
export interface Due {
  cost: Cost;
  /** Who is to be paid: the supplier, or the member. */
  name: string;
  /** The account that is kept of them; null where none is. */
  payee: Payee | null;
  /** When it is due; what a member spent is due at once. */
  day: Day;
  gross: Minor;
  paid: Minor;
  /** Asked of the bank by a payment file, and not seen to have gone out. */
  asked: Minor;
  /** What is neither paid nor asked; below nothing where the supplier owes it, by a credit note. */
  left: Minor;
  /** What speaks against paying it without a look. */
  doubts: string[];
}

/** Whether somebody is to be paid for it: a bill, or what a member is to get back. */
export const isOwed = ({ kind, owedBack }: Pick<Cost, 'kind' | 'owedBack'>): boolean => kind === 'bill' || owedBack;

/** What was paid of a cost, and what was asked of the bank. */
export function paidOut(payouts: readonly Payout[]): { paid: Minor; asked: Minor } {
  const sum = (standing: Payout['standing']) =>
    sumExact(payouts.filter((each) => each.standing === standing).map((each) => each.amount));
  return { paid: sum('paid'), asked: sum('asked') };
}

const nameKey = (name: string): string => nameWords(name).join(' ');

/** The account kept of whoever is to be paid for a cost: of the member, or of the supplier by its name, however it is written. */
export function payeeOf(
  cost: Pick<Cost, 'kind' | 'memberId' | 'supplier'>,
  payees: readonly Payee[],
): Payee | undefined {
  if (cost.kind === 'expense') return payees.find((each) => each.memberId !== null && each.memberId === cost.memberId);
  const key = nameKey(cost.supplier);
  return key === '' ? undefined : payees.find((each) => each.memberId === null && nameKey(each.name) === key);
}

/** What is owed or asked for, the longest due first. */
export function duesOf(rows: DueRows): Due[] {
  const linesOf = grouped(rows.costLines, (line) => line.costId);
  const payoutsOf = grouped(rows.payouts, (payout) => payout.costId);
  const taxes = new Map(rows.taxes.map((tax) => [tax.id, tax]));
  const milestones = new Map(rows.milestones.map((row) => [row.id, row]));
  const members = new Map(rows.members.map((row) => [row.id, row.name]));
  const bills = rows.costs.filter((cost) => isOwed(cost) && cost.paidBackOn === null);
  const grossOf = (cost: Cost): Minor =>
    costAmounts(linesOf.get(cost.id) ?? [], cost, taxes.get(cost.taxId ?? ''), rows.rounding).gross;
  const twins = grouped(
    rows.costs.filter((cost) => cost.kind === 'bill' && cost.reference.trim() !== ''),
    (cost) => twinKey(cost, grossOf(cost)),
  );
  const dues = bills.map((cost): Due => {
    const gross = grossOf(cost);
    const { paid, asked } = paidOut(payoutsOf.get(cost.id) ?? []);
    const payee = payeeOf(cost, rows.payees) ?? null;
    const own = cost.kind === 'expense' ? members.get(cost.memberId ?? '') : cost.supplier.trim();
    const left = lessExact(lessExact(gross, paid), asked);
    const day = dueDayOf(cost, (id: Id) => milestones.get(id)) ?? cost.day;
    const due = { cost, name: own || 'Nobody named', payee, day, gross, paid, asked, left };
    return { ...due, doubts: doubtsOf(due, (twins.get(twinKey(cost, gross)) ?? []).length > 1) };
  });
  return dues.filter((due) => due.left !== 0 || due.asked !== 0).sort(byDay);
}

/** Two bills of one supplier with one number and sum are the same bill, most of the time; parts of one under several taxes have sums of their own. */
const twinKey = (cost: Cost, gross: Minor): string =>
  [nameKey(cost.supplier), cost.reference.trim().toLowerCase(), gross].join('\u0000');

const byDay = (a: Due, b: Due): number =>
  a.day < b.day ? -1 : a.day > b.day ? 1 : a.name < b.name ? -1 : a.name > b.name ? 1 : a.cost.id < b.cost.id ? -1 : 1;

const plainNumber = (text: string): string => text.replace(/[\s-]/g, '').toUpperCase();

function doubtsOf({ cost, payee, left }: Omit<Due, 'doubts'>, isTwice: boolean): string[] {
  const doubts: string[] = [];
  if (left < 0) doubts.push('a credit note: it is set against another bill, or paid back by the supplier');
  if (isTwice && cost.kind === 'bill')
    doubts.push(`another bill of theirs has the number ${cost.reference.trim()} and this sum too`);
  if (cost.payTo && payee && plainNumber(cost.payTo) !== plainNumber(payee.number))
    doubts.push(`asks for another account than is kept of them: ${cost.payTo}`);
  return doubts;
}
