import type { JoinBody, NewMarker, Recording, RecordingPatch } from '@lucky-needle/core/model';
import { api, type Listed } from './api.ts';

/** Recordings: made, cut, joined, marked. */
const runApi = api.injectEndpoints({
  endpoints: (build) => ({
    recordings: build.query<Listed<Recording>, string>({
      query: (id) => `/gadgets/${id}/recordings?limit=200`,
      providesTags: ['recordings'],
    }),
    startRecording: build.mutation<Recording, { gadgetId: string; name: string }>({
      query: ({ gadgetId, name }) => ({
        url: `/gadgets/${gadgetId}/recordings`,
        method: 'POST',
        body: { name },
      }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    stopRecording: build.mutation<Recording, string>({
      query: (id) => ({ url: `/recordings/${id}/stop`, method: 'POST' }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    patchRecording: build.mutation<Recording, { id: string; patch: RecordingPatch }>({
      query: ({ id, patch }) => ({ url: `/recordings/${id}`, method: 'PATCH', body: patch }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    trimRun: build.mutation<Recording, { id: string; keep: { fromS: number; toS: number } | null }>({
      query: ({ id, keep }) => ({ url: `/recordings/${id}/trim`, method: 'POST', body: { keep } }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    splitRun: build.mutation<{ items: Recording[] }, { id: string; atS: number }>({
      query: ({ id, atS }) => ({ url: `/recordings/${id}/split`, method: 'POST', body: { atS } }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    joinRuns: build.mutation<Recording, { gadgetId: string; body: JoinBody }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/recordings/join`, method: 'POST', body }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    markRun: build.mutation<Recording, { id: string; marker: NewMarker }>({
      query: ({ id, marker }) => ({ url: `/recordings/${id}/markers`, method: 'POST', body: marker }),
      invalidatesTags: ['recordings'],
    }),
    unmarkRun: build.mutation<Recording, { id: string; markerId: string }>({
      query: ({ id, markerId }) => ({ url: `/recordings/${id}/markers/${markerId}`, method: 'DELETE' }),
      invalidatesTags: ['recordings'],
    }),
    deleteRun: build.mutation<void, string>({
      query: (id) => ({ url: `/recordings/${id}`, method: 'DELETE' }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    restoreRun: build.mutation<Recording, string>({
      query: (id) => ({ url: `/recordings/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
  }),
});

export const {
  useRecordingsQuery,
  useStartRecordingMutation,
  useStopRecordingMutation,
  usePatchRecordingMutation,
  useTrimRunMutation,
  useSplitRunMutation,
  useJoinRunsMutation,
  useMarkRunMutation,
  useUnmarkRunMutation,
  useDeleteRunMutation,
  useRestoreRunMutation,
} = runApi;
