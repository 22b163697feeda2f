import type { TrialNote, TrialNoteBody, TrialRule, TrialsAnswer, WatchSpec } from '@lucky-needle/core/model';
import { api } from './api.ts';

interface TrialsOf {
  readonly gadgetId: string;
  /** Null for the one that is kept. */
  readonly rule: TrialRule | null;
  /** What counts, where it is tried otherwise than it is stored. */
  readonly watches?: readonly WatchSpec[] | undefined;
}

/** Trials of a gadget's runs: they change with its lines, calibrations and runs. */
const trialApi = api.injectEndpoints({
  endpoints: (build) => ({
    trials: build.query<TrialsAnswer, TrialsOf>({
      query: ({ gadgetId, rule, watches }) => ({
        url: `/gadgets/${gadgetId}/trials`,
        method: 'POST',
        body: watches ? { rule, watches } : { rule },
      }),
      providesTags: ['gadget', 'calibrations', 'recordings'],
    }),
    keepRule: build.mutation<TrialRule, { gadgetId: string; rule: TrialRule }>({
      query: ({ gadgetId, rule }) => ({ url: `/gadgets/${gadgetId}/trial-rule`, method: 'PUT', body: rule }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    noteTrial: build.mutation<TrialNote, { recordingId: string; body: TrialNoteBody }>({
      query: ({ recordingId, body }) => ({
        url: `/recordings/${recordingId}/trial-note`,
        method: 'PUT',
        body,
      }),
      invalidatesTags: ['recordings'],
    }),
  }),
});

export const { useTrialsQuery, useKeepRuleMutation, useNoteTrialMutation } = trialApi;
