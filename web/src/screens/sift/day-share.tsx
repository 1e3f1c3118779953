import type { Pricer } from '@half-penny/core/billing';
import { showLength } from '@half-penny/core/time';
import type { StretchLine } from './acts';
import { showOutcome } from './evidence';

interface Share {
  key: string;
  name: string;
  seen: number;
  ground: string;
  /** Offered and not placed: drawn lighter. */
  offered: boolean;
}

const MOST = 8;

/** How the time of a day, or of several, is shared over jobs: one line at the head, with its names and lengths below. */
export function DayShare({ pricer, lines }: { pricer: Pricer; lines: readonly StretchLine[] }) {
  const shares = sharesOf(pricer, lines);
  const whole = shares.reduce((sum, each) => sum + each.seen, 0);
  if (whole === 0) return null;
  const words = (each: Share) => `${each.name}${each.offered ? ', as offered' : ''} ${lengthOf(each.seen)}`;
  return (
    <figure className="mb-3" aria-label={`The time by job: ${shares.map(words).join('; ')}`}>
      <div className="flex h-2.5 gap-px" aria-hidden>
        {shares.map((each) => (
          <span
            key={each.key}
            title={words(each)}
            className={each.ground ? '' : 'hatched text-soft'}
            style={{
              flexGrow: each.seen,
              ...(each.ground ? { background: each.ground, opacity: each.offered ? 0.45 : 1 } : {}),
            }}
          />
        ))}
      </div>
      <figcaption className="mt-1 flex flex-wrap gap-x-4 text-xs text-soft" aria-hidden>
        {shares.slice(0, MOST).map((each) => (
          <span key={each.key} className="inline-flex items-center gap-1.5">
            <span
              className={`size-2 ${each.ground ? '' : 'hatched'}`}
              style={each.ground ? { background: each.ground, opacity: each.offered ? 0.45 : 1 } : undefined}
            />
            <span className={each.offered ? 'italic' : ''}>{each.name}</span>
            <span className="font-mono">{lengthOf(each.seen)}</span>
          </span>
        ))}
      </figcaption>
    </figure>
  );
}

const lengthOf = (ms: number) => showLength(Math.round(ms / 60_000) * 60);

function sharesOf(pricer: Pricer, lines: readonly StretchLine[]): Share[] {
  const shares = new Map<string, Share>();
  for (const { row } of lines) {
    const { outcome } = row.stretch;
    const meant = outcome ?? row.offer?.outcome ?? null;
    const offered = outcome === null && meant !== null;
    const name = meant ? showOutcome(pricer, meant) : 'Loose, like nothing yet';
    const key = `${name} ${offered}`;
    const before = shares.get(key);
    const project = meant?.act === 'place' && meant.projectId ? pricer.project.get(meant.projectId) : undefined;
    const ground = project ? `var(--job-${project.colour})` : meant ? 'var(--control)' : '';
    shares.set(key, { key, name, ground, offered, seen: (before?.seen ?? 0) + row.stretch.seen });
  }
  return [...shares.values()].sort((a, b) => Number(a.offered) - Number(b.offered) || b.seen - a.seen);
}
