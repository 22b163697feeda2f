import type { Link, LinkLines, LinkPatch, MadeLink, NewLink } from '@lucky-needle/core/model';
import { api } from './api.ts';

/** The link of a gadget. */
const linkApi = api.injectEndpoints({
  endpoints: (build) => ({
    link: build.query<Link | null, string>({
      query: (id) => `/gadgets/${id}/link`,
      providesTags: ['link'],
    }),
    makeLink: build.mutation<MadeLink, { gadgetId: string; body: NewLink }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/link`, method: 'POST', body }),
      invalidatesTags: ['link', 'logbook'],
    }),
    patchLink: build.mutation<Link, { gadgetId: string; patch: LinkPatch }>({
      query: ({ gadgetId, patch }) => ({ url: `/gadgets/${gadgetId}/link`, method: 'PATCH', body: patch }),
      invalidatesTags: ['link'],
    }),
    removeLink: build.mutation<void, string>({
      query: (gadgetId) => ({ url: `/gadgets/${gadgetId}/link`, method: 'DELETE' }),
      invalidatesTags: (_r, error) => (error ? [] : ['link', 'logbook']),
    }),
    renewToken: build.mutation<MadeLink, string>({
      query: (gadgetId) => ({ url: `/gadgets/${gadgetId}/link/token`, method: 'POST' }),
      invalidatesTags: ['logbook'],
    }),
    linkLines: build.query<LinkLines, string>({
      query: (gadgetId) => `/gadgets/${gadgetId}/link/lines`,
      providesTags: ['link'],
    }),
    broker: build.query<{ address: string }, void>({ query: () => '/broker' }),
  }),
});

export const {
  useLinkQuery,
  useMakeLinkMutation,
  usePatchLinkMutation,
  useRemoveLinkMutation,
  useRenewTokenMutation,
  useLinkLinesQuery,
  useBrokerQuery,
} = linkApi;
