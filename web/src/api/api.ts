import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';

export interface Listed<T> {
  items: T[];
  total: number;
}

export const TAGS = [
  'gadget',
  'link',
  'points',
  'evidence',
  'calibrations',
  'recordings',
  'logbook',
  'parts',
  'references',
  'damaged',
] as const;

type Tag = (typeof TAGS)[number];

/** What changes on the server concern: itself, and the logbook that notes it. */
export function tagsOf(what: string): Tag[] {
  const tag = TAGS.find((t) => t === what);
  // Another workspace, or something newer than this page: all of it may be other.
  if (!tag) return [...TAGS];
  return tag === 'logbook' ? ['logbook'] : [tag, 'logbook'];
}

/** What is asked of the server; each topic adds its own in a file beside this one. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api' }),
  tagTypes: TAGS,
  endpoints: () => ({}),
});
