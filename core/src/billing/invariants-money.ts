import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import type { Change } from '../model/change';
import type { Id } from '../model/ids';
import { showAmount } from '../money/amount';
import { addExact, lessExact, sumExact } from '../money/rational';

/**
 * Of a sum that came in all is given out or nothing, and no source is read in twice: what its payments brought, less what was kept of them,
 * and what was paid ahead with it add up to it.
 */
export async function checkMoneyIn(after: Reader, changes: readonly Change[]): Promise<void> {
  const ids = new Set<Id>();
  for (const change of changes) {
    if (change.table === 'moneyIn') ids.add(change.id);
    if (change.table !== 'payments' && change.table !== 'deposits') continue;
    for (const row of [change.before, change.after]) if (row?.moneyInId) ids.add(row.moneyInId);
  }
  if (ids.size === 0) return;
  const rows = (await after.many('moneyIn', [...ids])).filter((row) => row !== undefined);
  const payments = await after.by('payments', 'moneyInId', [...ids]);
  const deposits = await after.by('deposits', 'moneyInId', [...ids]);
  const sources = await after.by(
    'moneyIn',
    'source',
    rows.map((row) => row.source),
  );
  if (new Set(sources.map((row) => row.source)).size < sources.length)
    throw new Fault('already', 'This sum came in already.', 'source');
  for (const row of rows) {
    // What went back of it is no part of what it was given out to.
    const paid = payments.filter((each) => each.moneyInId === row.id && each.kind !== 'refund');
    const ahead = deposits.filter((each) => each.moneyInId === row.id);
    if (paid.length + ahead.length === 0) continue;
    if (row.setAside !== null)
      throw new Fault('already', 'What is set aside is for no invoice; let it wait again first.', 'setAside');
    const arrived = paid.map(({ amount, fee = 0, arrived: own }) => own?.amount ?? lessExact(amount, fee));
    const given = addExact(sumExact(arrived), sumExact(ahead.map(({ amount, fee = 0 }) => lessExact(amount, fee))));
    const others = [
      ...paid.map((each) => each.arrived?.currency ?? each.currency),
      ...ahead.map((each) => each.currency),
    ];
    if (given !== row.amount || others.some((currency) => currency !== row.currency)) {
      throw new Fault(
        'not-the-sum',
        `${showAmount(row.amount, row.currency)} came in from ${row.payer || 'this payer'}: what it is for has to come to that. Take it apart under Money in first.`,
        'amount',
        { id: row.id },
      );
    }
  }
}
