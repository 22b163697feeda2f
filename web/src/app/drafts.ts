import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { LineSpec } from '@lucky-needle/core/model';

interface LineDraft {
  readonly past: LineSpec[];
  readonly present: LineSpec;
  readonly future: LineSpec[];
}

/** Lines being changed, by gadget and channel, each with its undo history. Kept until saved or discarded. */
export type Drafts = Record<string, LineDraft>;

export const draftKey = (gadgetId: string, channelId: string) => `${gadgetId}/${channelId}`;

const HISTORY = 100;

export const draftsSlice = createSlice({
  name: 'drafts',
  initialState: {} as Drafts,
  reducers: {
    lineChanged(state, { payload }: PayloadAction<{ key: string; saved: LineSpec; line: LineSpec }>) {
      const draft = state[payload.key];
      const past = draft ? [...draft.past, draft.present].slice(-HISTORY) : [payload.saved];
      state[payload.key] = { past, present: payload.line, future: [] };
    },
    lineUndone(state, { payload: key }: PayloadAction<string>) {
      const draft = state[key];
      const present = draft?.past.at(-1);
      if (!draft || !present) return;
      state[key] = { past: draft.past.slice(0, -1), present, future: [draft.present, ...draft.future] };
    },
    lineRedone(state, { payload: key }: PayloadAction<string>) {
      const draft = state[key];
      const present = draft?.future[0];
      if (!draft || !present) return;
      state[key] = { past: [...draft.past, draft.present], present, future: draft.future.slice(1) };
    },
    lineSettled(state, { payload: key }: PayloadAction<string>) {
      delete state[key];
    },
  },
});

export const { lineChanged, lineUndone, lineRedone, lineSettled } = draftsSlice.actions;
