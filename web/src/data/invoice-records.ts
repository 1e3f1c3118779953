import {
  openAdvances,
  readSources,
  type AdvanceStanding,
  type InvoiceBalance,
  type InvoiceSources,
  type Pricer,
} from '@half-penny/core/billing';
import type { Reader } from '@half-penny/core/engine';
import type { Allocation, Deposit, Id, Invoice, Letter, Payment } from '@half-penny/core/model';
import { addExact } from '@half-penny/core/money';

/** An invoice with all that stands on it and hangs on it. */
export interface InvoiceRecords extends InvoiceBalance, InvoiceSources {
  invoice: Invoice;
  payments: Payment[];
  credits: Invoice[];
  /** Letters that were written about it. */
  letters: Letter[];
  allocations: Allocation[];
  /** Deposits of its client. */
  deposits: Deposit[];
  /** Money invoiced ahead of its client that something is left of. */
  advances: AdvanceStanding[];
  /** What is deducted of those on other invoices. */
  usedElsewhere: ReadonlyMap<Id, number>;
}

/** Reads an invoice with what stands on it; null when there is none. */
export async function readInvoice(reader: Reader, pricer: Pricer, id: Id): Promise<InvoiceRecords | null> {
  const invoice = await reader.get('invoices', id);
  if (!invoice) return null;
  const [allocations, payments, credits, deposits, siblings, letters] = await Promise.all([
    reader.by('allocations', 'invoiceId', [id]),
    reader.by('payments', 'invoiceId', [id]),
    reader.by('invoices', 'ofId', [id]),
    reader.by('deposits', 'clientId', [invoice.clientId]),
    reader.by('invoices', 'clientId', [invoice.clientId]),
    reader.by('letters', 'invoiceId', [id]),
  ]);
  const usedElsewhere = new Map<Id, number>();
  for (const other of siblings) {
    if (other.id === id || other.voided) continue;
    for (const { depositId, amount } of other.deposits) {
      usedElsewhere.set(depositId, addExact(usedElsewhere.get(depositId) ?? 0, amount));
    }
  }
  const advances = openAdvances(siblings, pricer.book.workspace.amountRounding);
  const sources = await readSources(reader, pricer, allocations);
  const of = invoice.ofId === null ? null : await owingOf(reader, invoice.ofId);
  return {
    invoice,
    letters,
    allocations,
    payments,
    credits,
    deposits,
    advances,
    usedElsewhere,
    ...sources,
    ...(of && { of }),
  };
}

/** An invoice with what came in on it and what was credited of it; null when there is none. */
async function owingOf(reader: Reader, id: Id): Promise<InvoiceBalance | null> {
  const invoice = await reader.get('invoices', id);
  if (!invoice) return null;
  const [payments, credits] = await Promise.all([
    reader.by('payments', 'invoiceId', [id]),
    reader.by('invoices', 'ofId', [id]),
  ]);
  return { invoice, payments, credits };
}
