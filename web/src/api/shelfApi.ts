import type { NewOwnReference, OwnPart, OwnReference, Part, PartsImported } from '@lucky-needle/core/model';
import { api, type Listed } from './api.ts';

/** Parts and references of the maker’s own. */
export const shelfApi = api.injectEndpoints({
  endpoints: (build) => ({
    ownReferences: build.query<OwnReference[], void>({
      query: () => '/references',
      transformResponse: (r: Listed<OwnReference>) => r.items,
      providesTags: ['references'],
    }),
    addOwnReference: build.mutation<OwnReference, NewOwnReference>({
      query: (body) => ({ url: '/references', method: 'POST', body }),
      invalidatesTags: ['references'],
    }),
    replaceOwnReference: build.mutation<
      OwnReference,
      { id: string; version: number; reference: NewOwnReference }
    >({
      query: ({ id, version, reference }) => ({
        url: `/references/${id}`,
        method: 'PUT',
        body: reference,
        headers: { 'If-Match': `"${version}"` },
      }),
      invalidatesTags: (_r, error) => (error ? [] : ['references']),
    }),
    deleteOwnReference: build.mutation<void, string>({
      query: (id) => ({ url: `/references/${id}`, method: 'DELETE' }),
      invalidatesTags: ['references'],
    }),
    restoreOwnReference: build.mutation<OwnReference, string>({
      query: (id) => ({ url: `/references/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['references'],
    }),
    parts: build.query<OwnPart[], void>({
      query: () => '/parts',
      transformResponse: (r: Listed<OwnPart>) => r.items,
      providesTags: ['parts'],
    }),
    addPart: build.mutation<OwnPart, Part>({
      query: (body) => ({ url: '/parts', method: 'POST', body }),
      invalidatesTags: ['parts'],
    }),
    replacePart: build.mutation<OwnPart, { part: Part; version: number }>({
      query: ({ part, version }) => ({
        url: `/parts/${part.id}`,
        method: 'PUT',
        body: part,
        headers: { 'If-Match': `"${version}"` },
      }),
      invalidatesTags: (_r, error) => (error ? [] : ['parts']),
    }),
    deletePart: build.mutation<void, string>({
      query: (id) => ({ url: `/parts/${id}`, method: 'DELETE' }),
      invalidatesTags: ['parts'],
    }),
    restorePart: build.mutation<OwnPart, string>({
      query: (id) => ({ url: `/parts/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['parts'],
    }),
    importParts: build.mutation<PartsImported, File>({
      query: (file) => ({
        url: `/parts-file?format=${/\.json$/i.test(file.name) ? 'json' : 'csv'}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'text/plain' },
      }),
      invalidatesTags: ['parts'],
    }),
  }),
});

export const {
  useOwnReferencesQuery,
  useAddOwnReferenceMutation,
  useReplaceOwnReferenceMutation,
  useDeleteOwnReferenceMutation,
  useRestoreOwnReferenceMutation,
  usePartsQuery,
  useAddPartMutation,
  useReplacePartMutation,
  useDeletePartMutation,
  useRestorePartMutation,
  useImportPartsMutation,
} = shelfApi;
