// @vitest-environment jsdom
import { configureStore } from '@reduxjs/toolkit';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { remembered, remembering } from './remember';
import { finderOpened, shellSlice, themeChosen, understood } from './shell';
import { rowsKept, weekRowsSlice } from './week-rows';

const storeOf = () => {
  const { theme, weekRows, known } = remembered();
  return configureStore({
    reducer: { shell: shellSlice.reducer, weekRows: weekRowsSlice.reducer },
    preloadedState: { shell: { ...shellSlice.getInitialState(), theme, known }, weekRows },
    middleware: (standard) => standard().concat(remembering),
  });
};
const job = { projectId: 'p', taskId: null, unlisted: '' } as never;

describe('what outlives the tab', () => {
  beforeEach(() => localStorage.clear());

  it('is the theme, the rows put into a week and what was explained, and nothing else', () => {
    const store = storeOf();
    store.dispatch(finderOpened(true));
    expect(localStorage).toHaveLength(0);
    store.dispatch(themeChosen('dark'));
    store.dispatch(rowsKept({ week: 'imogen 2026-11-09', jobs: [job] }));
    for (const what of ['demo', 'demo', 'a workspace']) store.dispatch(understood(what));
    expect(storeOf().getState()).toMatchObject({
      shell: { theme: 'dark', finderOpen: false, known: ['demo', 'a workspace'] },
      weekRows: { 'imogen 2026-11-09': [job] },
    });
    store.dispatch(themeChosen('system'));
    expect(localStorage.getItem('half-penny-theme')).toBeNull();
  });

  it('begins as new where what was kept cannot be read', () => {
    localStorage.setItem('half-penny-theme', 'plaid');
    localStorage.setItem('half-penny-week-rows', '{broken');
    localStorage.setItem('half-penny-known', '{"demo": true}');
    expect(remembered()).toEqual({ theme: 'system', weekRows: {}, known: [] });
  });

  it('holds as long as the tab where there is no room', () => {
    const store = storeOf();
    const full = vi.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
      throw new Error('QuotaExceededError');
    });
    store.dispatch(themeChosen('dark'));
    full.mockRestore();
    expect(store.getState().shell.theme).toBe('dark');
  });

  it('keeps the latest thirty weeks', () => {
    const store = storeOf();
    for (let week = 1; week <= 32; week++) store.dispatch(rowsKept({ week: `week ${week}`, jobs: [job] }));
    const kept = Object.keys(remembered().weekRows);
    expect(kept).toHaveLength(30);
    expect(kept).not.toContain('week 2');
    expect(kept).toContain('week 32');
  });
});
