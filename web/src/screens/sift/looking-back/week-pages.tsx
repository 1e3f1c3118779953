import type { Pricer } from '@half-penny/core/billing';
import type { PageInSmall } from '@half-penny/core/capture';
import { boundsOfDay, clip, clockOf, minuteOf, weekdayOf, type Zone } from '@half-penny/core/time';
import { useDraggable } from '@dnd-kit/core';
import { Link } from 'react-router';
import { showShortDay } from '../../../parts/days';
import { minutesOf } from '../evidence';
import { lookOfKey, nameOfKey } from './outcome-look';
import { WEEKDAYS } from './weekdays';

const HOUR_MS = 3_600_000;
const QUIET = { from: 8, to: 18 };

interface WeekPagesProps {
  pricer: Pricer;
  zone: Zone;
  pages: readonly PageInSmall[];
}

/** The last days of a period as hour pages in small, all over the same hours, each with how it was shared by job. */
export function WeekPages({ pricer, zone, pages }: WeekPagesProps) {
  const hours = pages.flatMap(({ spans }) =>
    spans.flatMap(({ start, end }) => [
      Math.floor(minuteOf(start, zone) / 60),
      Math.ceil(minuteOf(end - 1, zone) / 60),
    ]),
  );
  const from = Math.min(QUIET.from, ...hours);
  const to = Math.max(QUIET.to, ...hours);
  return (
    <div className="mb-6 overflow-x-auto">
      <ol aria-label="Days in small" className="flex min-w-max gap-3 border-y border-ink border-b-rule py-2 lg:min-w-0">
        {pages.map((page) => (
          <li key={page.day} className="w-36 min-w-0 lg:w-auto lg:flex-1">
            <Link
              to={`/sift/day?day=${page.day}`}
              className="flex items-baseline justify-between gap-2 text-xs hover:underline"
              title={`Sift ${showShortDay(page.day)}`}
            >
              <span className="font-semibold">
                {WEEKDAYS[weekdayOf(page.day) - 1]} {Number(page.day.slice(8))}
              </span>
              <span className={`font-mono ${page.seen > 0 ? 'text-time' : 'text-soft'}`}>
                {page.seen > 0 ? minutesOf(page.seen) : '–'}
              </span>
            </Link>
            <SmallPage {...{ pricer, zone, page, from, to }} />
            <DayShare {...{ pricer, page }} />
          </li>
        ))}
      </ol>
    </div>
  );
}

interface SmallPageProps {
  pricer: Pricer;
  zone: Zone;
  page: PageInSmall;
  /** The wall-clock hours drawn. */
  from: number;
  to: number;
}

function SmallPage({ pricer, zone, page, from, to }: SmallPageProps) {
  const whole = boundsOfDay(page.day, zone);
  const lines: { hour: number; start: number }[] = [];
  for (let start = whole.start; start < whole.end; start += HOUR_MS) {
    const hour = Math.floor(minuteOf(start, zone) / 60);
    if (hour >= from && hour < to) lines.push({ hour, start });
  }
  return (
    <div className="my-1 flex flex-col">
      {lines.map(({ hour, start }) => (
        <div key={start} className="relative h-[9px] border-b border-rule" title={clockOf(hour * 60)}>
          {page.spans.map((span) => {
            const part = clip(span, { start, end: start + HOUR_MS });
            if (!part) return null;
            const left = ((part.start - start) / HOUR_MS) * 100;
            const width = ((part.end - part.start) / HOUR_MS) * 100;
            return <Piece key={`${span.id} ${span.start}`} {...{ pricer, span, left, width, day: page.day }} />;
          })}
        </div>
      ))}
    </div>
  );
}

interface PieceProps {
  pricer: Pricer;
  span: PageInSmall['spans'][number];
  day: string;
  left: number;
  width: number;
}

/** A piece of a stretch: what is not placed yet can be dragged onto a job. */
function Piece({ pricer, span, day, left, width }: PieceProps) {
  const isLoose = span.job === 'not placed';
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: `stretch ${span.id} ${span.start} ${left}`,
    data: { kind: 'stretch', id: span.id, day, name: 'a stretch' },
    disabled: !isLoose,
  });
  const { className, style } = lookOfKey(pricer, span.job);
  return (
    <span
      ref={setNodeRef}
      {...listeners}
      title={nameOfKey(pricer, span.job)}
      className={`absolute top-[1px] h-[7px] min-w-px touch-none ${className} ${isLoose ? 'cursor-grab' : ''} ${isDragging ? 'outline-2 outline-money' : ''}`}
      style={{ ...style, left: `${left}%`, width: `${width}%` }}
    />
  );
}

/** A day as one bar, shared by job. */
function DayShare({ pricer, page }: { pricer: Pricer; page: PageInSmall }) {
  const said = page.jobs.map(({ key, seen }) => `${nameOfKey(pricer, key)} ${minutesOf(seen)}`).join(', ');
  return (
    <div role="img" aria-label={said || 'nothing seen'} title={said} className="flex h-2 bg-paper">
      {page.jobs.map(({ key, seen }) => {
        const { className, style } = lookOfKey(pricer, key);
        return (
          <span
            key={key}
            className={`h-full border-r border-sheet ${className}`}
            style={{ ...style, width: `${(seen / page.seen) * 100}%` }}
          />
        );
      })}
    </div>
  );
}
