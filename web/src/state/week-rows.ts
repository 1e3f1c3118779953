import type { Job } from '@half-penny/core/entries';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

const MOST_WEEKS = 30;

/** Jobs that a member has put into a week before anything is recorded on them, by member and first day. */
export type KeptRows = Record<string, Job[]>;

export const weekRowsSlice = createSlice({
  name: 'weekRows',
  initialState: {} as KeptRows,
  reducers: {
    rowsKept(state, { payload }: PayloadAction<{ week: string; jobs: Job[] }>) {
      const { [payload.week]: _before, ...others } = state;
      return Object.fromEntries([...Object.entries(others).slice(1 - MOST_WEEKS), [payload.week, payload.jobs]]);
    },
  },
});
export const { rowsKept } = weekRowsSlice.actions;
