import type { Pricer } from '@half-penny/core/billing';
import { outcomeOf } from '@half-penny/core/capture';
import { showOutcome } from '../evidence';

/** What a job's key is called. */
export function nameOfKey(pricer: Pricer, key: string): string {
  const outcome = outcomeOf(key);
  return outcome ? showOutcome(pricer, outcome) : 'Not placed yet';
}

/** What a thing to narrow by is called: a project, or what there is besides. */
export function nameOfNarrow(pricer: Pricer, key: string): string {
  return (
    pricer.project.get(key)?.name ?? (key.startsWith('[') ? nameOfKey(pricer, key) : NARROW[key]) ?? 'Another studio’s'
  );
}

const NARROW: Record<string, string> = {
  'not placed': 'Not placed yet',
  'not work': 'Not work',
  never: 'Never recorded',
};

/** How a job's time is drawn: in its swatch, hatched where it is not placed yet, pale where it is no work. */
export function lookOfKey(pricer: Pricer, key: string): { className: string; style: { background?: string } } {
  const outcome = outcomeOf(key);
  if (!outcome) return { className: key === 'not placed' ? 'hatched text-soft' : 'bg-strong', style: {} };
  const project = outcome.act === 'place' && outcome.projectId ? pricer.project.get(outcome.projectId) : undefined;
  return project
    ? { className: '', style: { background: `var(--job-${project.colour})` } }
    : { className: 'bg-strong', style: {} };
}
