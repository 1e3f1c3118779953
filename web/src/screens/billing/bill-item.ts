import {
  chargeText,
  codeOfEntry,
  entryText,
  type Charge,
  type ChargeKind,
  type PricedEntry,
  type Pricer,
  type ToBill,
} from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import { addExact, type Decimal, type Minor } from '@half-penny/core/money';
import type { Day } from '@half-penny/core/time';

export type BillKind = 'time' | ChargeKind;

/** What each kind is called in lists. */
export const kindNames: Record<BillKind, string> = {
  time: 'Time',
  bill: 'Supplier bills',
  expense: 'Expenses',
  ledger: 'Ledger lines',
  extra: 'Extras',
  fixed: 'Fixed amounts',
  estimate: 'Estimates',
};

export const kindOrder = Object.keys(kindNames) as BillKind[];

/** One thing that can go on an invoice: an entry, or a cost or agreed amount. */
export interface BillItem {
  id: Id;
  kind: BillKind;
  item: PricedEntry | null;
  charge: Charge | null;
  day: Day;
  text: string;
  /** As the client would read it, standing alone. */
  clientText: string;
  projectId: Id;
  memberId: Id | null;
  costCodeId: Id | null;
  supplier: string;
  /** In the client's currency; null where it is not known. */
  cost: Minor | null;
  markup: Decimal | null;
  amount: Minor;
  /** Why it has no price. */
  fault: string | null;
  /** A cost above the studio's limit that has neither a receipt nor a reason. */
  needsReceipt: boolean;
}

/** @param lacking costs that should have a receipt and have none */
export function billItems(pricer: Pricer, own: ToBill, lacking: ReadonlySet<Id>): BillItem[] {
  const time = own.items.map((item): BillItem => {
    const { entry } = item;
    return {
      id: entry.id,
      kind: 'time',
      item,
      charge: null,
      day: entry.day,
      text: entry.note,
      clientText: entryText(pricer, entry, own.client),
      projectId: entry.projectId!,
      memberId: entry.memberId,
      costCodeId: codeOfEntry(pricer, entry),
      supplier: '',
      // Of the length as it is billed, so that cost, markup and price side by side hold.
      cost: pricer.costIn(entry.memberId, entry.day, item.billed, own.currency),
      markup: item.price?.markup ?? null,
      amount: item.amount,
      fault: item.price ? null : 'no rate',
      needsReceipt: false,
    };
  });
  const charges = own.charges.map((charge): BillItem => ({
    needsReceipt: charge.cost !== null && lacking.has(charge.cost.id),
    id: charge.id,
    kind: charge.kind,
    item: null,
    charge,
    day: charge.day,
    text: chargeText(charge),
    clientText: chargeText(charge),
    projectId: charge.projectId,
    memberId: charge.cost?.memberId ?? null,
    costCodeId: charge.costCodeId,
    supplier: charge.cost?.supplier ?? '',
    cost: charge.costAmount,
    markup: charge.markup,
    amount: charge.amount,
    fault: charge.fault,
  }));
  return [...time, ...charges].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.id < b.id ? -1 : 1));
}

/** Items as a command picks them. */
export const pickedIds = (items: readonly BillItem[]) => ({
  entryIds: items.filter((each) => each.kind === 'time').map((each) => each.id),
  costLineIds: items.filter((each) => each.charge?.line).map((each) => each.id),
  agreedIds: items.filter((each) => each.charge?.agreed).map((each) => each.id),
});

export const sumOf = (items: readonly BillItem[], of: (item: BillItem) => number): number =>
  items.reduce((sum, item) => addExact(sum, of(item)), 0);

/** How much of an item there is: seconds of an entry, minor units of another. */
export const partOf = ({ item, charge }: BillItem): number => item?.seconds ?? charge!.part;
