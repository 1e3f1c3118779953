import { costAmounts } from '../costs/amounts';
import { isIban } from '../e-invoice/pay-code';
import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import { rowsAfter, type Change } from '../model/change';
import type { Id } from '../model/ids';
import type { Payee } from '../model/records';
import { showAmount } from '../money/amount';
import { addExact } from '../money/rational';
import { isOwed, paidOut } from './dues';

// What must hold of payees and of what they are paid.

/**
 * What holds of payments that go out and of those they go to, whatever command changed them.
 *
 * @throws Fault that names the row and field
 */
export async function checkPayingOut(after: Reader, changes: readonly Change[]): Promise<void> {
  checkAccounts(rowsAfter(changes, 'payees'));
  await checkOnePayeeEach(after, rowsAfter(changes, 'payees'));
  await checkPaidOut(after, changes);
  await checkSourcesOnce(after, changes);
}

/** Two letters and two figures begin an IBAN, whose check digits then hold. */
function checkAccounts(payees: readonly Payee[]): void {
  for (const { name, number } of payees) {
    if (/^\s*[A-Za-z]{2}\s*\d\s*\d/.test(number) && !isIban(number)) {
      throw new Fault(
        'invalid',
        `${number.trim()} is no IBAN: its check digits do not fit. Look at the account of ${name} again.`,
        'number',
      );
    }
  }
}

async function checkOnePayeeEach(after: Reader, payees: readonly Payee[]): Promise<void> {
  if (payees.length === 0) return;
  const all = await after.all('payees');
  for (const payee of payees) {
    const other = all.find(
      (each) =>
        each.id !== payee.id &&
        each.memberId === payee.memberId &&
        (payee.memberId !== null || each.name.trim().toLowerCase() === payee.name.trim().toLowerCase()),
    );
    if (other) throw new Fault('name-taken', `An account of ${other.name} is kept already.`, 'name', { id: other.id });
  }
}

/** No more is paid of a cost than it comes to, and only of what is owed to somebody, in its own currency. */
async function checkPaidOut(after: Reader, changes: readonly Change[]): Promise<void> {
  const ids = new Set<Id>();
  for (const { costId } of rowsAfter(changes, 'payouts')) ids.add(costId);
  for (const { costId } of rowsAfter(changes, 'costLines')) ids.add(costId);
  for (const { id } of rowsAfter(changes, 'costs')) ids.add(id);
  for (const change of changes) if (change.table === 'costLines' && change.before) ids.add(change.before.costId);
  if (ids.size === 0) return;
  const payouts = await after.by('payouts', 'costId', [...ids]);
  if (payouts.length === 0) return;
  const paidIds = [...new Set(payouts.map((each) => each.costId))];
  const costs = (await after.many('costs', paidIds)).filter((row) => row !== undefined);
  const lines = await after.by('costLines', 'costId', paidIds);
  const taxes = new Map((await after.all('taxes')).map((tax) => [tax.id, tax]));
  const rule = (await after.all('workspace'))[0]?.amountRounding ?? 'half away from zero';
  for (const cost of costs) {
    const own = payouts.filter((each) => each.costId === cost.id);
    const what = cost.supplier.trim() || 'This cost';
    if (!isOwed(cost)) throw new Fault('not-owed', `${what} is owed to nobody, so nothing is paid on it.`, 'costId');
    if (cost.paidBackOn !== null) throw new Fault('paid', `${what} was paid back in full.`, 'costId');
    if (own.some((each) => each.currency !== cost.currency))
      throw new Fault('other-currency', `${what} is owed in ${cost.currency}; it is paid in that.`, 'currency');
    const ownLines = lines.filter((line) => line.costId === cost.id);
    const { gross } = costAmounts(ownLines, cost, taxes.get(cost.taxId ?? ''), rule);
    const { paid, asked } = paidOut(own);
    const given = addExact(paid, asked);
    const isOver = gross < 0 ? given < gross || given > 0 : given > gross || given < 0;
    if (isOver) {
      const also = asked === 0 ? '' : `, with what the bank was asked for,`;
      throw new Fault(
        'more-than-left',
        `${what} comes to ${showAmount(gross, cost.currency)}, and ${showAmount(given, cost.currency)}${also} would be paid of it. Change the payment first.`,
        'amount',
        { id: cost.id },
      );
    }
  }
}

/** A line of a statement is a cost, or pays something; never both. */
async function checkSourcesOnce(after: Reader, changes: readonly Change[]): Promise<void> {
  const paying = [...rowsAfter(changes, 'payouts'), ...rowsAfter(changes, 'payments')].flatMap(
    ({ source }) => source ?? [],
  );
  const bought = rowsAfter(changes, 'costs').flatMap(({ source }) => source || []);
  const isThere =
    (paying.length > 0 && (await after.by('costs', 'source', paying)).length > 0) ||
    (bought.length > 0 &&
      ((await after.by('payouts', 'source', bought)).length > 0 ||
        (await after.by('payments', 'source', bought)).length > 0));
  if (isThere) throw new Fault('already', 'This line of the statement is here already.', 'source');
}
