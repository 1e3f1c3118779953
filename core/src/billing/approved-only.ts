import { isApproved } from '../checking/standing';
import { Fault } from '../faults/fault';
import type { ApprovedPolicy, Client, Entry, Workspace } from '../model/records';
import { showDayShort } from '../time/day';

/** Whether only approved time goes on a client's invoices: as said of the client, or as the studio has it. */
export const approvedPolicyOf = (
  workspace: Pick<Workspace, 'billsApproved'>,
  client: Pick<Client, 'billsApproved'> | undefined,
): ApprovedPolicy => client?.billsApproved ?? workspace.billsApproved ?? 'free';

/** Whether an entry has to be approved before it is put on its client's invoice, and is not. */
export const waitsForApproval = (workspace: Workspace, client: Client, entry: Entry): boolean =>
  !isApproved(entry) && approvedPolicyOf(workspace, client) === 'only';

/** @throws Fault where time that is not approved would go on an invoice that takes only what is */
export function refuseNotApproved(workspace: Workspace, client: Client, entries: readonly Entry[]): void {
  const waiting = entries.filter((entry) => waitsForApproval(workspace, client, entry));
  const [first] = waiting;
  if (!first) return;
  const rest = waiting.length > 1 ? ` and ${waiting.length - 1} more` : '';
  throw new Fault(
    'not-approved',
    `Only approved time goes on invoices to ${client.name}. ${showDayShort(first.day)}${rest} is not approved yet.`,
    'entryIds',
    { id: first.id, entries: waiting.map(({ id }) => id) },
  );
}
