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
] as const;

/** What is asked of the server; each topic adds its own in a file beside this one. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api' }),
  tagTypes: TAGS,
  endpoints: () => ({}),
});
