import type { Gadget, GadgetPatch, LogEntry, NewGadget } from '@lucky-needle/core/model';
import { api, type Listed } from './api.ts';

/** Gadgets, and the logbook of each. */
const gadgetApi = api.injectEndpoints({
  endpoints: (build) => ({
    gadgets: build.query<Listed<Gadget>, void>({
      query: () => '/gadgets?limit=200',
      providesTags: ['gadget'],
    }),
    gadget: build.query<Gadget, string>({ query: (id) => `/gadgets/${id}`, providesTags: ['gadget'] }),
    createGadget: build.mutation<Gadget, NewGadget>({
      query: (body) => ({ url: '/gadgets', method: 'POST', body }),
      invalidatesTags: ['gadget'],
    }),
    loadMill: build.mutation<Gadget, void>({
      query: () => ({ url: '/mill', method: 'POST' }),
      invalidatesTags: ['gadget'],
    }),
    patchGadget: build.mutation<Gadget, { id: string; version: number; patch: GadgetPatch }>({
      query: ({ id, version, patch }) => ({
        url: `/gadgets/${id}`,
        method: 'PATCH',
        body: patch,
        headers: { 'If-Match': `"${version}"` },
      }),
      // What was answered is what stands now: a press that follows at once is not made on the state before.
      async onQueryStarted({ id }, { dispatch, queryFulfilled }) {
        const answer = await queryFulfilled.catch(() => null);
        if (answer) dispatch(gadgetApi.util.updateQueryData('gadget', id, () => answer.data));
      },
      invalidatesTags: (_r, error) => (error ? [] : ['gadget', 'logbook']),
    }),
    press: build.mutation<{ timeS: number }, { id: string; channelId: string; watchId: string }>({
      query: ({ id, ...body }) => ({ url: `/gadgets/${id}/press`, method: 'POST', body }),
      invalidatesTags: ['recordings'],
    }),
    resetFigures: build.mutation<void, { id: string; channelId: string }>({
      query: ({ id, ...body }) => ({ url: `/gadgets/${id}/reset`, method: 'POST', body }),
    }),
    deleteGadget: build.mutation<void, string>({
      query: (id) => ({ url: `/gadgets/${id}`, method: 'DELETE' }),
      invalidatesTags: ['gadget'],
    }),
    restoreGadget: build.mutation<Gadget, string>({
      query: (id) => ({ url: `/gadgets/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['gadget', 'link'],
    }),
    logbook: build.query<Listed<LogEntry>, string>({
      query: (id) => `/gadgets/${id}/logbook?limit=200`,
      providesTags: ['logbook'],
    }),
    addNote: build.mutation<LogEntry, { gadgetId: string; text: string }>({
      query: ({ gadgetId, text }) => ({
        url: `/gadgets/${gadgetId}/logbook`,
        method: 'POST',
        body: { text },
      }),
      invalidatesTags: ['logbook'],
    }),
  }),
});

export const {
  useGadgetsQuery,
  useGadgetQuery,
  useCreateGadgetMutation,
  useLoadMillMutation,
  usePatchGadgetMutation,
  usePressMutation,
  useResetFiguresMutation,
  useDeleteGadgetMutation,
  useRestoreGadgetMutation,
  useLogbookQuery,
  useAddNoteMutation,
} = gadgetApi;
