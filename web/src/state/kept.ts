import { useCallback, useState } from 'react';

// What is half written stays: over screens, days, Escape and a reload, until it is sent or the tab is closed.

const PREFIX = 'half-penny-kept ';

function load<T>(key: string, start: T): T {
  try {
    const text = sessionStorage.getItem(PREFIX + key);
    return text === null ? start : (JSON.parse(text) as T);
  } catch {
    return start;
  }
}

function store(key: string, value: unknown): void {
  try {
    if (value === undefined) sessionStorage.removeItem(PREFIX + key);
    else sessionStorage.setItem(PREFIX + key, JSON.stringify(value));
  } catch {
    // Without room it lives as long as its form.
  }
}

/**
 * State of a form that can be left and come back to.
 *
 * @param key names the form, with the workspace it writes into
 * @returns the state, how it is changed, and how it is forgotten once it was sent
 */
export function useKept<T>(key: string, start: T): [T, (change: (now: T) => T) => void, () => void] {
  const [state, setState] = useState<{ key: string; value: T }>(() => ({ key, value: load(key, start) }));
  // Another form under the same component, such as that of another workspace.
  const value = state.key === key ? state.value : load(key, start);
  const change = useCallback(
    (next: (now: T) => T) =>
      setState((now) => {
        const changed = next(now.key === key ? now.value : load(key, start));
        store(key, changed);
        return { key, value: changed };
      }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what a form begins with is asked once
    [key],
  );
  const forget = useCallback(() => {
    store(key, undefined);
    setState({ key, value: start });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- as above
  }, [key]);
  return [value, change, forget];
}
