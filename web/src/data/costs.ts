import { useBy, useRead } from './read';
import { sumExact } from '@half-penny/core/money';
import { readLedgerPage } from '@half-penny/formats/ledger';
import { Fault, grouped, type Allocation, type Cost, type CostLine, type Id } from '@half-penny/core/model';
import type { Pricer } from '@half-penny/core/billing';
import { lacksReceipt } from '@half-penny/core/billing';
import { lineAmounts } from '@half-penny/core/costs';
import { duesOf, type Due } from '@half-penny/core/paying-out';
import { useCallback, useMemo, useState } from 'react';
import { useChanges, useSession } from './session';
import { hasAny, SEE_COSTS, useRights } from './rights';

/** What became of a line of a cost. */
export type CostStanding =
  'to place' | 'internal' | 'to bill' | 'on a draft' | 'billed' | 'part billed' | 'by estimate';

/** A line of a cost with its head, as a list shows it. */
export interface CostRow {
  id: Id;
  cost: Cost;
  line: CostLine;
  /** Of the line, in minor units of the cost's currency. */
  net: number;
  gross: number;
  /** What it costs the studio. */
  amount: number;
  standing: CostStanding;
  /** What is still owed for the whole cost; null where nothing is. */
  due: Due | null;
  /** Of the whole cost. */
  needsReceipt: boolean;
}

/** All costs, line by line, latest first. */
export function useCosts(pricer: Pricer | undefined): CostRow[] | undefined {
  const { database, memberId } = useSession();
  const seesAll = hasAny(useRights(), SEE_COSTS);
  const rows = useRead(
    async (reader) => {
      const [costs, lines, milestones, payouts, payees, allocations] = await Promise.all([
        reader.all('costs'),
        reader.all('costLines'),
        reader.all('milestones'),
        reader.all('payouts'),
        reader.all('payees'),
        database.rows('allocations').where('costLineId').above('').toArray(),
      ]);
      return { costs, lines, milestones, payouts, payees, allocations };
    },
    [database],
  );
  return useMemo(() => {
    if (!rows || !pricer) return undefined;
    const seen = seesAll ? rows.costs : rows.costs.filter((row) => row.memberId === memberId);
    const costs = new Map(seen.map((row) => [row.id, row]));
    const allocated = new Map<Id, Allocation[]>();
    for (const each of rows.allocations) {
      const own = allocated.get(each.costLineId!);
      if (own) own.push(each);
      else allocated.set(each.costLineId!, [each]);
    }
    const { workspace, taxes, members } = pricer.book;
    const rounding = workspace.amountRounding;
    const dues = new Map(
      duesOf({ ...rows, costLines: rows.lines, taxes, members, rounding }).map((due) => [due.cost.id, due]),
    );
    const linesOf = grouped(rows.lines, (line) => line.costId);
    const made = rows.lines.flatMap((line) => {
      const cost = costs.get(line.costId);
      if (!cost) return [];
      const tax = cost.taxId === null ? undefined : pricer.tax.get(cost.taxId);
      const { net, gross, cost: amount } = lineAmounts(line, cost, tax, rounding);
      const standing = standingOfLine(pricer, line, amount, allocated.get(line.id) ?? []);
      const due = dues.get(cost.id) ?? null;
      return [{ id: line.id, cost, line, net, gross, amount, standing, due, needsReceipt: false }];
    });
    return made
      .map((row) => ({ ...row, needsReceipt: lacksReceipt(pricer, row.cost, linesOf.get(row.cost.id)!) }))
      .sort((a, b) => (a.cost.day < b.cost.day ? 1 : a.cost.day > b.cost.day ? -1 : a.id < b.id ? 1 : -1));
  }, [rows, pricer, seesAll, memberId]);
}

/** Which of some costs should have a receipt and have none; undefined while their lines are being read. */
export function useLackingReceipts(pricer: Pricer, costs: readonly Cost[]): ReadonlySet<Id> | undefined {
  const key = [...new Set(costs.map((cost) => cost.id))].sort().join();
  const lines = useBy('costLines', 'costId', key ? key.split(',') : []);
  return useMemo(() => {
    if (!lines) return undefined;
    const linesOf = grouped(lines, (line) => line.costId);
    const lacking = costs.filter((cost) => lacksReceipt(pricer, cost, linesOf.get(cost.id) ?? []));
    return new Set(lacking.map((cost) => cost.id));
  }, [lines, costs, pricer]);
}

function standingOfLine(pricer: Pricer, line: CostLine, amount: number, own: readonly Allocation[]): CostStanding {
  if (!line.forClient) return 'internal';
  if (line.projectId === null) return 'to place';
  if (!pricer.clientOf(line.projectId) || pricer.project.get(line.projectId)?.kind === 'internal') return 'internal';
  if (own.some((each) => each.amount === null)) return 'on a draft';
  const billed = sumExact(own.map((each) => each.part));
  if (billed === 0) return pricer.estimateOver(line.projectId, line.costCodeId) ? 'by estimate' : 'to bill';
  return Math.abs(billed) >= Math.abs(amount) ? 'billed' : 'part billed';
}

/** A cost with its lines; null when there is none. */
export function useCost(id: Id): { cost: Cost; lines: CostLine[] } | null | undefined {
  const { memberId } = useSession();
  const seesAll = hasAny(useRights(), SEE_COSTS);
  return useRead(
    async (reader) => {
      const cost = await reader.get('costs', id);
      if (!cost || !(seesAll || cost.memberId === memberId)) return null;
      const lines = await reader.by('costLines', 'costId', [id]);
      return { cost, lines: lines.sort((a, b) => a.order - b.order) };
    },
    [id, memberId, seesAll],
  );
}

const FEED = 'Bookkeeping';
/** Longer than a slow answer, shorter than anybody's patience. */
const PATIENCE = 20_000;

/** When the bookkeeping was read last, and reading it on from there, page by page: what was read stays, whatever comes after. */
export function useBookkeeping() {
  const { reader } = useSession();
  const { run } = useChanges();
  const feed = useRead(async (reader) => (await reader.all('feeds')).find((row) => row.name === FEED) ?? null, []);
  const [reading, setReading] = useState<AbortController | null>(null);
  const [fault, setFault] = useState<string>();
  const [said, setSaid] = useState<string>();
  const read = useCallback(async () => {
    const stop = new AbortController();
    setReading(stop);
    setFault(undefined);
    setSaid(undefined);
    let taken = 0;
    const came = { fresh: 0, corrected: 0, withdrawn: 0 };
    try {
      let cursor = (await reader.all('feeds')).find((row) => row.name === FEED)?.cursor ?? '';
      for (let more = true; more;) {
        const page = readLedgerPage(await fetched(cursor, stop.signal));
        if (page.lines.length > 0 || page.cursor !== cursor) {
          const row = await run('ledger.take', { lines: page.lines, feed: { name: FEED, cursor: page.cursor } });
          for (const { table, before, after } of row.changes) {
            if (table === 'costs') came[before === null ? 'fresh' : after === null ? 'withdrawn' : 'corrected']++;
          }
        }
        taken += page.lines.length;
        more = page.more && page.cursor !== cursor;
        cursor = page.cursor;
      }
      setSaid(sayCame(came));
    } catch (thrown) {
      if (!stop.signal.aborted) {
        const why = thrown instanceof Error ? thrown.message : String(thrown);
        setFault(
          `${why} ${taken > 0 ? `${taken} lines were read before that and are kept.` : 'Nothing was changed.'} Read again to go on from there.`,
        );
      }
    } finally {
      setReading(null);
    }
  }, [reader, run]);
  return { feed, read, stop: () => reading?.abort(), reading: reading !== null, fault, said };
}

/** "3 new lines, 1 corrected"; that nothing came is said as well. */
function sayCame({ fresh, corrected, withdrawn }: { fresh: number; corrected: number; withdrawn: number }): string {
  const parts = [
    fresh > 0 && `${fresh} new ${fresh === 1 ? 'line' : 'lines'}`,
    corrected > 0 && `${corrected} corrected`,
    withdrawn > 0 && `${withdrawn} withdrawn`,
  ].filter(Boolean);
  return parts.length === 0 ? 'Nothing new has come.' : `${parts.join(', ')}.`;
}

async function fetched(cursor: string, stop: AbortSignal): Promise<unknown> {
  const signal = AbortSignal.any([stop, AbortSignal.timeout(PATIENCE)]);
  let answer: Response;
  try {
    answer = await fetch(`/bookkeeping/transactions?after=${encodeURIComponent(cursor)}`, { signal });
  } catch (thrown) {
    stop.throwIfAborted();
    const late = thrown instanceof DOMException && thrown.name === 'TimeoutError';
    throw new Fault(
      late ? 'too-late' : 'no-answer',
      late ? 'The bookkeeping did not answer in time.' : 'The bookkeeping cannot be reached.',
    );
  }
  if (!answer.ok) throw new Fault('no-answer', `The bookkeeping could not answer (${answer.status}).`);
  try {
    return await answer.json();
  } catch {
    throw new Fault('unreadable', 'The bookkeeping answered something that cannot be read.');
  }
}
