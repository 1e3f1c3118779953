import { useTimer } from '../../data/book';
import { type PricedEntry, type Pricer } from '@half-penny/core/billing';
import type { PlaceOutcome, SiftRow } from '@half-penny/core/capture';
import { blankEntry } from '@half-penny/core/entries';
import { type Entry, type Member } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { boundsOfDay, type Day, type Interval } from '@half-penny/core/time';
import { useEffect, useMemo, useState } from 'react';
import { useEntriesOfRange } from '../../data/queries';
import { useSession } from '../../data/session';
import { useTrailVersion } from '../../data/trail';
import { useSiftBook } from '../../parts/sift-book';
import { useAppSelector } from '../../state/store';
import { captureWork, type SiftDay } from '../../workers/capture';
import { useWorthSeen, type WorthSeen } from '../../data/worth-seen';

/** A stretch, or time away, as a line of Sift. */
export type SiftLine =
  | {
      kind: 'stretch';
      id: string;
      row: SiftRow;
      /** The entry that it was posted as. */
      posted: Entry | null;
      /** What it would be as an entry, with what that is worth; by what is offered where nothing was decided. */
      priced: PricedEntry;
      /** The job it is placed on here. */
      placed: PlaceOutcome | null;
    }
  | { kind: 'away'; id: string; day: Day; span: Interval };

export interface Sifted {
  days: SiftDay[];
  lines: SiftLine[];
  /** Seconds of stretches that nothing was said of yet, and what they may be worth, by currency. */
  loose: number;
  fault: string | null;
}

/** The stretches of some days with what is offered for each; undefined while they are being formed. */
export function useSift(pricer: Pricer, member: Member, from: Day, to: Day, covered: boolean): Sifted | undefined {
  const { entry: workspace } = useSession();
  const entries = useEntriesOfRange(member.id, from, to);
  const timer = useTimer();
  const book = useSiftBook(pricer);
  const bounds = useMemo(
    () => ({ start: boundsOfDay(from, member.zone).start, end: boundsOfDay(to, member.zone).end }),
    [from, to, member.zone],
  );
  const version = useTrailVersion(bounds.start, bounds.end);
  const minute = useAppSelector((state) => Math.floor(state.clock.now / 60_000));
  const [state, setState] = useState<{ range: string; days: SiftDay[]; fault: string | null }>();
  const runningFrom = timer && timer.memberId === member.id ? timer.startedAt : null;
  useEffect(() => {
    if (version === undefined || !entries || timer === undefined) return;
    let left = false;
    const range = `${from} ${to}`;
    const taken = [
      ...entries.filter((each) => each.stretchIds.length === 0).flatMap((each) => each.spans),
      ...(runningFrom !== null ? [{ start: runningFrom, end: Math.max(runningFrom + 1, minute * 60_000) }] : []),
    ];
    captureWork()
      .sift({
        from,
        to,
        zone: member.zone,
        taken,
        covered,
        book,
      })
      .then(
        (days) => !left && setState({ range, days, fault: null }),
        (thrown: unknown) => !left && setState({ range, days: [], fault: wordsOf(thrown) }),
      );
    return () => void (left = true);
  }, [version, entries, timer, runningFrom, minute, from, to, covered, member.zone, book]);
  const worth = useWorthSeen(pricer);
  return useMemo(
    // Those of another day are not shown under this one's name.
    () =>
      state?.range === `${from} ${to}` && entries
        ? siftedOf(state, entries, pricer, member, workspace.id, worth)
        : undefined,
    [state, entries, pricer, member, workspace.id, worth, from, to],
  );
}

function siftedOf(
  { days, fault }: { days: SiftDay[]; fault: string | null },
  entries: readonly Entry[],
  pricer: Pricer,
  member: Member,
  workspaceId: string,
  worth: WorthSeen,
): Sifted {
  const byStretch = new Map(entries.flatMap((entry) => entry.stretchIds.map((id) => [id, entry] as const)));
  const rows = days.flatMap((day) => day.rows);
  const priced = worth.of(
    pricer,
    rows.map((row) => byStretch.get(row.stretch.id) ?? entryOf(row, member, workspaceId)),
  );
  const lines: SiftLine[] = rows.map((row, index) => {
    const { outcome } = row.stretch;
    return {
      kind: 'stretch',
      id: row.stretch.id,
      row,
      posted: byStretch.get(row.stretch.id) ?? null,
      priced: priced[index]!,
      placed: outcome?.act === 'place' && outcome.workspaceId === workspaceId ? outcome : null,
    };
  });
  for (const day of days) {
    for (const span of day.away) lines.push({ kind: 'away', id: `away ${span.start}`, day: day.day, span });
  }
  const startOf = (line: SiftLine) => (line.kind === 'away' ? line.span.start : line.row.stretch.spans[0]!.start);
  lines.sort((a, b) => startOf(a) - startOf(b));
  const loose = rows.reduce((sum, row) => (row.stretch.outcome ? sum : sum + row.stretch.seen), 0);
  return { days, lines, loose: Math.floor(loose / 1000), fault };
}

/** What a stretch would be as an entry: on the job it is placed on, or that is offered. */
export function entryOf(row: SiftRow, member: Member, workspaceId: string): Entry {
  const { stretch, offer, note } = row;
  const outcome = stretch.outcome ?? offer?.outcome ?? null;
  const here = outcome?.act === 'place' && outcome.workspaceId === workspaceId ? outcome : null;
  const seconds = Math.max(1, Math.floor(stretch.seen / 1000));
  return blankEntry({
    id: stretch.id,
    memberId: member.id,
    day: stretch.day,
    seconds,
    spans: stretch.spans,
    projectId: here?.projectId ?? null,
    taskId: here?.taskId ?? null,
    unlisted: here?.unlisted ?? '',
    serviceId: here?.serviceId ?? null,
    note,
    billableSeconds: billableOfRow(row, seconds),
  });
}

/** The billable part: as the person said, else as the rule says; null for all of it. */
export function billableOfRow({ stretch }: SiftRow, seconds: number): number | null {
  const said = stretch.placing?.billableSeconds ?? null;
  if (said !== null) return Math.min(said, seconds);
  const percent = stretch.outcome?.act === 'place' ? stretch.outcome.billable : 100;
  return percent === 100 ? null : Math.round((seconds * percent) / 100);
}
