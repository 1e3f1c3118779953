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
import { runKey } from './keys';

const looks = {
  recorded: { name: 'recorded', ground: 'bg-time' },
  placed: { name: 'placed', ground: 'bg-time' },
  loose: { name: 'loose', ground: 'hatched text-soft' },
  away: { name: 'away', ground: 'bg-strong' },
  gap: { name: 'not accounted for', ground: 'hatched text-strong' },
  running: { name: 'running', ground: 'in-motion text-time' },
} as const;

/** A time on the page. One with an id can be pressed and swept over. */
export interface HourPart {
  id: string | null;
  span: Interval;
  look: keyof typeof looks;
  name: string;
}

interface HourPageProps {
  day: Day;
  zone: Zone;
  parts: readonly HourPart[];
  selected: string | null;
  onSelect: (id: string) => void;
  /** Walking over them with keys shows them, and the focus stays here. */
  onWalk?: (id: string) => void;
  /** Sweeping over parts with the pointer held down selects all of them. */
  onSelectMany?: (ids: string[]) => void;
  /** Where it is worked with, and not only looked at. */
  large?: boolean;
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

const keyOf = ({ id, span }: { id: string; span: Interval }): string => `${id} ${span.start}`;

/** A day as ruled lines, one an hour, minutes left to right, minutes with something in them at the end of each.
 * One piece is in the order of the tab key; from there arrows go from piece to piece, and with Shift select. */
export function HourPage({
  day,
  zone,
  parts,
  selected,
  onSelect,
  onWalk = onSelect,
  onSelectMany,
  large = false,
}: HourPageProps) {
  const swept = useRef<Set<string> | null>(null);
  const sweep = (id: string) => {
    swept.current?.add(id);
    if (swept.current && swept.current.size > 1) onSelectMany?.([...swept.current]);
  };
  const pieces = useRef(new Map<string, HTMLButtonElement>());
  const anchor = useRef<number | null>(null);
  const order = parts
    .filter((part): part is HourPart & { id: string } => part.id !== null)
    .toSorted((a, b) => a.span.start - b.span.start);
  const at = Math.max(
    0,
    order.findIndex(({ id }) => id === selected),
  );
  const walk = (step: number, extend: boolean) => {
    const next = Math.min(order.length - 1, Math.max(0, at + step));
    const piece = order[next];
    if (!piece) return;
    anchor.current = extend ? (anchor.current ?? at) : null;
    onWalk(piece.id);
    if (anchor.current !== null) {
      const [first, last] = [Math.min(anchor.current, next), Math.max(anchor.current, next)];
      onSelectMany?.([...new Set(order.slice(first, last + 1).map(({ id }) => id))]);
    }
    pieces.current.get(keyOf(piece))?.focus();
  };
  const keys = {
    'page.next': () => walk(1, false),
    'page.before': () => walk(-1, false),
    'page.selectNext': () => walk(1, true),
    'page.selectBefore': () => walk(-1, true),
  };
  const counted = parts.filter(({ look }) => look !== 'gap' && look !== 'away').map(({ span }) => span);
  const shown = [...new Set(parts.map((part) => part.look))];
  const tall = large ? 'h-[16px]' : 'h-[10px]';
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
        onKeyDown={(event) => runKey(event, keys)}
      >
        {linesOf(day, zone, counted).map((line) => {
          const minutes = Math.round(
            covered(counted.map((each) => clip(each, line.bounds)).filter((each) => each !== null)) / 60_000,
          );
          return (
            <div key={line.bounds.start} className="grid grid-cols-[26px_1fr_26px] items-center">
              <span className="text-soft">{line.label}</span>
              <div className={`relative border-b border-strong ${large ? 'h-[20px]' : 'h-[14px]'}`}>
                {parts.map(({ id, span, look, name }) => {
                  const part = clip(span, line.bounds);
                  if (!part) return null;
                  const style = place(part, line);
                  const { ground } = looks[look];
                  if (id === null)
                    return (
                      <span
                        key={`${look} ${span.start}`}
                        style={style}
                        title={name}
                        className={`absolute top-[2px] min-w-[2px] ${tall} ${ground}`}
                      />
                    );
                  return (
                    <button
                      key={`${id} ${span.start}`}
                      ref={(node) => {
                        // A piece over a full hour is drawn twice: the first of it has the focus.
                        if (node && part.start === span.start) pieces.current.set(keyOf({ id, span }), node);
                      }}
                      type="button"
                      tabIndex={order[at]?.id === id && part.start === span.start ? 0 : -1}
                      onClick={() => onSelect(id)}
                      onPointerDown={(event) => {
                        // A touch keeps its pointer otherwise, and no other part would notice it.
                        event.currentTarget.releasePointerCapture(event.pointerId);
                        swept.current = new Set([id]);
                      }}
                      onPointerEnter={() => sweep(id)}
                      title={name.slice(0, 200)}
                      aria-label={`Show ${name.slice(0, 80)}`}
                      style={style}
                      className={`absolute top-[2px] min-w-[2px] ${tall} border-r border-sheet ${ground} ${id === selected ? 'outline-2 outline-money' : 'opacity-90 hover:opacity-100'}`}
                    />
                  );
                })}
              </div>
              <span className={`text-right ${minutes ? 'text-time' : 'text-soft'}`}>{minutes || ''}</span>
            </div>
          );
        })}
      </div>
      <div className="mt-3 flex flex-wrap gap-x-4 gap-y-1 text-xs text-soft">
        {shown.map((look) => (
          <span key={look} className="flex items-center gap-2">
            <span aria-hidden className={`size-2.5 rounded-[2px] ${looks[look].ground}`} /> {looks[look].name}
          </span>
        ))}
      </div>
    </figure>
  );
}
