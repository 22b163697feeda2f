import { createSlice, nanoid, type PayloadAction } from '@reduxjs/toolkit';

export interface Toast {
  readonly id: string;
  readonly text: string;
  readonly tone: 'done' | 'trouble';
  /** Gadget that an "Undo" button brings back. */
  readonly restoreGadgetId?: string;
  /** Part of the maker's own that an "Undo" button brings back. */
  readonly restorePartId?: string;
  /** Reference of the maker's own that an "Undo" button brings back. */
  readonly restoreReferenceId?: string;
  /** Run that an "Undo" button brings back. */
  readonly restoreRunId?: string;
  /** Study that an "Undo" button brings back. */
  readonly restoreStudyId?: string;
}

export const toastsSlice = createSlice({
  name: 'toasts',
  initialState: [] as Toast[],
  reducers: {
    toastShown: {
      prepare: (toast: Omit<Toast, 'id'>) => ({ payload: { ...toast, id: nanoid() } }),
      reducer: (state, { payload }: PayloadAction<Toast>) => [...state.slice(-2), payload],
    },
    toastClosed: (state, { payload }: PayloadAction<string>) => state.filter((t) => t.id !== payload),
  },
});

export const { toastShown, toastClosed } = toastsSlice.actions;
