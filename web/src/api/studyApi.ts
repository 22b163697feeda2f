import type {
  JudgedStudy,
  NewStudy,
  Study,
  StudyBody,
  StudyPairs,
  StudyPairsBody,
} from '@lucky-needle/core/model';
import { api, type Listed } from './api.ts';

/** Studies and what they come to. What a study reads by changes with the gadget, its calibrations and its runs. */
const studyApi = api.injectEndpoints({
  endpoints: (build) => ({
    studies: build.query<JudgedStudy[], string>({
      query: (gadgetId) => `/gadgets/${gadgetId}/studies`,
      transformResponse: (r: Listed<JudgedStudy>) => r.items,
      providesTags: ['studies', 'gadget', 'calibrations', 'recordings'],
    }),
    beginStudy: build.mutation<JudgedStudy, { gadgetId: string; body: NewStudy }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/studies`, method: 'POST', body }),
      invalidatesTags: ['studies', 'logbook'],
    }),
    keepStudy: build.mutation<JudgedStudy, { study: Pick<Study, 'id' | 'version'>; body: StudyBody }>({
      query: ({ study, body }) => ({
        url: `/studies/${study.id}`,
        method: 'PUT',
        body,
        headers: { 'If-Match': `"${study.version}"` },
      }),
      // Also when it was refused: another page may have kept a newer one.
      invalidatesTags: ['studies', 'logbook'],
    }),
    studyPairs: build.mutation<StudyPairs, { id: string; body: StudyPairsBody }>({
      query: ({ id, body }) => ({ url: `/studies/${id}/pairs`, method: 'POST', body }),
    }),
    deleteStudy: build.mutation<void, string>({
      query: (id) => ({ url: `/studies/${id}`, method: 'DELETE' }),
      invalidatesTags: ['studies', 'logbook'],
    }),
    restoreStudy: build.mutation<JudgedStudy, string>({
      query: (id) => ({ url: `/studies/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['studies', 'logbook'],
    }),
  }),
});

export const {
  useStudiesQuery,
  useBeginStudyMutation,
  useKeepStudyMutation,
  useStudyPairsMutation,
  useDeleteStudyMutation,
  useRestoreStudyMutation,
} = studyApi;
