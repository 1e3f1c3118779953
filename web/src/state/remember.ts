import type { Middleware } from '@reduxjs/toolkit';
import { themes, type Theme } from './shell';
import type { KeptRows } from './week-rows';

// What of the state outlives the tab, and where it is kept: nothing else of it reads or writes the browser's storage.

const THEME = 'half-penny-theme';
const WEEK_ROWS = 'half-penny-week-rows';
const KNOWN = 'half-penny-known';

interface Remembered {
  theme: Theme;
  weekRows: KeptRows;
  known: readonly string[];
}

function parsed<T>(key: string, otherwise: T): T {
  try {
    return JSON.parse(localStorage.getItem(key) ?? '') as T;
  } catch {
    return otherwise;
  }
}

/** What was kept, as far as it can be read. */
export function remembered(): Remembered {
  const theme = themes.find((each) => each === localStorage.getItem(THEME)) ?? 'system';
  const known = parsed<unknown>(KNOWN, []);
  return {
    theme,
    weekRows: parsed<KeptRows>(WEEK_ROWS, {}),
    known: Array.isArray(known) ? known.filter((each) => typeof each === 'string') : [],
  };
}

/** Keeps what became different by an action. Without room for it, it holds as long as the tab does. */
export const remembering: Middleware<
  object,
  { shell: { theme: Theme; known: readonly string[] }; weekRows: KeptRows }
> =
  ({ getState }) =>
  (next) =>
  (action) => {
    const before = getState();
    const result = next(action);
    const { shell, weekRows } = getState();
    try {
      if (shell.theme !== before.shell.theme) {
        if (shell.theme === 'system') localStorage.removeItem(THEME);
        else localStorage.setItem(THEME, shell.theme);
      }
      if (shell.known !== before.shell.known) localStorage.setItem(KNOWN, JSON.stringify(shell.known));
      if (weekRows !== before.weekRows) localStorage.setItem(WEEK_ROWS, JSON.stringify(weekRows));
    } catch {
      // See above.
    }
    return result;
  };
