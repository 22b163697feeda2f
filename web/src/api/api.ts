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
  'studies',
] as const;

type Tag = (typeof TAGS)[number];

/** What changes on the server concern: itself, and the logbook that notes it. */
export function tagsOf(what: string): Tag[] {
  const tag = TAGS.find((t) => t === what);
  // Another workspace, or something newer than this page: all of it may be other.
  if (!tag) return [...TAGS];
  return tag === 'logbook' ? ['logbook'] : [tag, 'logbook'];
}

const ask = fetchBaseQuery({ baseUrl: '/api' });

/** A server that was started anew asks for its passphrase again: by its own page, which stands at every address. */
const baseQuery: typeof ask = async (args, store, extra) => {
  const answer = await ask(args, store, extra);
  if (answer.error?.status === 401) window.location.reload();
  return answer;
};

/** What is asked of the server; each topic adds its own in a file beside this one. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery,
  tagTypes: TAGS,
  endpoints: () => ({}),
});
