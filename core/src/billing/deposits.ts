import type { Id } from '../model/ids';
import type { Deposit, Invoice } from '../model/records';
import type { Minor } from '../money/amount';
import { lessExact, sumExact } from '../money/rational';

/** What invoices and drafts deduct of a deposit; void ones deduct nothing. */
export const deductedOf = (depositId: Id, invoices: readonly Invoice[]): Minor =>
  sumExact(
    invoices
      .filter((invoice) => !invoice.voided)
      .flatMap((invoice) => invoice.deposits)
      .filter((each) => each.depositId === depositId)
      .map((each) => each.amount),
  );

/** What of money paid ahead went back to the client. */
export const paidBackOf = ({ paidBack = [] }: Pick<Deposit, 'paidBack'>): Minor =>
  sumExact(paidBack.map((each) => each.amount));

/** What of money paid ahead is still to deduct, in minor units of its currency. */
export const remainingOfDeposit = (deposit: Deposit, deducted: Minor): Minor =>
  lessExact(lessExact(deposit.amount, paidBackOf(deposit)), deducted);
