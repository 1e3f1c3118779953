import type { Id } from '../model/ids';
import { addExact } from '../money/rational';
import type { Minor } from '../money/amount';
import { sumWorking, type Working } from '../rates/working';
import { showDayShort } from '../time/day';
import { chargeText } from './lines';
import { jobName, type Pricer } from './pricer';
import type { ToBill } from './to-bill';

const titleOf = (row: ToBill): string => `${row.client.name}, to bill`;

/** What a client's "to bill" is the sum of: time, costs and agreed amounts, piece by piece. */
export const toBillWorking = (pricer: Pricer, row: ToBill): Working =>
  sumWorking(
    titleOf(row),
    [
      ...row.items.map(({ entry, amount }) => ({
        label: `${showDayShort(entry.day)} ${entry.note || jobName(pricer, entry.projectId)}`,
        minor: amount,
      })),
      ...row.charges.map((charge) => ({
        label: `${charge.day && showDayShort(charge.day)} ${chargeText(charge)}`.trim(),
        minor: charge.amount,
      })),
    ],
    row.currency,
  );

/** The same sum, by project. */
export function toBillByProject(pricer: Pricer, row: ToBill): Working {
  const sums = new Map<Id, Minor>();
  const add = (projectId: Id, amount: Minor) => sums.set(projectId, addExact(sums.get(projectId) ?? 0, amount));
  for (const { entry, amount } of row.items) add(entry.projectId!, amount);
  for (const { projectId, amount } of row.charges) add(projectId, amount);
  const parts = [...sums].map(([projectId, minor]) => ({ label: pricer.tree.pathOf(projectId), minor }));
  return sumWorking(titleOf(row), parts, row.currency);
}
