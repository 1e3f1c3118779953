import { gapsOfDay } from '@half-penny/core/entries';
import type { Entry, Id } from '@half-penny/core/model';
import {
  boundsOfDay,
  clip,
  covered,
  minuteOf,
  clockOf,
  type Day,
  type Interval,
  type Zone,
} from '@half-penny/core/time';
import { useRef } from 'react';

interface HourPageProps {
  day: Day;
  zone: Zone;
  entries: readonly Entry[];
  /** What runs now, as an interval. */
  running: Interval | null;
  nameOf: (entry: Entry) => string;
  selected: Id | null;
  onSelect: (id: Id) => void;
  /** Sweeping over parts with the pointer held down selects all of them. */
  onSelectMany?: (ids: Id[]) => void;
}

const HOUR_MS = 3_600_000;
const QUIET_FROM = 8;
const QUIET_TO = 17;

interface Line {
  /** The wall-clock hour its first minute is in; twice the same on the long day in autumn. */
  label: string;
  bounds: Interval;
}

/** The lines of a day: one for each hour that passes, 23, 24 or 25 of them, cut to those in use and the usual ones. */
function linesOf(day: Day, zone: Zone, busy: readonly Interval[]): Line[] {
  const whole = boundsOfDay(day, zone);
  const lines: Line[] = [];
  for (let start = whole.start; start < whole.end; start += HOUR_MS) {
    lines.push({
      label: clockOf(minuteOf(start, zone)).slice(0, 2),
      bounds: { start, end: Math.min(start + HOUR_MS, whole.end) },
    });
  }
  const used = (line: Line) => busy.some((each) => clip(each, line.bounds));
  const usual = (line: Line) => Number(line.label) >= QUIET_FROM && Number(line.label) < QUIET_TO;
  const first = lines.findIndex((line) => used(line) || usual(line));
  const last = lines.findLastIndex((line) => used(line) || usual(line));
  return lines.slice(first, last + 1);
}

/** A day as ruled lines, one an hour, minutes left to right, minutes recorded at the end of each. */
export function HourPage({ day, zone, entries, running, nameOf, selected, onSelect, onSelectMany }: HourPageProps) {
  const swept = useRef<Set<Id> | null>(null);
  const sweep = (id: Id) => {
    swept.current?.add(id);
    if (swept.current && swept.current.size > 1) onSelectMany?.([...swept.current]);
  };
  const timed = entries.flatMap((entry) => entry.spans.map((span) => ({ entry, span })));
  const spans = timed.map(({ span }) => span);
  const busy = running ? [...spans, running] : spans;
  const loose = gapsOfDay(entries, day, zone, running);
  const place = (part: Interval, line: Line) => ({
    left: `${((part.start - line.bounds.start) / HOUR_MS) * 100}%`,
    width: `${((part.end - part.start) / HOUR_MS) * 100}%`,
  });
  return (
    <figure aria-label="The day, hour by hour">
      <figcaption className="mb-3 text-sm font-semibold">The day, hour by hour</figcaption>
      <div
        className="flex flex-col gap-1 font-mono text-xs"
        onPointerUp={() => (swept.current = null)}
        onPointerLeave={() => (swept.current = null)}
      >
        {linesOf(day, zone, busy).map((line) => {
          const minutes = Math.round(
            covered(busy.map((each) => clip(each, line.bounds)).filter((each) => each !== null)) / 60_000,
          );
          const runningPart = running && clip(running, line.bounds);
          return (
            <div key={line.bounds.start} className="grid grid-cols-[26px_1fr_26px] items-center">
              <span className="text-soft">{line.label}</span>
              <div className="relative h-[14px] border-b border-strong">
                {loose.map((gap) => {
                  const part = clip(gap, line.bounds);
                  return part ? (
                    <span
                      key={`gap ${gap.start}`}
                      style={place(part, line)}
                      title="Not accounted for"
                      className="hatched absolute top-[2px] h-[10px] text-strong"
                    />
                  ) : null;
                })}
                {timed.map(({ entry, span }) => {
                  const part = clip(span, line.bounds);
                  if (!part) return null;
                  const own = entry.id === selected;
                  return (
                    <button
                      key={`${entry.id} ${span.start}`}
                      type="button"
                      tabIndex={-1}
                      onClick={() => onSelect(entry.id)}
                      onPointerDown={(event) => {
                        // A touch keeps its pointer otherwise, and no other part would notice it.
                        event.currentTarget.releasePointerCapture(event.pointerId);
                        swept.current = new Set([entry.id]);
                      }}
                      onPointerEnter={() => sweep(entry.id)}
                      title={nameOf(entry).slice(0, 200)}
                      aria-label={`Show ${nameOf(entry).slice(0, 80)}`}
                      style={place(part, line)}
                      className={`absolute top-[2px] h-[10px] min-w-[2px] border-r border-sheet bg-time ${own ? 'outline-2 outline-money' : 'opacity-90 hover:opacity-100'}`}
                    />
                  );
                })}
                {runningPart && (
                  <span style={place(runningPart, line)} className="absolute top-[2px] h-[10px] min-w-[2px] bg-money" />
                )}
              </div>
              <span className={`text-right ${minutes ? 'text-time' : 'text-soft'}`}>{minutes || ''}</span>
            </div>
          );
        })}
      </div>
      <div className="mt-3 flex gap-4 text-xs text-soft">
        <span className="flex items-center gap-2">
          <span aria-hidden className="size-2.5 rounded-[2px] bg-time" /> recorded
        </span>
        {loose.length > 0 && (
          <span className="flex items-center gap-2">
            <span aria-hidden className="hatched size-2.5 rounded-[2px] text-strong" /> not accounted for
          </span>
        )}
        {running && (
          <span className="flex items-center gap-2">
            <span aria-hidden className="size-2.5 rounded-[2px] bg-money" /> running
          </span>
        )}
      </div>
    </figure>
  );
}
