import type { ImportBody, Job, UploadFor } from '@lucky-needle/core/model';
import { api } from './api.ts';

/** Files that come in, and how far that is. */
export const importApi = api.injectEndpoints({
  endpoints: (build) => ({
    upload: build.mutation<UploadFor, { gadgetId: string; file: File }>({
      query: ({ gadgetId, file }) => ({
        url: `/gadgets/${gadgetId}/uploads?name=${encodeURIComponent(file.name.slice(0, 80))}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    }),
    discardUpload: build.mutation<void, string>({
      query: (id) => ({ url: `/uploads/${id}`, method: 'DELETE' }),
    }),
    importUpload: build.mutation<Job, { id: string; body: ImportBody }>({
      query: ({ id, body }) => ({ url: `/uploads/${id}/import`, method: 'POST', body }),
    }),
    job: build.query<Job, string>({ query: (id) => `/jobs/${id}` }),
    cancelJob: build.mutation<Job, string>({
      query: (id) => ({ url: `/jobs/${id}/cancel`, method: 'POST' }),
    }),
  }),
});

export const {
  useUploadMutation,
  useDiscardUploadMutation,
  useImportUploadMutation,
  useJobQuery,
  useCancelJobMutation,
} = importApi;
