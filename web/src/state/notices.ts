import { createSlice, nanoid, type PayloadAction } from '@reduxjs/toolkit';

export interface Notice {
  id: string;
  text: string;
  fault: boolean;
  /** The change that "Undo" on the notice takes back. */
  undo: number | null;
  /** That change was one of the trail. */
  trail?: boolean;
}

const MOST = 3;

/** Short messages after a change or a fault. */
export const noticesSlice = createSlice({
  name: 'notices',
  initialState: [] as Notice[],
  reducers: {
    noticed: {
      prepare: (notice: Omit<Notice, 'id'>) => ({ payload: { ...notice, id: nanoid() } }),
      reducer: (state, { payload }: PayloadAction<Notice>) => [...state, payload].slice(-MOST),
    },
    dismissed: (state, { payload }: PayloadAction<string>) => state.filter((notice) => notice.id !== payload),
  },
});
export const { noticed, dismissed } = noticesSlice.actions;
