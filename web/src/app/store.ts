import { configureStore } from '@reduxjs/toolkit';
import { draftSlice } from '../features/processes/draftSlice.ts';
import { api } from './api.ts';
import { sessionSlice } from './sessionSlice.ts';

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, draft: draftSlice.reducer, session: sessionSlice.reducer },
  middleware: (defaults) => defaults().concat(api.middleware),
});

export type AppStore = typeof store;
export type RootState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;
