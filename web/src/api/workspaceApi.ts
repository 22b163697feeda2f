import type { DamagedRow, DiskState, RestoreProgress } from '@lucky-needle/core/model';
import { api, TAGS, type Listed } from './api.ts';

/** The workspace as a whole. */
const workspaceApi = api.injectEndpoints({
  endpoints: (build) => ({
    restoreWorkspace: build.mutation<{ createdAt: string; setAside: string }, File>({
      query: (file) => ({
        url: '/workspace/restore',
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/zip' },
      }),
      invalidatesTags: [...TAGS],
    }),
    bringBack: build.mutation<void, void>({
      query: () => ({ url: '/workspace/bring-back', method: 'POST' }),
      invalidatesTags: [...TAGS],
    }),
    restoreProgress: build.query<RestoreProgress, void>({ query: () => '/workspace/restore' }),
    damaged: build.query<DamagedRow[], void>({
      query: () => '/damaged',
      transformResponse: (listed: Listed<DamagedRow>) => listed.items,
      providesTags: ['damaged'],
    }),
    deleteDamaged: build.mutation<void, Pick<DamagedRow, 'table' | 'id'>>({
      query: ({ table, id }) => ({ url: `/damaged/${table}/${encodeURIComponent(id)}`, method: 'DELETE' }),
      invalidatesTags: [...TAGS],
    }),
    disk: build.query<DiskState, void>({ query: () => '/disk', providesTags: ['recordings'] }),
  }),
});

export const {
  useRestoreWorkspaceMutation,
  useBringBackMutation,
  useDiskQuery,
  useDamagedQuery,
  useDeleteDamagedMutation,
  useRestoreProgressQuery,
} = workspaceApi;
