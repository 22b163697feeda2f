import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from '../api/api.ts';
import { draftsSlice } from './drafts.ts';
import { toastsSlice } from './toasts.ts';

export const createStore = () =>
  configureStore({
    reducer: { [api.reducerPath]: api.reducer, drafts: draftsSlice.reducer, toasts: toastsSlice.reducer },
    middleware: (getDefault) => getDefault().concat(api.middleware),
  });

export const store = createStore();

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
