import type { RunPlan, RunPlanAnswer } from '@lucky-needle/core/model';
import { api } from './api.ts';

/** When runs of a gadget begin and end by themselves. */
const runPlanApi = api.injectEndpoints({
  endpoints: (build) => ({
    runPlan: build.query<RunPlanAnswer, string>({
      query: (gadgetId) => `/gadgets/${gadgetId}/run-plan`,
      providesTags: ['recordings'],
    }),
    planRuns: build.mutation<RunPlan, { gadgetId: string; plan: RunPlan }>({
      query: ({ gadgetId, plan }) => ({ url: `/gadgets/${gadgetId}/run-plan`, method: 'PUT', body: plan }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    planNoRuns: build.mutation<void, string>({
      query: (gadgetId) => ({ url: `/gadgets/${gadgetId}/run-plan`, method: 'DELETE' }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
  }),
});

export const { useRunPlanQuery, usePlanRunsMutation, usePlanNoRunsMutation } = runPlanApi;
