import type { ProofAnswer } from '@lucky-needle/core/model';
import { api } from './api.ts';

/** What is shown of a gadget's brief. It rests on all that is kept of the gadget, and on what its link sends. */
const proofApi = api.injectEndpoints({
  endpoints: (build) => ({
    proof: build.query<ProofAnswer, string>({
      query: (gadgetId) => `/gadgets/${gadgetId}/proof`,
      providesTags: ['gadget', 'link', 'points', 'calibrations', 'recordings', 'studies', 'parts'],
    }),
  }),
});

export const { useProofQuery } = proofApi;
