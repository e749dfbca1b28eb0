import { combineSlices, configureStore } from '@reduxjs/toolkit';
import { api } from './api.ts';
import { sessionSlice } from './sessionSlice.ts';

/** Slices that come with their feature, which adds its own here. */
// biome-ignore lint/suspicious/noEmptyInterface: features add to it
export interface LazySlices {}

export const rootReducer = combineSlices(api, sessionSlice).withLazyLoadedSlices<LazySlices>();

export const store = configureStore({
  reducer: rootReducer,
  middleware: (defaults) => defaults().concat(api.middleware),
});

export type AppStore = typeof store;
export type RootState = ReturnType<typeof rootReducer>;
export type AppDispatch = typeof store.dispatch;
