import { combineSlices, configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api';
import { sessionSlice } from './session';

/** Slices that come with the screens that need them. */
// biome-ignore lint/suspicious/noEmptyInterface: each of those screens adds its own
export interface LazySlices {}

/** The state of the studio: what the server said, and what the open screens have loaded. */
export const rootReducer = combineSlices(api, sessionSlice).withLazyLoadedSlices<LazySlices>();

export const store = configureStore({ reducer: rootReducer, middleware: (defaults) => defaults().concat(api.middleware) });

export type RootState = ReturnType<typeof rootReducer>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
