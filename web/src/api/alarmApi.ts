import type {
  AlarmTrialAnswer,
  AlarmTrialBody,
  Frames,
  GadgetAlarms,
  NowReading,
} from '@lucky-needle/core/model';
import { api } from './api.ts';

/** How alarms and readings stand, asked for by pages that look at several gadgets, and what a maker does with alarms. */
const alarmApi = api.injectEndpoints({
  endpoints: (build) => ({
    alarmsNow: build.query<GadgetAlarms, string>({ query: (gadgetId) => `/gadgets/${gadgetId}/alarms` }),
    readingsNow: build.query<{ channels: NowReading[] }, string>({
      query: (gadgetId) => `/gadgets/${gadgetId}/now`,
    }),
    faceNow: build.query<Frames, string>({ query: (gadgetId) => `/gadgets/${gadgetId}/face/now` }),
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

export const {
  useAlarmsNowQuery,
  useFaceNowQuery,
  useReadingsNowQuery,
  useLazyTryAlarmQuery,
  useSeeAlarmMutation,
  useSilenceAlarmsMutation,
} = alarmApi;
