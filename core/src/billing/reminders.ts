import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import type { Client, Letter, ReminderKind, Workspace } from '../model/records';
import { addDays, dayOf, daysBetween, type Day } from '../time/day';
import { dueDayOf, owedOn, type InvoiceBalance } from './standing';

/** When an invoice is reminded of where nobody said otherwise, in days past its due day. */
export const REMINDER_DAYS: readonly number[] = [7, 21, 35];

/** The days on which a client is reminded. */
export const reminderDaysOf = (
  { reminders }: Pick<Workspace, 'reminders'>,
  client: Pick<Client, 'reminders'> | undefined,
): readonly number[] => client?.reminders ?? reminders ?? REMINDER_DAYS;

/** Why an invoice that is late is not reminded of. */
export type NotReminded = 'in dispute' | 'waits in the outbox' | 'not yet' | 'all were sent' | 'client is not reminded';

/** What is late, each with its reminder, or with why there is none today. */
export interface LateInvoice {
  balance: InvoiceBalance;
  daysLate: number;
  last: Day | null;
  due: ReminderKind | null;
  why: NotReminded | null;
  /** The day of the next reminder, where one is to come. */
  next: Day | null;
}

/**
 * Invoices that are late, the latest first, each with the reminder that is due today. A reminder counts when it was sent; between two lie as
 * many days as between their steps, so that one which was sent late is not followed at once by the next.
 */
export function lateInvoices(
  invoices: readonly InvoiceBalance[],
  letters: readonly Letter[],
  clients: readonly Client[],
  workspace: Pick<Workspace, 'reminders' | 'zone'>,
  today: Day,
): LateInvoice[] {
  const about = grouped(
    letters.filter((row) => isReminder(row)),
    (row) => row.invoiceId,
  );
  const byId = new Map<Id, Client>(clients.map((row) => [row.id, row]));
  return invoices
    .filter((balance) => {
      const { frozen, voided, kind } = balance.invoice;
      return (
        frozen !== null && !voided && kind === 'invoice' && owedOn(balance) > 0 && dueDayOf(balance.invoice) < today
      );
    })
    .map((balance) => {
      const steps = reminderDaysOf(workspace, byId.get(balance.invoice.clientId));
      return stateOf(balance, about.get(balance.invoice.id) ?? [], steps, workspace.zone, today);
    })
    .sort((a, b) => b.daysLate - a.daysLate);
}

/** In the order in which they go; said here again, as what is billed needs none of the rules that records are checked by. */
const IN_ORDER = ['reminder', 'second reminder', 'last reminder'] as const satisfies readonly ReminderKind[];

const isReminder = ({ kind }: Pick<Letter, 'kind'>): boolean => (IN_ORDER as readonly string[]).includes(kind);

function stateOf(
  balance: InvoiceBalance,
  letters: readonly Letter[],
  steps: readonly number[],
  zone: string,
  today: Day,
): LateInvoice {
  const due = dueDayOf(balance.invoice);
  const daysLate = daysBetween(due, today);
  const sent = letters
    .filter((row) => row.standing === 'sent')
    .map((row) => dayOf(row.tries.at(-1)?.at ?? row.createdAt, zone))
    .sort();
  const last = sent.at(-1) ?? null;
  const step = sent.length;
  const none = (why: NotReminded, next: Day | null = null): LateInvoice => ({
    balance,
    daysLate,
    last,
    due: null,
    why,
    next,
  });
  if (balance.invoice.disputed) return none('in dispute');
  if (letters.some((row) => row.standing !== 'sent')) return none('waits in the outbox');
  if (steps.length === 0) return none('client is not reminded');
  if (step >= steps.length) return none('all were sent');
  const byStep = addDays(due, steps[step]!);
  const apart = step === 0 || last === null ? byStep : addDays(last, steps[step]! - steps[step - 1]!);
  const next = byStep > apart ? byStep : apart;
  if (today < next) return none('not yet', next);
  return { balance, daysLate, last, due: IN_ORDER[step]!, why: null, next };
}
