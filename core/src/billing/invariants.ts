import { Charges } from './charges';
import { readBook } from './book';
import { advanceStanding, drawingLines } from './advances';
import { paidBackOf } from './deposits';
import { Pricer } from './pricer';
import { sourceId, sourceTable, sourceTables, reservedBy, reservedBySource, type SourceTable } from './sources';
import { billableOf } from './billed-lengths';
import { sameData } from '../model/canonical';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import { rowsAfter, type Change, type ChangeOf } from '../model/change';
import type { Adjustment, Agreed, Allocation, CostLine, Entry, FrozenInvoice, Invoice } from '../model/records';
import type { Rows } from '../model/tables';
import type { Reader } from '../engine/store';

// What must hold of invoices, and of what stands on them.

/** Numbers run without a gap and an issued invoice stays as it was sent. */
export async function checkInvoices(after: Reader, changes: readonly Change[]): Promise<void> {
  for (const change of changes) {
    if (change.table === 'allocations') await checkAllocationStays(after, change);
    if (change.table !== 'invoices') continue;
    const { before, after: now } = change;
    if (before?.frozen) checkFrozenStays(before, now);
    if (now && (now.seq === null) !== (now.frozen === null)) {
      throw new Fault('numbering', 'An invoice is numbered exactly when it is issued.', 'seq');
    }
    if (now?.seq && before?.seq !== now.seq) await checkNumber(after, now.seq);
  }
  await checkCredits(after, changes);
  await checkDeposits(after, changes);
  await checkAdvances(after, changes);
}

function checkFrozenStays(before: Invoice, now: Invoice | null): void {
  if (!now)
    throw new Fault('issued', `${before.frozen!.number} has been issued and cannot be deleted. Void it instead.`, 'id');
  // What becomes of it later is no part of what was sent.
  const { voided: _before, releasedOn: _due, disputed: _was, opened: _unopened, advance: _ahead, ...sent } = before;
  const { voided: _now, releasedOn: _later, disputed: _is, opened: _opened, advance: _lapsed, ...kept } = now;
  if (!sameData(sent, kept) || (before.voided && !sameData(before.voided, now.voided))) {
    throw new Fault('issued', `${before.frozen!.number} has been issued and stays as it was sent.`, 'frozen');
  }
}

async function checkNumber(after: Reader, seq: number): Promise<void> {
  if ((await after.by('invoices', 'seq', [seq])).length > 1)
    throw new Fault('numbering', `Number ${seq} is taken already.`, 'seq');
  const first = (await after.all('workspace'))[0]?.firstNumber ?? 1;
  if (seq > first && (await after.by('invoices', 'seq', [seq - 1])).length === 0) {
    throw new Fault('numbering', `Number ${seq - 1} has not been used yet; invoices are numbered without gaps.`, 'seq');
  }
}

/** What stands on an issued invoice is part of it. */
async function checkAllocationStays(after: Reader, change: ChangeOf<'allocations'>): Promise<void> {
  const { before } = change;
  if (before?.amount === null || before === null) return;
  if (!change.after || !sameData(before, change.after)) {
    const invoice = await after.get('invoices', before.invoiceId);
    throw new Fault(
      'issued',
      `${invoice?.frozen?.number ?? 'The invoice'} has been issued and stays as it was sent.`,
      'entryId',
    );
  }
}

const touchedInvoices = (changes: readonly Change[]): Invoice[] => rowsAfter(changes, 'invoices');

/** All credit notes of an invoice together take back no more of a line, of a tax or of what stood on it than was invoiced. */
async function checkCredits(after: Reader, changes: readonly Change[]): Promise<void> {
  const credited = touchedInvoices(changes).filter((row) => row.kind === 'credit note');
  for (const ofId of new Set(credited.map((row) => row.ofId))) {
    const invoice = ofId === null ? undefined : await after.get('invoices', ofId);
    if (!invoice?.frozen) throw new Fault('not-issued', 'A credit note is about an issued invoice.', 'ofId');
    const notes = (await after.by('invoices', 'ofId', [invoice.id])).filter((row) => !row.voided);
    for (const line of invoice.frozen.lines) {
      const back = notes
        .flatMap((note) => note.frozen?.lines ?? [])
        .filter((each) => each.key === line.key)
        .reduce((sum, each) => sum + each.amount, 0);
      if (Math.abs(line.amount + back) > Math.abs(line.amount) || (back !== 0 && back > 0 === line.amount > 0)) {
        throw new Fault(
          'more-than-left',
          `More of “${line.text.slice(0, 60)}” would be credited than was invoiced.`,
          'lines',
          {
            key: line.key,
          },
        );
      }
    }
    checkCreditedSums(invoice.frozen, notes);
    await checkCreditedSources(after, invoice, notes);
  }
}

/** @throws Fault where what notes take back is more than what was invoiced, or of the other sign */
function refuseMore(sent: number, back: number, what: string): void {
  if (back === 0 || (back < 0 === sent > 0 && Math.abs(back) <= Math.abs(sent))) return;
  const why =
    back > 0 === sent > 0
      ? `This would ask for more ${what}, not give it back.`
      : `More ${what} would be credited than was invoiced.`;
  throw new Fault('out-of-balance', why, 'lines', { sent, back });
}

function checkCreditedSums(sent: FrozenInvoice, notes: readonly Invoice[]): void {
  const sum = (of: (frozen: FrozenInvoice) => number) => notes.reduce((all, note) => all + of(note.frozen!), 0);
  for (const { id, name, basis, amount } of sent.taxes) {
    const partOf = (frozen: FrozenInvoice) => frozen.taxes.find((tax) => tax.id === id);
    refuseMore(
      amount,
      sum((frozen) => partOf(frozen)?.amount ?? 0),
      `of the tax “${name}”`,
    );
    refuseMore(
      basis,
      sum((frozen) => partOf(frozen)?.basis ?? 0),
      `under the tax “${name}”`,
    );
  }
  refuseMore(
    sent.total + sent.rounding,
    sum((frozen) => frozen.total + frozen.rounding),
    'money',
  );
}

/** What stood on the lines is given back at most once: seconds, billed seconds, parts and money. */
async function checkCreditedSources(after: Reader, invoice: Invoice, notes: readonly Invoice[]): Promise<void> {
  const held = new Map<
    string,
    { sent: Allocation; back: { seconds: number; billed: number; part: number; amount: number } }
  >();
  const keyOf = (row: Allocation) => `${sourceId(row)} ${row.line}`;
  for (const row of await after.by('allocations', 'invoiceId', [invoice.id])) {
    if ((row.amount ?? 0) !== 0 || row.seconds > 0)
      held.set(keyOf(row), { sent: row, back: { seconds: 0, billed: 0, part: 0, amount: 0 } });
  }
  for (const row of await after.by(
    'allocations',
    'invoiceId',
    notes.map((note) => note.id),
  )) {
    const own = held.get(keyOf(row));
    if (!own) throw new Fault('out-of-balance', 'A credit note gives back only what stood on its invoice.', 'lines');
    own.back.seconds += row.seconds;
    own.back.billed += row.billed ?? 0;
    own.back.part += row.part;
    own.back.amount += row.amount ?? 0;
  }
  for (const { sent, back } of held.values()) {
    refuseMore(sent.seconds, back.seconds, 'time of an entry');
    refuseMore(sent.billed ?? 0, back.billed, 'billed time of an entry');
    refuseMore(sent.part, back.part, 'of a cost');
    refuseMore(sent.amount ?? 0, back.amount, 'of what stood on a line');
  }
}

/** What an invoice or draft deducts of a deposit; a credit note gives it back. */
function deductedOf({ frozen, deposits }: Invoice, depositId: Id): number {
  if (!frozen)
    return deposits.filter((each) => each.depositId === depositId).reduce((sum, each) => sum + each.amount, 0);
  const own = frozen.deductions.filter((each) => each.depositId === depositId);
  return own.reduce((sum, each) => sum + each.amount, 0);
}

/** No more of a deposit is deducted than was paid ahead. */
async function checkDeposits(after: Reader, changes: readonly Change[]): Promise<void> {
  const wanted = new Set(
    touchedInvoices(changes).flatMap((row) => [
      ...row.deposits.map((each) => each.depositId),
      ...(row.frozen?.deductions ?? []).flatMap((each) => each.depositId ?? []),
    ]),
  );
  for (const change of changes) if (change.table === 'deposits' && change.after) wanted.add(change.id);
  if (wanted.size === 0) return;
  const deposits = await after.many('deposits', [...wanted]);
  const invoices = (await after.all('invoices')).filter((row) => !row.voided);
  [...wanted].forEach((id, index) => {
    const deposit = deposits[index];
    const used = invoices.filter(
      (row) => row.deposits.some((each) => each.depositId === id) || deductedOf(row, id) !== 0,
    );
    if (!deposit) {
      if (used.length > 0) throw new Fault('unknown', 'There is no such deposit.', 'deposits', { id });
      return;
    }
    if (used.some((row) => row.clientId !== deposit.clientId || row.currency !== deposit.currency)) {
      throw new Fault('other-client', 'This deposit is of another client or in another currency.', 'deposits', { id });
    }
    if (used.reduce((sum, row) => sum + deductedOf(row, id), paidBackOf(deposit)) > deposit.amount) {
      throw new Fault(
        'more-than-left',
        `More of this deposit would be deducted ${paidBackOf(deposit) > 0 ? 'and paid back ' : ''}than was paid ahead.`,
        'deposits',
        { id },
      );
    }
  });
}

/** Of money that was invoiced ahead no more is drawn, credited and lapsed than was asked for, and by its own client alone, tax by tax. */
async function checkAdvances(after: Reader, changes: readonly Change[]): Promise<void> {
  const rows = touchedInvoices(changes);
  // A credit note may take back what was asked for ahead.
  const concerned = rows.filter(
    (row) => row.kind === 'credit note' || row.advance !== undefined || row.byHand.some((line) => line.advanceId),
  );
  const clients = new Set(concerned.map((row) => row.clientId));
  if (clients.size === 0) return;
  const [workspace] = await after.all('workspace');
  const all = await after.by('invoices', 'clientId', [...clients]);
  const byId = new Map(all.map((row) => [row.id, row]));
  for (const row of all) {
    if (row.voided) continue;
    for (const { advanceId } of drawingLines(row)) {
      const advance = byId.get(advanceId!);
      if (
        !advance?.advance ||
        !advance.frozen ||
        advance.clientId !== row.clientId ||
        advance.currency !== row.currency
      )
        throw new Fault('unknown', 'There is no such money invoiced ahead by this client.', 'byHand', {
          id: advanceId!,
        });
      if (advance.voided)
        throw new Fault(
          'in-use',
          `${advance.frozen.number} was invoiced ahead and is drawn on; take that off first.`,
          'byHand',
          { id: advance.id },
        );
    }
  }
  for (const row of all) {
    if (!row.advance || !row.frozen || row.voided) continue;
    const { parts } = advanceStanding(row, all, workspace?.amountRounding ?? 'half away from zero');
    if (parts.some(({ left }) => left < 0))
      throw new Fault('more-than-left', `More would be drawn on ${row.frozen.number} than is left of it.`, 'byHand', {
        id: row.id,
      });
  }
}

/**
 * For every touched source: what is on invoices, written down and never billed comes to at least nothing and at most what is billable (the
 * rest is to bill), all of it on invoices of the source's own client, and on one draft at most.
 */
export async function checkConservation(after: Reader, changes: readonly Change[]): Promise<void> {
  const touched: Record<SourceTable, Set<Id>> = { entries: new Set(), costLines: new Set(), agreed: new Set() };
  const costs = new Set<Id>();
  for (const change of changes) {
    if (change.table in touched && change.after) touched[change.table as SourceTable].add(change.id);
    if (change.table === 'costs' && change.after) costs.add(change.id);
    if (change.table !== 'allocations' && change.table !== 'adjustments') continue;
    for (const row of [change.before, change.after]) {
      if (row) touched[sourceTable(row)].add(sourceId(row));
    }
  }
  if (costs.size > 0)
    for (const row of await after.by('costLines', 'costId', [...costs])) touched.costLines.add(row.id);
  for (const table of ['entries', 'costLines', 'agreed'] as const) {
    if (touched[table].size > 0) await checkSources(after, table, [...touched[table]]);
  }
}

async function checkSources(after: Reader, table: SourceTable, ids: readonly Id[]): Promise<void> {
  const field = sourceTables[table];
  const allocations = await after.by('allocations', field, ids);
  const adjustments = await after.by('adjustments', field, ids);
  if (allocations.length === 0 && adjustments.length === 0) return;
  refuseTwoDrafts(allocations);
  refuseTwice(adjustments);
  const sums = reservedBySource([...allocations, ...adjustments]);
  const rows = new Map((await after.many(table, [...sums.keys()])).flatMap((row) => (row ? [[row.id, row]] : [])));
  const billable = await billableIn(after, table, [...rows.values()]);
  const invoiced = reservedBySource(allocations);
  const ups = writtenUp(adjustments, billable);
  for (const [id, sum] of sums) {
    const most = billable.get(id);
    if (most === undefined) continue;
    const up = ups.get(id) ?? 0;
    const held = inRange(sum, up, most) && inRange(invoiced.get(id) ?? 0, 0, most - up);
    if (!held)
      throw new Fault('more-than-left', tooMuch[table], table === 'entries' ? 'seconds' : 'part', {
        id,
        allocated: sum,
        billable: most,
      });
  }
  await checkClients(after, allocations, rows);
}

/** What was written up of each source: taken with the other sign, it makes more of it to bill than it came to. */
function writtenUp(adjustments: readonly Adjustment[], billable: ReadonlyMap<Id, number>): Map<Id, number> {
  const ups = new Map<Id, number>();
  for (const each of adjustments) {
    const id = sourceId(each);
    const part = reservedBy(each);
    const most = billable.get(id) ?? 0;
    if (most < 0 ? part > 0 : part < 0) ups.set(id, (ups.get(id) ?? 0) + part);
  }
  return ups;
}

const inRange = (value: number, a: number, b: number): boolean => Math.min(a, b) <= value && value <= Math.max(a, b);

const tooMuch: Record<SourceTable, string> = {
  entries: 'More of this entry would be invoiced than is billable.',
  costLines: 'More of this cost would be invoiced than it came to.',
  agreed: 'More of this would be invoiced than was agreed.',
};

/** What of each source is billable: seconds of entries, minor units of the rest. */
async function billableIn(
  after: Reader,
  table: SourceTable,
  rows: readonly Rows[SourceTable][],
): Promise<Map<Id, number>> {
  if (table === 'entries') return new Map((rows as Entry[]).map((row) => [row.id, billableOf(row)]));
  if (table === 'agreed') return new Map((rows as Agreed[]).map((row) => [row.id, row.amount]));
  const costLines = rows as CostLine[];
  const costs = (await after.many('costs', [...new Set(costLines.map((row) => row.costId))])).filter(
    (row) => row !== undefined,
  );
  const charges = new Charges(new Pricer(await readBook(after)), { costs, costLines, agreed: [], milestones: [] });
  return new Map(costLines.map((row) => [row.id, charges.billableOfLine(row) ?? 0]));
}

function refuseTwoDrafts(allocations: readonly Allocation[]): void {
  const onDraft = new Set<Id>();
  for (const each of allocations) {
    if (each.amount !== null) continue;
    const id = sourceId(each);
    if (onDraft.has(id)) {
      const what = each.entryId !== null ? 'An entry' : each.costLineId !== null ? 'A cost' : 'An agreed amount';
      throw new Fault('already-drafted', `${what} can stand on one draft only.`, 'entryId', { id });
    }
    onDraft.add(id);
  }
}

/** A source is left for later once, and never billed once. */
function refuseTwice(adjustments: readonly Adjustment[]): void {
  const seen = new Set<string>();
  for (const each of adjustments) {
    if (each.kind === 'written down') continue;
    const key = `${each.kind} ${sourceId(each)}`;
    if (seen.has(key))
      throw new Fault(
        'already',
        `This is ${each.kind === 'later' ? 'left for later' : 'never billed'} already.`,
        'kind',
      );
    seen.add(key);
  }
}

async function checkClients(
  after: Reader,
  allocations: readonly Allocation[],
  rows: ReadonlyMap<Id, { projectId: Id | null }>,
): Promise<void> {
  const invoiceIds = [...new Set(allocations.map((each) => each.invoiceId))];
  const invoices = new Map((await after.many('invoices', invoiceIds)).map((row) => [row?.id, row]));
  const projectIds = [...new Set([...rows.values()].map((row) => row.projectId).filter((each) => each !== null))];
  const projects = new Map((await after.many('projects', projectIds)).map((row) => [row?.id, row]));
  const sums = new Map<string, number>();
  const keyOf = (each: Allocation) => `${sourceId(each)} ${invoices.get(each.invoiceId)?.ofId ?? each.invoiceId}`;
  for (const each of allocations) sums.set(keyOf(each), (sums.get(keyOf(each)) ?? 0) + reservedBy(each));
  for (const each of allocations) {
    // What a void or credited invoice took has been given back: the source is free to go elsewhere.
    if (sums.get(keyOf(each)) === 0) continue;
    const row = rows.get(sourceId(each));
    const project = row?.projectId ? projects.get(row.projectId) : undefined;
    const client = project?.clientId ?? null;
    const unbilled = project?.kind === 'internal' || (project?.kind === 'fixed price' && each.entryId !== null);
    if (project && each.amount === null && unbilled) {
      throw new Fault(
        'not-hourly',
        `${project.name} is not invoiced by the hour. Take this entry off the draft first.`,
        'projectId',
      );
    }
    if (row && client !== invoices.get(each.invoiceId)?.clientId) {
      const what = each.entryId !== null ? 'entry' : each.costLineId !== null ? 'cost' : 'amount';
      throw new Fault(
        'other-client',
        `This ${what} is on an invoice of another client. Take it off that invoice first.`,
        'projectId',
      );
    }
  }
}
