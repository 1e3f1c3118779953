import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export const themes = ['system', 'light', 'dark'] as const;
export type Theme = (typeof themes)[number];
const THEME_KEY = 'half-penny-theme';

/** How the application looks and which of its own windows are open. */
export const shellSlice = createSlice({
  name: 'shell',
  initialState: { theme: (localStorage.getItem(THEME_KEY) ?? 'system') as Theme, finderOpen: false, tillOpen: false },
  reducers: {
    themeChosen: (state, { payload }: PayloadAction<Theme>) => void (state.theme = payload),
    finderOpened: (state, { payload }: PayloadAction<boolean>) => void (state.finderOpen = payload),
    tillOpened: (state, { payload }: PayloadAction<boolean>) => void (state.tillOpen = payload),
  },
});
export const { themeChosen, finderOpened, tillOpened } = shellSlice.actions;

/** Paints the page in a theme and remembers it. */
export function applyTheme(theme: Theme): void {
  if (theme === 'system') localStorage.removeItem(THEME_KEY);
  else localStorage.setItem(THEME_KEY, theme);
  const dark = theme === 'dark' || (theme === 'system' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.dataset.theme = dark ? 'dark' : 'light';
}
