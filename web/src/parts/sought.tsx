import { useEffect, type ReactNode } from 'react';
import { useLocation } from 'react-router';

/** What is handed over with a link to a field or setting: its name, as it is written where it stands. */
export interface SettingSought {
  sought: string;
}

/** How long a setting that is read from the database may take to appear, and how often it is looked for. */
const PATIENCE = 3000;
const EVERY = 50;

/**
 * Brings a setting into view and puts the focus on it, as soon as it is there: the field of a label, or the table or
 * fields below a heading. Returns what stops looking.
 */
function toSetting(name: string): () => void {
  const until = performance.now() + PATIENCE;
  const look = () => {
    const named = findNamed(name);
    if (named) {
      named.scrollIntoView({ block: 'center' });
      controlOf(named)?.focus({ preventScroll: true });
    }
    if (named || performance.now() > until) stop();
  };
  const timer = setInterval(look, EVERY);
  const stop = () => clearInterval(timer);
  look();
  return stop;
}

/** A sheet whose fields are led to by links: what was sought has the focus once it is there. */
export function Sought({ children }: { children: ReactNode }) {
  const { state, key } = useLocation();
  const { sought } = (state ?? {}) as Partial<SettingSought>;
  useEffect(() => (sought ? toSetting(sought) : undefined), [sought, key]);
  return <div className="min-w-0">{children}</div>;
}

const NAMES = 'main label, main legend, main h2, main h3, main .setting-name';

const findNamed = (name: string): HTMLElement | undefined =>
  [...document.querySelectorAll<HTMLElement>(NAMES)].find((each) => each.textContent?.trim() === name);

/** What one would press or type in: the labelled field, or the first in the group or section that the name heads. */
function controlOf(named: HTMLElement): HTMLElement | null {
  if (named instanceof HTMLLabelElement && named.control) return named.control;
  const around = named.closest('fieldset, section') ?? named.parentElement;
  return around?.querySelector<HTMLElement>('input, textarea, [role=combobox], [role=grid], button') ?? null;
}
