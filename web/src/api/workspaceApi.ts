import type { DiskState } from '@lucky-needle/core/model';
import { api, TAGS } from './api.ts';

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
    disk: build.query<DiskState, void>({ query: () => '/disk', providesTags: ['recordings'] }),
  }),
});

export const { useRestoreWorkspaceMutation, useBringBackMutation, useDiskQuery } = workspaceApi;
