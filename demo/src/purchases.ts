import type { MemoryExecutor } from '@half-penny/core/commands';
import type { Id } from '@half-penny/core/model';
import { plainAmount, readAmount } from '@half-penny/core/money';
import { dueRows, duesOf } from '@half-penny/core/paying-out';
import { addDays, boundsOfDay, dayOf, type Day, type Instant } from '@half-penny/core/time';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { cursorOf, toldUntil } from './bookkeeping';
import { Chance } from './chance';
import { receiptPdf } from './receipt';
import * as studio from './studio';
import type { CostCodeKey, MemberKey } from './studio';

/** What purchases are put on, by the names the studio's lists have. */
export interface PurchaseIds {
  project: (name: string) => Id;
  costCode: (key: CostCodeKey) => Id;
  member: Record<MemberKey, Id>;
  tax: Id;
  milestone: (name: string) => Id;
}

/** Days over which the gallery's purchases of the last month are spread. */
const SPREAD = 38;
const BILLS = 14;
const EXPENSES = 14;
/** What was paid of a bill before it was due. */
const ON_ACCOUNT = 5_000;

/** Makes what the studio bought: bills, expenses with receipts, the ledger as it was read yesterday, and what was agreed about money. */
export class Purchases {
  readonly #executor: MemoryExecutor;
  readonly #ids: PurchaseIds;
  readonly #today: Day;
  readonly #now: Instant;
  readonly #chance: Chance;
  /** Expenses that their members have back. */
  readonly #paidBack: Id[] = [];
  /** Bytes of receipts by their hash. */
  readonly files = new Map<string, Uint8Array>();

  constructor(executor: MemoryExecutor, ids: PurchaseIds, now: Instant, seed: number) {
    this.#executor = executor;
    this.#ids = ids;
    this.#now = now;
    this.#today = dayOf(now, studio.workspace.zone);
    this.#chance = new Chance(seed + 1);
  }

  async make(): Promise<void> {
    await this.#executor.run('workspace.edit', { receiptOver: 7500 });
    await this.#rules();
    await this.#agreed();
    for (let index = 0; index < BILLS; index++) await this.#galleryBill(index);
    for (let index = 0; index < EXPENSES; index++) await this.#galleryExpense(index);
    for (const bill of studio.otherBills) await this.#otherBill(bill);
    await this.#ledger();
    await this.#paying();
  }

  async #rules(): Promise<void> {
    for (const { costCode, ...rate } of studio.unitRates) {
      await this.#executor.run('unitRate.add', { ...rate, currency: 'GBP', costCodeId: this.#ids.costCode(costCode) });
    }
    for (const [order, { words, project, costCode, forClient }] of studio.matchRules.entries()) {
      const projectId = project && this.#ids.project(project);
      await this.#executor.run('matchRule.add', {
        order,
        words,
        projectId,
        costCodeId: this.#ids.costCode(costCode),
        forClient,
      });
    }
  }

  async #agreed(): Promise<void> {
    for (const { project, kind, text, amount, cost, costCode, daysAgo, by, milestone } of studio.agreed) {
      await this.#executor.run('agreed.add', {
        projectId: this.#ids.project(project),
        kind,
        text,
        amount: readAmount(String(amount), 'GBP'),
        cost: cost === undefined ? null : readAmount(String(cost), 'GBP'),
        costCodeId: costCode ? this.#ids.costCode(costCode) : null,
        agreedOn: daysAgo === undefined ? null : addDays(this.#today, -daysAgo),
        agreedBy: by ?? '',
        milestoneId: milestone ? this.#ids.milestone(milestone) : null,
      });
    }
    for (const { project, costCode, amount, daysAgo, ...order } of studio.orders) {
      await this.#executor.run('order.add', {
        ...order,
        projectId: this.#ids.project(project),
        costCodeId: this.#ids.costCode(costCode),
        amount: readAmount(String(amount), 'GBP'),
        currency: 'GBP',
        day: addDays(this.#today, -daysAgo),
      });
    }
  }

  #day(): Day {
    return addDays(this.#today, -this.#chance.between(2, SPREAD));
  }

  async #galleryBill(index: number): Promise<void> {
    const bill = studio.galleryBills[index % studio.galleryBills.length]!;
    const day = this.#day();
    const lines = [bill, ...(bill.second ? [bill.second] : [])].map((each) => ({
      text: each.text,
      amount: this.#chance.between(each.least, each.most),
      projectId: this.#ids.project('Museum gallery 3'),
      costCodeId: this.#ids.costCode(each.costCode),
    }));
    const reference = String(4200 + index * 7);
    const receiptId = await this.#receipt(bill.supplier, day, lines, reference);
    await this.#executor.run('cost.add', {
      kind: 'bill',
      day,
      supplier: bill.supplier,
      reference,
      currency: 'GBP',
      taxId: this.#ids.tax,
      dueDay: addDays(day, 30),
      receiptIds: [receiptId],
      lines,
    });
  }

  async #galleryExpense(index: number): Promise<void> {
    const expense = studio.galleryExpenses[index % studio.galleryExpenses.length]!;
    const day = this.#day();
    const figure = this.#chance.between(expense.least, expense.most);
    const own = expense.unit
      ? { quantity: String(figure), unit: expense.unit.unit, price: expense.unit.price }
      : { amount: figure };
    const line = {
      text: expense.text,
      ...own,
      projectId: this.#ids.project('Museum gallery 3'),
      costCodeId: this.#ids.costCode(expense.costCode),
    };
    // Now and then a receipt is still in somebody's pocket.
    const missing = expense.unit || index % 7 === 5;
    const receiptIds = missing
      ? []
      : [await this.#receipt(expense.supplier, day, [{ text: expense.text, amount: figure }], '')];
    const made = await this.#executor.run('cost.add', {
      kind: 'expense',
      day,
      supplier: expense.supplier,
      currency: 'GBP',
      memberId: this.#ids.member[expense.member],
      owedBack: true,
      receiptIds,
      lines: [line],
    });
    if (index % 3 === 0) this.#paidBack.push(made.changes[0]!.id);
  }

  /** Bills that were due are paid, but one; of one that is not due yet a part is, and some members have their money back. */
  async #paying(): Promise<void> {
    for (const payee of studio.payees) await this.#executor.run('payee.add', payee);
    for (const { member, number } of studio.paidMembers) {
      const memberId = this.#ids.member[member];
      await this.#executor.run('payee.add', { name: studio.members[member].name, number, memberId });
    }
    await this.#executor.run('cost.payBack', { ids: this.#paidBack, day: addDays(this.#today, -1) });
    const { store } = this.#executor;
    const bills = duesOf(dueRows((table) => store.rows(table))).filter((due) => due.cost.kind === 'bill');
    const late = bills.filter((due) => due.day < this.#today);
    const paid = late.slice(0, -1).map(({ cost, day, left }) => ({ costId: cost.id, day, amount: left }));
    const [next] = bills.filter((due) => due.day >= this.#today && due.left > ON_ACCOUNT);
    if (next) paid.push({ costId: next.cost.id, day: addDays(this.#today, -2), amount: ON_ACCOUNT });
    if (paid.length > 0) await this.#executor.run('payout.add', { payouts: paid });
  }

  async #otherBill({
    project,
    supplier,
    text,
    costCode,
    least,
    most,
    forClient,
  }: (typeof studio.otherBills)[number]): Promise<void> {
    const day = this.#day();
    const lines = [
      {
        text,
        amount: this.#chance.between(least, most),
        forClient,
        projectId: this.#ids.project(project),
        costCodeId: this.#ids.costCode(costCode),
      },
    ];
    await this.#executor.run('cost.add', {
      kind: 'bill',
      day,
      supplier,
      currency: 'GBP',
      taxId: this.#ids.tax,
      dueDay: addDays(day, 30),
      receiptIds: [await this.#receipt(supplier, day, lines, '')],
      lines,
    });
  }

  async #receipt(
    supplier: string,
    day: Day,
    lines: readonly { text: string; amount?: number }[],
    reference: string,
  ): Promise<Id> {
    const money = (pence: number) => plainAmount(pence, 'GBP').padStart(10);
    const bytes = receiptPdf([
      supplier,
      `${day}  ${reference}`,
      '',
      ...lines.map((line) => `${line.text.slice(0, 24).padEnd(24)}${money(line.amount ?? 0)}`),
      '',
      `${'Total'.padEnd(24)}${money(lines.reduce((sum, line) => sum + (line.amount ?? 0), 0))}`,
    ]);
    const hash = bytesToHex(sha256(bytes));
    this.files.set(hash, bytes);
    const name = `${supplier.toLowerCase().replace(/[^a-z]+/g, '-')}-${day}.pdf`;
    const receipt = {
      name,
      mediaType: 'application/pdf' as const,
      bytes: bytes.length,
      sha256: hash,
      preview: '',
      pages: 1,
    };
    const { changes } = await this.#executor.run('receipt.add', { receipts: [receipt] });
    return changes[0]!.id;
  }

  /** The bookkeeping as it was read last evening: what it told since is new when it is read again. */
  async #ledger(): Promise<void> {
    const told = toldUntil(boundsOfDay(this.#today, studio.workspace.zone).start).filter((each) => each.at < this.#now);
    const last = told.at(-1);
    if (!last) return;
    await this.#executor.run('ledger.take', {
      lines: told.map(({ transaction: { id, date, payee, narrative, amount, currency, withdrawn } }) => ({
        source: `ledger:${id}`,
        day: date,
        supplier: payee,
        text: narrative,
        amount: readAmount(amount, currency),
        currency,
        withdrawn,
      })),
      feed: { name: 'Bookkeeping', cursor: cursorOf(last) },
    });
  }
}
