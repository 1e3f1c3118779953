import type { Job } from '@half-penny/core/entries';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

const KEY = 'half-penny-week-rows';
const MOST_WEEKS = 30;

/** Jobs that a member has put into a week before anything is recorded on them, by member and first day. */
type KeptRows = Record<string, Job[]>;

function load(): KeptRows {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as KeptRows;
  } catch {
    return {};
  }
}

export const weekRowsSlice = createSlice({
  name: 'weekRows',
  initialState: load,
  reducers: {
    rowsKept(state, { payload }: PayloadAction<{ week: string; jobs: Job[] }>) {
      const { [payload.week]: _before, ...others } = state;
      const kept = Object.fromEntries([...Object.entries(others).slice(1 - MOST_WEEKS), [payload.week, payload.jobs]]);
      localStorage.setItem(KEY, JSON.stringify(kept));
      return kept;
    },
  },
});
export const { rowsKept } = weekRowsSlice.actions;
