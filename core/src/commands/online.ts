import * as z from 'zod';
import { deductedOf, remainingOfDeposit } from '../billing/deposits';
import { owedOn } from '../billing/standing';
import { derivedId } from '../model/derived-id';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import { type Deposit, type Invoice, type MoneyIn, type Payment } from '../model/records';
import type { Minor } from '../money/amount';
import { lessExact } from '../money/rational';
import { dayOf, showDayShort } from '../time/day';
import { command, Plan } from '../engine/command';
import type { Reader } from '../engine/store';

/** What a payment service told: that a payment came in, that it was paid back, or that the payer's bank took it back. */
export const onlineEventSchema = z.strictObject({
  id: z.string().min(1).max(100),
  kind: z.enum(['paid', 'refunded', 'charged back']),
  at: fields.instant,
  payment: z.strictObject({
    id: z.string().min(1).max(100),
    /** The invoice that was to be paid. */
    reference: z.string().max(100),
    number: z.string().max(100),
    payer: z.string().max(200),
    /** What the client paid. */
    amount: fields.minor.min(1),
    /** What the service keeps of it. */
    fee: fields.minor.min(0),
    currency: fields.currency,
  }),
});
export type OnlineEvent = z.infer<typeof onlineEventSchema>;

/** What tells a payment of the service apart from every other sum that came in. */
export const onlineSource = (paymentId: string): string => `online:${paymentId}`;

/**
 * Takes in what a payment service told, in whatever order and however often it told it: a payment comes in once and goes back once. It goes
 * to its invoice as far as that is owed; the rest is paid ahead. One that cannot be matched waits under money in.
 */
export const takeOnline = command({
  name: 'online.take',
  title: ({ events }: { events: unknown[] }) =>
    events.length === 1 ? 'Payment online taken in' : `${events.length} messages of the payment service taken in`,
  input: z.strictObject({ events: z.array(onlineEventSchema).min(1, 'Nothing was told.').max(5_000) }),
  async plan(reader, { events }) {
    const [workspace] = await reader.all('workspace');
    const zone = workspace?.zone ?? 'UTC';
    const taking = new Taking(reader, zone);
    const told = new Map<string, OnlineEvent[]>();
    for (const event of events) told.set(event.payment.id, [...(told.get(event.payment.id) ?? []), event]);
    for (const story of told.values()) {
      // What went back had come in, though that was told later or never.
      await taking.cameIn(story.find((event) => event.kind === 'paid') ?? story[0]!);
      const back = story.find((event) => event.kind !== 'paid');
      if (back) await taking.wentBack(back);
    }
    return taking.plan;
  },
});

/** Rows of one taking in, those that are written now among those that are there. */
class Taking {
  readonly plan = new Plan();
  readonly #reader: Reader;
  readonly #zone: string;
  readonly #payments: Payment[] = [];
  readonly #deposits = new Map<Id, Deposit>();
  readonly #sums = new Map<string, MoneyIn>();

  constructor(reader: Reader, zone: string) {
    this.#reader = reader;
    this.#zone = zone;
  }

  async cameIn({ at, payment }: OnlineEvent): Promise<void> {
    const source = onlineSource(payment.id);
    const [known] = await this.#reader.by('moneyIn', 'source', [source]);
    if (known) return void this.#sums.set(source, known);
    const { payer, number, amount, fee, currency } = payment;
    const sum: MoneyIn = {
      id: derivedId(source, at),
      source,
      day: dayOf(at, this.#zone),
      payer,
      text: `Paid online, ${number}`,
      reference: number,
      amount: lessExact(amount, fee),
      currency,
      sent: fee > 0 ? { amount, currency } : null,
      setAside: null,
    };
    this.#sums.set(source, sum);
    this.plan.put('moneyIn', sum);
    await this.#match(sum, payment, at);
  }

  async #match(sum: MoneyIn, { reference, amount, fee, currency }: OnlineEvent['payment'], at: number): Promise<void> {
    const invoice = await this.#reader.get('invoices', reference);
    if (!invoice?.frozen || invoice.voided || invoice.kind === 'credit note' || invoice.currency !== currency) return;
    const owed = Math.max(0, await this.#owed(invoice));
    const part = Math.min(owed, amount);
    const rest = lessExact(amount, part);
    // Charges stand with the greater of the two, so that neither comes to less than nothing.
    const [partFee, restFee] = part >= rest ? [fee, 0] : [0, fee];
    const shared = { day: sum.day, currency, moneyInId: sum.id, note: `${sum.payer}: ${sum.text}`.slice(0, 300) };
    if (part > 0)
      this.#pay({
        ...shared,
        id: derivedId(`${sum.source} paid`, at),
        invoiceId: invoice.id,
        kind: 'payment',
        amount: part,
        ...(partFee > 0 && { fee: partFee }),
      });
    if (rest > 0)
      this.#putDeposit({
        ...shared,
        id: derivedId(`${sum.source} ahead`, at),
        clientId: invoice.clientId,
        projectId: null,
        amount: rest,
        ...(restFee > 0 && { fee: restFee }),
      });
  }

  /** What went back comes first of what was paid ahead with it, then of its invoices, which are owed again. */
  async wentBack({ id, kind, at, payment }: OnlineEvent): Promise<void> {
    const sum = this.#sums.get(onlineSource(payment.id))!;
    const day = dayOf(at, this.#zone);
    const note = kind === 'refunded' ? 'Paid back online' : 'Taken back by the payer’s bank';
    const deposits = await this.#ofSum('deposits', sum);
    const payments = (await this.#ofSum('payments', sum)).filter((row) => row.kind === 'payment');
    if (deposits.length + payments.length === 0) {
      if (sum.setAside === null) this.plan.put('moneyIn', { ...sum, setAside: `${note}, ${showDayShort(day)}` });
      return;
    }
    let left = payment.amount;
    for (const deposit of deposits) {
      const backId = derivedId(`${id} ${deposit.id}`, at);
      if (deposit.paidBack?.some((each) => each.id === backId)) return;
      const invoices = await this.#reader.by('invoices', 'clientId', [deposit.clientId]);
      const amount = Math.min(left, remainingOfDeposit(deposit, deductedOf(deposit.id, invoices)));
      if (amount <= 0) continue;
      this.#putDeposit({ ...deposit, paidBack: [...(deposit.paidBack ?? []), { id: backId, day, amount, note }] });
      left = lessExact(left, amount);
    }
    for (const paid of payments) {
      const amount = Math.min(left, paid.amount);
      const refundId = derivedId(`${id} ${paid.id}`, at);
      if (amount <= 0 || (await this.#reader.get('payments', refundId))) continue;
      const { invoiceId, currency } = paid;
      this.#pay({ id: refundId, invoiceId, kind: 'refund', day, amount, currency, note, moneyInId: sum.id });
      left = lessExact(left, amount);
    }
  }

  async #owed(invoice: Invoice): Promise<Minor> {
    const payments = await this.#reader.by('payments', 'invoiceId', [invoice.id]);
    const credits = await this.#reader.by('invoices', 'ofId', [invoice.id]);
    const own = this.#payments.filter((row) => row.invoiceId === invoice.id);
    return owedOn({ invoice, payments: [...payments, ...own], credits });
  }

  async #ofSum(table: 'deposits', sum: MoneyIn): Promise<Deposit[]>;
  async #ofSum(table: 'payments', sum: MoneyIn): Promise<Payment[]>;
  async #ofSum(table: 'deposits' | 'payments', sum: MoneyIn): Promise<(Deposit | Payment)[]> {
    const there = await this.#reader.by(table, 'moneyInId', [sum.id]);
    const now = table === 'deposits' ? [...this.#deposits.values()] : this.#payments;
    const written = now.filter((row) => row.moneyInId === sum.id);
    return [...there.filter((row) => !written.some((each) => each.id === row.id)), ...written];
  }

  #pay(payment: Payment): void {
    this.#payments.push(payment);
    this.plan.put('payments', payment);
  }

  #putDeposit(deposit: Deposit): void {
    this.#deposits.set(deposit.id, deposit);
    this.plan.put('deposits', deposit);
  }
}
