import type { Pricer } from '@half-penny/core/billing';
import type { Entry, Member, Timer } from '@half-penny/core/model';
import { boundsOfDay, showLength, type Day } from '@half-penny/core/time';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { readOutsideMarks } from '../../data/outside-marks';
import { useSession } from '../../data/session';
import { useTrailVersion } from '../../data/trail';
import { useWorthSeen } from '../../data/worth-seen';
import { siftBookOf } from '../sift-book';
import { useAppSelector } from '../../state/store';
import { captureWork } from '../../workers/capture';
import { worthOfLoose } from './loose-worth';

interface TrailSignProps {
  pricer: Pricer;
  member: Member;
  today: Day;
  entries: readonly Entry[];
  timer: Timer | null;
  /** Seconds between the first and the last entry of the day that none covers; shown where nothing was noticed. */
  between: number;
}

interface Loose {
  seen: boolean;
  seconds: number;
  worth: string;
  document: { name: string; seconds: number } | null;
}

const STILL_THERE = 120_000;

/** What of today was noticed and is not placed, with what it may be worth, and the clock of the document in front. */
export default function TrailSign({ pricer, member, today, entries, timer, between }: TrailSignProps) {
  const { entry: workspace, reader } = useSession();
  const worthSeen = useWorthSeen(pricer);
  const bounds = boundsOfDay(today, member.zone);
  const version = useTrailVersion(bounds.start, bounds.end);
  const minute = useAppSelector((state) => Math.floor(state.clock.now / 60_000));
  const [loose, setLoose] = useState<Loose | null>(null);
  const startedAt = timer?.startedAt ?? null;
  // One question at a time: what changes meanwhile is asked about once, afterwards.
  const busy = useRef(false);
  const missed = useRef(false);
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    if (version === undefined) return;
    if (busy.current) return void (missed.current = true);
    busy.current = true;
    const now = minute * 60_000;
    const taken = [
      ...entries.filter((each) => each.stretchIds.length === 0).flatMap((each) => each.spans),
      ...(startedAt !== null && now > startedAt ? [{ start: startedAt, end: now }] : []),
    ];
    const range = { from: today, to: today, zone: member.zone };
    const asked = Promise.all([
      readOutsideMarks(reader, pricer).then((outside) =>
        captureWork().sift({ ...range, taken, covered: false, book: siftBookOf(pricer, workspace.id, outside) }),
      ),
      captureWork().documents(range),
    ]).then(
      ([days, documents]) => {
        const rows = days.flatMap((day) => day.rows).filter((row) => !row.stretch.outcome);
        const seconds = Math.floor(rows.reduce((sum, row) => sum + row.stretch.seen, 0) / 1000);
        const running = documents.find((each) => (each.clock.at(-1)?.end ?? 0) >= now - STILL_THERE);
        setLoose({
          seen: days.length > 0,
          seconds,
          worth: worthOfLoose(pricer, worthSeen, member, workspace.id, rows),
          document: running
            ? {
                name: running.file.slice(running.file.lastIndexOf('/') + 1),
                seconds: Math.floor(running.clock.reduce((sum, each) => sum + each.end - each.start, 0) / 1000),
              }
            : null,
        });
      },
      () => undefined,
    );
    void asked.then(() => {
      busy.current = false;
      if (!missed.current) return;
      missed.current = false;
      setTurn((now) => now + 1);
    });
  }, [version, minute, turn, entries, startedAt, today, member, pricer, worthSeen, workspace.id, reader]);
  if (!loose?.seen)
    return <b title="Time between your first and last entry today that no entry covers">{showLength(between)}</b>;
  return (
    <Link to="/sift" className="hover:underline" title="Noticed today, and not placed yet">
      <b>{showLength(loose.seconds)}</b>
      {loose.worth && <span className="text-till-money italic"> about {loose.worth}</span>}
      {loose.document && (
        <span className="ml-2 inline-block max-w-32 truncate align-bottom text-xs text-till-soft">
          {showLength(loose.document.seconds)} {loose.document.name}
        </span>
      )}
    </Link>
  );
}
