import type { Id } from '../model/ids';
import { momentOfId } from '../model/ids';
import type { Letter, PaymentKind } from '../model/records';
import type { Minor } from '../money/amount';
import type { Day } from '../time/day';
import type { Instant } from '../time/interval';
import type { InvoiceBalance } from './standing';

/** What can happen to an invoice. */
export type InvoiceEventKind =
  | 'drafted'
  | 'issued'
  | 'sent'
  | 'opened'
  | 'reminded'
  | 'not sent'
  | 'retention due'
  | 'credited'
  | 'void'
  | PaymentKind;

/** One thing that happened to an invoice. */
export interface InvoiceEvent {
  key: string;
  kind: InvoiceEventKind;
  /** When it was written down; null where only its day is known. */
  at: Instant | null;
  /** The day it is of, where that was said: a payment of Friday may be written down on Monday. */
  day: Day | null;
  /** Minor units of the invoice's currency; null where it is about no sum. */
  amount: Minor | null;
  note: string;
  /** The credit note. */
  invoiceId: Id | null;
  number: string;
}

/**
 * What happened to an invoice, in the order in which it was written down. What was undone did not happen.
 *
 * @param owing the invoice with what came in on it and what was credited of it
 * @param letters that were written about it
 */
export function invoiceEvents(
  { invoice, payments, credits }: InvoiceBalance,
  letters: readonly Letter[] = [],
): InvoiceEvent[] {
  const { frozen, issuedAt, voided } = invoice;
  const events: InvoiceEvent[] = [event('drafted', 'drafted', { at: invoice.createdAt })];
  if (frozen) events.push(event('issued', 'issued', { at: issuedAt, day: frozen.day, amount: frozen.payable }));
  for (const { id, kind, day, amount, note } of payments)
    events.push(event(id, kind, { at: momentOfId(id), day, amount, note }));
  for (const { id, frozen: note, issuedAt: at } of credits) {
    if (!note) continue;
    const { number, day, payable: amount } = note;
    events.push(event(id, 'credited', { at, day, amount, number, invoiceId: id, note: note.credits?.reason ?? '' }));
  }
  for (const letter of letters) events.push(...eventsOf(letter));
  if (invoice.opened !== undefined) events.push(event('opened', 'opened', { at: invoice.opened }));
  if (invoice.releasedOn !== null) events.push(event('retention due', 'retention due', { day: invoice.releasedOn }));
  if (voided) events.push(event('void', 'void', { at: voided.at, day: voided.day, note: voided.reason }));
  return events.sort((one, other) => placeOf(one) - placeOf(other));
}

/** Each time that a letter left, or should have. */
const eventsOf = ({ id, kind, recipients, tries }: Letter): InvoiceEvent[] =>
  tries.map(({ at, outcome, reason }, index) => {
    const sent = /reminder/.test(kind) ? 'reminded' : 'sent';
    const note = outcome === 'sent' ? [recipients, reason].filter(Boolean).join('. ') : reason;
    return event(`${id} ${index}`, outcome === 'sent' ? sent : 'not sent', { at, note });
  });

const event = (key: string, kind: InvoiceEventKind, more: Partial<InvoiceEvent>): InvoiceEvent => ({
  key,
  kind,
  at: null,
  day: null,
  amount: null,
  note: '',
  invoiceId: null,
  number: '',
  ...more,
});

/** Where only a day is known, its noon in UTC: within the day wherever it was. */
const placeOf = ({ at, day }: InvoiceEvent): number => at ?? (day === null ? 0 : Date.parse(`${day}T12:00:00Z`));
