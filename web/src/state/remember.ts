import type { Middleware } from '@reduxjs/toolkit';
import { themes, type Theme } from './shell';
import type { KeptRows } from './week-rows';

// What of the state outlives the tab, and where it is kept: nothing else of it reads or writes the browser's storage.

const THEME = 'half-penny-theme';
const WEEK_ROWS = 'half-penny-week-rows';

interface Remembered {
  theme: Theme;
  weekRows: KeptRows;
}

/** What was kept, as far as it can be read. */
export function remembered(): Remembered {
  const theme = themes.find((each) => each === localStorage.getItem(THEME)) ?? 'system';
  try {
    return { theme, weekRows: JSON.parse(localStorage.getItem(WEEK_ROWS) ?? '{}') as KeptRows };
  } catch {
    return { theme, weekRows: {} };
  }
}

/** Keeps what became different by an action. Without room for it, it holds as long as the tab does. */
export const remembering: Middleware<object, { shell: { theme: Theme }; weekRows: KeptRows }> =
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
      if (weekRows !== before.weekRows) localStorage.setItem(WEEK_ROWS, JSON.stringify(weekRows));
    } catch {
      // See above.
    }
    return result;
  };
