import {
  joinedFeatures,
  placeOn,
  type Outcome,
  type Placing,
  type SiftRow,
  type Sweep,
} from '@half-penny/core/capture';
import { momentOn, type Job } from '@half-penny/core/entries';
import { Fault, type Member } from '@half-penny/core/model';
import { readClock, showMinute, union, type Interval } from '@half-penny/core/time';
import { useMemo, useRef } from 'react';
import { newId } from '../../data/registry';
import { useChanges, useSession } from '../../data/session';
import { readSettings } from '../../data/trail';
import { removeOldTrailBackups } from '../../data/trail-backup';
import { useTrailChanges } from '../../data/trail-changes';
import { deleteFromTrail } from '../../data/trail-sweep';
import { noticed } from '../../state/notices';
import { useAppDispatch } from '../../state/store';
import { billableOfRow, type SiftLine } from './use-sift';
import { useRights } from '../../data/rights';

export type StretchLine = Extract<SiftLine, { kind: 'stretch' }>;

/** What is said of a stretch, on top of what was said before. */
function placingOf(row: SiftRow, change: Partial<Placing>): Placing {
  const { stretch, features } = row;
  const before = stretch.placing;
  return {
    id: before?.id ?? newId(),
    day: stretch.day,
    spans: before?.spans ?? stretch.spans,
    outcome: before?.outcome ?? null,
    note: before?.note ?? '',
    billableSeconds: before?.billableSeconds ?? null,
    features,
    at: Date.now(),
    ...change,
  };
}

/** What was written is on the screen sooner than this, in milliseconds. */
const FOLLOWS = 2000;

const some = (count: number) => (count === 1 ? 'Stretch' : `${count} stretches`);

/** Everything that can be done with stretches. Each change of the trail can be undone by itself; posting is one change. */
export function useActs(member: Member) {
  const change = useTrailChanges();
  const { attempt } = useChanges();
  const dispatch = useAppDispatch();
  const { entry: workspace } = useSession();
  const setsBillable = useRights().has('billable part');
  const writing = useRef({ underWay: 0, last: -Infinity });
  return useMemo(() => {
    const put = (text: string, placings: readonly Placing[], remove: readonly string[] = []) => {
      writing.current.underWay++;
      return change(text, { placings: { put: placings, remove } }).finally(() => {
        writing.current.underWay--;
        writing.current.last = performance.now();
      });
    };
    const place = (lines: readonly StretchLine[], job: Job, serviceId: string | null = null) => {
      const outcome = placeOn({ ...job, workspaceId: workspace.id, serviceId });
      return put(
        `${some(lines.length)} placed`,
        lines.map(({ row }) => placingOf(row, { outcome })),
      );
    };
    const say = (lines: readonly StretchLine[], outcome: Outcome, text: string) =>
      put(
        `${some(lines.length)} ${text}`,
        lines.map(({ row }) => placingOf(row, { outcome })),
      );
    /** Deletes their times from the trail for good; there is nothing to take back. */
    const deleteFrom = async (lines: readonly StretchLine[], only: Sweep['only']) => {
      await deleteFromTrail({ spans: lines.flatMap(({ row }) => row.stretch.spans), only });
      await removeOldTrailBackups();
      const what = only ? `Part of ${lines.length === 1 ? '1 stretch' : some(lines.length)}` : some(lines.length);
      const text = `${what} deleted from the trail`;
      dispatch(noticed({ text, fault: false, undo: null }));
    };
    return {
      /** Whether something that was said is still being written, or was after a moment (performance.now()) and just now. */
      isUnderWay: (since: number) =>
        writing.current.underWay > 0 ||
        (writing.current.last > since && performance.now() - writing.current.last < FOLLOWS),
      place,
      /** Takes what is offered. */
      accept(lines: readonly StretchLine[]) {
        const offered = lines.filter(({ row }) => !row.stretch.outcome && row.offer);
        if (offered.length === 0) return;
        return put(
          `${some(offered.length)} placed as offered`,
          offered.map(({ row }) => placingOf(row, { outcome: row.offer!.outcome })),
        );
      },
      note: ({ row }: StretchLine, note: string) => put('Sentence changed', [placingOf(row, { note: note.trim() })]),
      bill: ({ row }: StretchLine, billableSeconds: number | null) =>
        put('Billable part changed', [placingOf(row, { billableSeconds })]),
      /** One sentence for each of several, which stay apart. */
      noteAll: (lines: readonly StretchLine[], note: string) =>
        put(
          `Sentence of ${lines.length === 1 ? '1 stretch' : `${lines.length} stretches`} changed`,
          lines.map(({ row }) => placingOf(row, { note: note.trim() })),
        ),
      /** Marked, or deleted where the person chose so. */
      async keepPrivate(lines: readonly StretchLine[]) {
        if ((await readSettings()).privateDeletes) return deleteFrom(lines, null);
        return say(lines, { act: 'private' }, 'marked private');
      },
      deleteFrom,
      notWork: (lines: readonly StretchLine[]) => say(lines, { act: 'not work' }, 'marked as not work'),
      /** Gives stretches to another of the person's workspaces, where they are offered. */
      give: (lines: readonly StretchLine[], workspaceId: string, name: string) =>
        say(lines, placeOn({ workspaceId, projectId: null, taskId: null }), `handed to ${name}`),
      /** As if nothing had been said of them. */
      forget(lines: readonly StretchLine[]) {
        const own = lines.filter(({ row, posted }) => row.stretch.placing && !posted);
        if (own.length === 0) return;
        return put(
          `${some(own.length)} open again`,
          [],
          own.map(({ row }) => row.stretch.placing!.id),
        );
      },
      /** One piece of work, however many stretches and programs it took. */
      join(lines: readonly StretchLine[]) {
        if (lines.length < 2) return;
        if (new Set(lines.map(({ row }) => row.stretch.day)).size > 1) return;
        const [first, ...others] = lines as [StretchLine, ...StretchLine[]];
        const outcome = lines.find(({ row }) => row.stretch.outcome)?.row.stretch.outcome ?? null;
        const joined = placingOf(first.row, {
          spans: union(lines.flatMap(({ row }) => row.stretch.spans)),
          outcome,
          features: joinedFeatures(
            lines.map(({ row }) => row.features),
            80,
          ),
        });
        const gone = others.flatMap(({ row }) => (row.stretch.placing ? [row.stretch.placing.id] : []));
        return put(`${lines.length} stretches joined`, [joined], gone);
      },
      /** Two of one, at a time of day. */
      async split({ row }: StretchLine, typed: string) {
        const { stretch } = row;
        const minute = readClock(typed);
        if (minute === null) {
          throw new Fault(
            'not-a-time',
            `“${typed.slice(0, 20)}” is not a time of day. Write ${showMinute(630)}.`,
            'at',
          );
        }
        const at = momentOn(stretch.day, minute, member.zone);
        const cut = (keep: (span: Interval) => Interval) =>
          stretch.spans.map(keep).filter((span) => span.end > span.start);
        const before = cut(({ start, end }) => ({ start, end: Math.min(end, at) }));
        const after = cut(({ start, end }) => ({ start: Math.max(start, at), end }));
        if (before.length === 0 || after.length === 0) {
          throw new Fault('outside', 'This moment is not within the stretch.', 'at');
        }
        const first = placingOf(row, { spans: before, billableSeconds: null });
        const second = { ...first, id: newId(), spans: after };
        return put('Stretch split', [first, second]);
      },
      /** Time away that was something after all. */
      nameAway(line: Extract<SiftLine, { kind: 'away' }>, outcome: Outcome, note: string) {
        const placing: Placing = {
          id: newId(),
          day: line.day,
          spans: [line.span],
          outcome,
          note,
          billableSeconds: null,
          // Being away tells nothing of what it was.
          features: [],
          at: Date.now(),
        };
        return put('Time away named', [placing]);
      },
      /** Makes entries of what is placed here and not posted yet; what lies under other entries is taken out of those. */
      async post(lines: readonly StretchLine[]) {
        const ready = lines.filter((line) => line.placed && !line.posted);
        if (ready.length === 0) return;
        const placings = ready.map(
          ({ row }) => row.stretch.placing ?? placingOf(row, { outcome: row.stretch.outcome }),
        );
        const fresh = placings.filter((_, index) => ready[index]!.row.stretch.placing === null);
        // First what is said, then the entries that carry its ids: after a mishap between, it is placed and can be posted again.
        if (fresh.length > 0 && !(await put(`${some(fresh.length)} placed`, fresh))) return;
        await attempt('stretch.post', {
          memberId: member.id,
          takeOut: ready.some(({ row }) => row.overlap > 0),
          entries: ready.map(({ row, placed }, index) => ({
            stretchIds: [placings[index]!.id],
            projectId: placed!.projectId,
            taskId: placed!.taskId,
            unlisted: placed!.unlisted,
            serviceId: placed!.serviceId,
            note: row.note,
            spans: placings[index]!.spans,
            // What a rule says of the billable part holds where whoever works here may say so.
            billableSeconds: setsBillable ? billableOfRow(row, Math.floor(row.stretch.seen / 1000)) : null,
          })),
        });
      },
    };
  }, [change, attempt, dispatch, member, workspace.id, setsBillable]);
}
export type Acts = ReturnType<typeof useActs>;
