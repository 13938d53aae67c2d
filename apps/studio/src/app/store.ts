import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { editorSlice } from '../page/editorSlice';
import { api } from './api';

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, editor: editorSlice.reducer },
  middleware: (defaults) => defaults().concat(api.middleware),
});

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
