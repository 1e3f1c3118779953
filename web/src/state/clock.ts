import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** The time as the screens see it: ticks each second, so that everything running agrees. */
export const clockSlice = createSlice({
  name: 'clock',
  initialState: { now: Date.now() },
  reducers: { ticked: (state, { payload }: PayloadAction<number>) => void (state.now = payload) },
});
export const { ticked } = clockSlice.actions;
