import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { clockSlice } from './clock';
import { noticesSlice } from './notices';
import { remembered, remembering } from './remember';
import { shellSlice } from './shell';
import { weekRowsSlice } from './week-rows';

const { theme, weekRows, known } = remembered();

/** What is not a record. Records live in the database and reach components through live queries. */
export const store = configureStore({
  preloadedState: { shell: { ...shellSlice.getInitialState(), theme, known }, weekRows },
  middleware: (standard) => standard().concat(remembering),
  reducer: {
    clock: clockSlice.reducer,
    notices: noticesSlice.reducer,
    shell: shellSlice.reducer,
    weekRows: weekRowsSlice.reducer,
  },
});

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
