import type { AlarmTrialAnswer, AlarmTrialBody, GadgetAlarms } from '@lucky-needle/core/model';
import { api } from './api.ts';

/** What a maker does with alarms that are on; how they stand comes over the live socket. */
const alarmApi = api.injectEndpoints({
  endpoints: (build) => ({
    seeAlarm: build.mutation<GadgetAlarms, { gadgetId: string; ruleId: string }>({
      query: ({ gadgetId, ruleId }) => ({ url: `/gadgets/${gadgetId}/alarms/${ruleId}/see`, method: 'POST' }),
    }),
    tryAlarm: build.query<AlarmTrialAnswer, { recordingId: string; body: AlarmTrialBody }>({
      query: ({ recordingId, body }) => ({
        url: `/recordings/${recordingId}/alarm-trial`,
        method: 'POST',
        body,
      }),
    }),
    silenceAlarms: build.mutation<GadgetAlarms, { gadgetId: string; seconds: number }>({
      query: ({ gadgetId, seconds }) => ({
        url: `/gadgets/${gadgetId}/silence`,
        method: 'POST',
        body: { seconds },
      }),
    }),
  }),
});

export const { useLazyTryAlarmQuery, useSeeAlarmMutation, useSilenceAlarmsMutation } = alarmApi;
