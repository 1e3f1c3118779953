import type { Member } from '@half-penny/core/model';
import type { Day } from '@half-penny/core/time';
import { useEffect, useMemo, useState } from 'react';
import { useTrailVersion } from '../../data/trail';
import { boundsOfDay } from '@half-penny/core/time';
import { Ledger, type Column } from '../../parts/ledger';
import { showTime } from '../../parts/spans';
import { captureWork, type Minute } from '../../workers/capture';
import type { StretchLine } from './acts';
import { minutesOf } from './evidence';

interface MinutesListProps {
  member: Member;
  day: Day;
  lines: readonly StretchLine[];
  selected: ReadonlySet<string>;
  onSelect: (selected: ReadonlySet<string>) => void;
  onActive: (id: string) => void;
}

/** What was in front minute by minute, as it was: each line belongs to a stretch, and is ticked with it. */
export function MinutesList({ member, day, lines, selected, onSelect, onActive }: MinutesListProps) {
  const bounds = boundsOfDay(day, member.zone);
  const version = useTrailVersion(bounds.start, bounds.end);
  const [read, setRead] = useState<{ day: Day; minutes: Minute[] }>();
  useEffect(() => {
    if (version === undefined) return;
    let left = false;
    captureWork()
      .minutes({ from: day, to: day, zone: member.zone })
      .then(
        (minutes) => !left && setRead({ day, minutes }),
        () => undefined,
      );
    return () => void (left = true);
  }, [version, day, member.zone]);
  const minutes = read?.day === day ? read.minutes : undefined;
  const stretchOf = useMemo(() => stretchFinder(lines), [lines]);
  const columns: Column<Minute>[] = [
    {
      key: 'at',
      head: 'From',
      width: '54px',
      cell: (each) => <span className="font-mono text-sm">{showTime(each.start, member.zone)}</span>,
    },
    {
      key: 'what',
      head: 'In front',
      width: 'minmax(0,1fr)',
      cell: (each) => (
        <>
          <span className="written clamp-1 text-sm">{each.name}</span>
          {each.with && <span className="written clamp-1 text-xs text-soft">{each.with}</span>}
        </>
      ),
    },
    {
      key: 'seen',
      head: 'Seen',
      width: '52px',
      align: 'end',
      cell: (each) => <span className="font-mono text-sm">{secondsOf(each.end - each.start)}</span>,
    },
  ];
  const idOf = (each: Minute) => String(each.start);
  const ticked = new Set(
    (minutes ?? []).filter((each) => selected.has(stretchOf(each)?.id ?? '')).map((each) => idOf(each)),
  );
  return (
    <Ledger
      label="Minutes as they were"
      rows={minutes ?? []}
      reading={minutes === undefined}
      rowId={idOf}
      rowName={(each) => `${showTime(each.start, member.zone)} ${each.name}`}
      dense
      columns={columns}
      selection={{
        selected: ticked,
        selectable: (each) => {
          const line = stretchOf(each);
          return line !== undefined && line.posted === null;
        },
        // A minute stands for its stretch: ticked or not, the others of it follow.
        onChange: (next) => {
          const changed = (minutes ?? []).filter((each) => next.has(idOf(each)) !== ticked.has(idOf(each)));
          const stretches = new Set(selected);
          for (const each of changed) {
            const id = stretchOf(each)?.id;
            if (id === undefined) continue;
            if (next.has(idOf(each))) stretches.add(id);
            else stretches.delete(id);
          }
          onSelect(stretches);
        },
      }}
      onActive={(each) => {
        const id = stretchOf(each)?.id;
        if (id !== undefined) onActive(id);
      }}
      tone={(each) => (stretchOf(each) ? '' : 'bg-side')}
      empty="Nothing was in front on this day."
    />
  );
}

/** "12 min", or seconds where it is less than one. */
const secondsOf = (ms: number): string => (ms < 60_000 ? `${Math.round(ms / 1000)} s` : minutesOf(ms));

/** Finds the stretch that a moment belongs to. */
function stretchFinder(lines: readonly StretchLine[]): (minute: Minute) => StretchLine | undefined {
  const spans = lines
    .flatMap((line) => line.row.stretch.spans.map((span) => ({ span, line })))
    .sort((a, b) => a.span.start - b.span.start);
  return ({ start, end }) => {
    const middle = (start + end) / 2;
    return spans.find(({ span }) => middle >= span.start && middle < span.end)?.line;
  };
}
