import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export const themes = ['system', 'light', 'dark'] as const;
export type Theme = (typeof themes)[number];

/** Where a change was made. */
export type ChangedPlace = 'workspace' | 'trail';

/** How the application looks, which of its own windows are open, and where the last change was made: that is what Ctrl Z takes back. */
export const shellSlice = createSlice({
  name: 'shell',
  initialState: {
    theme: 'system' as Theme,
    finderOpen: false,
    tillOpen: false,
    lastChange: 'workspace' as ChangedPlace,
    /** What was explained and need not be again: "demo", or the id of a workspace whose first steps are taken. */
    known: [] as readonly string[],
  },
  reducers: {
    themeChosen: (state, { payload }: PayloadAction<Theme>) => void (state.theme = payload),
    finderOpened: (state, { payload }: PayloadAction<boolean>) => void (state.finderOpen = payload),
    changedIn: (state, { payload }: PayloadAction<ChangedPlace>) => void (state.lastChange = payload),
    understood: (state, { payload }: PayloadAction<string>) => {
      if (!state.known.includes(payload)) state.known = [...state.known, payload];
    },
    tillOpened: (state, { payload }: PayloadAction<boolean>) => void (state.tillOpen = payload),
  },
});
export const { changedIn, themeChosen, finderOpened, tillOpened, understood } = shellSlice.actions;

/** Paints the page in a theme. */
export function applyTheme(theme: Theme): void {
  const dark = theme === 'dark' || (theme === 'system' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.dataset.theme = dark ? 'dark' : 'light';
}
