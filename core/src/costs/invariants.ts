import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import { rowsAfter, type Change } from '../model/change';
import type { Cost, CostLine } from '../model/records';
import { showAmount } from '../money/amount';
import type { Reader } from '../engine/store';

// What must hold of costs, their receipts, and amounts agreed with clients.

/**
 * What holds of costs, their lines, receipts and agreed amounts, whatever command changed them.
 *
 * @throws Fault that names the row and field
 */
export async function checkCosts(after: Reader, changes: readonly Change[]): Promise<void> {
  const costs = rowsAfter(changes, 'costs');
  await checkReceipts(after, costs);
  await checkReceiptsStay(after, changes);
  await checkSourcesOnce(after, costs);
  await checkWorkOfLines(after, rowsAfter(changes, 'costLines'));
  await checkAgreed(after, changes);
}

/** Every receipt that a cost names is there. */
async function checkReceipts(after: Reader, costs: readonly Cost[]): Promise<void> {
  const ids = [...new Set(costs.flatMap((cost) => cost.receiptIds))];
  if (ids.length === 0) return;
  const rows = await after.many('receipts', ids);
  if (rows.some((row) => !row)) throw new Fault('unknown', 'There is no such receipt.', 'receiptIds');
}

/** A receipt that a cost still names is not deleted. */
async function checkReceiptsStay(after: Reader, changes: readonly Change[]): Promise<void> {
  const gone = changes.filter((change) => change.table === 'receipts' && !change.after).map((change) => change.id);
  if (gone.length === 0) return;
  const users = await after.by('costs', '*receiptIds', gone);
  if (users.length > 0) {
    throw new Fault(
      'in-use',
      `This receipt still serves ${users.length === 1 ? '1 cost' : `${users.length} costs`}. Take it off them first.`,
      'id',
    );
  }
}

/** What the bookkeeping brings is taken in once. */
async function checkSourcesOnce(after: Reader, costs: readonly Cost[]): Promise<void> {
  const sources = [...new Set(costs.map((cost) => cost.source).filter(Boolean))];
  if (sources.length === 0) return;
  const rows = await after.by('costs', 'source', sources);
  if (rows.length > sources.length)
    throw new Fault('already', 'This line of the bookkeeping is here already.', 'source');
}

/** An order or allowance that a line draws on is one of the line's own project, or of one around it. */
async function checkWorkOfLines(after: Reader, lines: readonly CostLine[]): Promise<void> {
  const drawing = lines.filter((line) => line.orderId !== null || line.agreedId !== null);
  if (drawing.length === 0) return;
  const projects = new Map((await after.all('projects')).map((row) => [row.id, row]));
  const isUnder = (projectId: Id | null, above: Id) => {
    for (let id = projectId; id !== null; id = projects.get(id)?.parentId ?? null) if (id === above) return true;
    return false;
  };
  for (const line of drawing) {
    const order = line.orderId === null ? undefined : await after.get('orders', line.orderId);
    if (order && !isUnder(line.projectId, order.projectId))
      throw new Fault('other-project', 'This order is for another project.', 'orderId');
    const agreed = line.agreedId === null ? undefined : await after.get('agreed', line.agreedId);
    if (agreed && agreed.kind !== 'allowance')
      throw new Fault('not-an-allowance', 'Only an allowance is drawn on.', 'agreedId');
    if (agreed && !isUnder(line.projectId, agreed.projectId))
      throw new Fault('other-project', 'This allowance is for another project.', 'agreedId');
  }
}

/** Amounts are agreed with a client; fixed amounts come to no more than the price of the whole. */
async function checkAgreed(after: Reader, changes: readonly Change[]): Promise<void> {
  const rows = rowsAfter(changes, 'agreed');
  const projectIds = new Set(rows.map((row) => row.projectId));
  for (const project of rowsAfter(changes, 'projects')) projectIds.add(project.id);
  if (projectIds.size === 0) return;
  const projects = (await after.many('projects', [...projectIds])).filter((row) => row !== undefined);
  const workspace = (await after.all('workspace'))[0];
  for (const project of projects) {
    const all = await after.by('agreed', 'projectId', [project.id]);
    if (all.length === 0) continue;
    if (project.clientId === null)
      throw new Fault('not-for-a-client', `${project.name} is for no client; nothing is agreed for it.`, 'projectId');
    const fixed = all.filter((row) => row.kind === 'fixed');
    if (fixed.length === 0) continue;
    if (project.kind !== 'fixed price')
      throw new Fault('no-fixed-price', `${project.name} has no fixed price to bill parts of.`, 'projectId');
    const sum = fixed.reduce((total, row) => total + row.amount, 0);
    if (sum > (project.fixedPrice ?? 0)) {
      const client = await after.get('clients', project.clientId);
      const currency = client?.currency ?? workspace?.currency ?? 'GBP';
      throw new Fault(
        'over-the-price',
        `The fixed amounts of ${project.name} come to ${showAmount(sum, currency)}, more than its price of ${showAmount(project.fixedPrice ?? 0, currency)}.`,
        'amount',
      );
    }
  }
}
