import type {
  AiringNow,
  Calibration,
  CalibrationPatch,
  CalibrationPoint,
  DueItem,
  EvidencePatch,
  EvidencePoint,
  Gadget,
  GatheringBody,
  GatheringKind,
  GatheringNow,
  GuidedCalibrations,
  LampLight,
  NewAiring,
  NewCalibration,
  NewCrossTalk,
  NewEvidence,
  NewExposure,
  NewGuidedCalibration,
  NewLampLight,
  NewPoint,
  PointPatch,
  StreamLook,
  TakeBody,
  TakenEvidence,
} from '@lucky-needle/core/model';
import { api, type Listed } from './api.ts';

/** Points, evidence and the versions made of them. */
const trueUpApi = api.injectEndpoints({
  endpoints: (build) => ({
    points: build.query<CalibrationPoint[], string>({
      query: (id) => `/gadgets/${id}/points`,
      transformResponse: (r: Listed<CalibrationPoint>) => r.items,
      providesTags: ['points'],
    }),
    keepPoint: build.mutation<CalibrationPoint, { gadgetId: string; point: NewPoint }>({
      query: ({ gadgetId, point }) => ({ url: `/gadgets/${gadgetId}/points`, method: 'POST', body: point }),
      invalidatesTags: ['points', 'logbook'],
    }),
    patchPoint: build.mutation<CalibrationPoint, { id: string; patch: PointPatch }>({
      query: ({ id, patch }) => ({ url: `/points/${id}`, method: 'PATCH', body: patch }),
      invalidatesTags: ['points', 'logbook'],
    }),
    calibrations: build.query<Calibration[], string>({
      query: (id) => `/gadgets/${id}/calibrations`,
      transformResponse: (r: Listed<Calibration>) => r.items,
      providesTags: ['calibrations'],
    }),
    calibrate: build.mutation<Calibration, { gadgetId: string; body: NewCalibration }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/calibrations`, method: 'POST', body }),
      invalidatesTags: ['calibrations', 'logbook'],
    }),
    patchCalibration: build.mutation<Calibration, { id: string; patch: CalibrationPatch }>({
      query: ({ id, patch }) => ({ url: `/calibrations/${id}`, method: 'PATCH', body: patch }),
      invalidatesTags: ['calibrations', 'logbook'],
    }),
    due: build.query<DueItem[], void>({
      query: () => '/due',
      transformResponse: (r: Listed<DueItem>) => r.items,
      providesTags: ['calibrations', 'references', 'gadget'],
    }),
    useCalibrationVersion: build.mutation<Calibration, string>({
      query: (id) => ({ url: `/calibrations/${id}/use`, method: 'POST' }),
      invalidatesTags: ['calibrations', 'logbook'],
    }),
    evidence: build.query<EvidencePoint[], string>({
      query: (id) => `/gadgets/${id}/evidence`,
      transformResponse: (r: Listed<EvidencePoint>) => r.items,
      providesTags: ['evidence'],
    }),
    keepEvidence: build.mutation<EvidencePoint, { gadgetId: string; body: NewEvidence }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/evidence`, method: 'POST', body }),
      invalidatesTags: ['evidence', 'logbook'],
    }),
    patchEvidence: build.mutation<EvidencePoint, { id: string; patch: EvidencePatch }>({
      query: ({ id, patch }) => ({ url: `/evidence/${id}`, method: 'PATCH', body: patch }),
      invalidatesTags: ['evidence', 'logbook'],
    }),
    streamFaults: build.query<
      StreamLook,
      { gadgetId: string; channelId: string; recordingId: string | null }
    >({
      query: ({ gadgetId, channelId, recordingId }) => ({
        url: `/gadgets/${gadgetId}/stream-faults`,
        params: { channel: channelId, ...(recordingId === null ? {} : { recording: recordingId }) },
      }),
      keepUnusedDataFor: 0,
    }),
    gathering: build.query<GatheringNow, { gadgetId: string; channelId: string; kind: GatheringKind }>({
      query: ({ gadgetId, channelId, kind }) => ({
        url: `/gadgets/${gadgetId}/gathering`,
        params: { channel: channelId, kind },
      }),
      keepUnusedDataFor: 0,
    }),
    gather: build.mutation<GatheringNow, { gadgetId: string; body: GatheringBody }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/gathering`, method: 'POST', body }),
      // What is told at once need not be asked for again.
      async onQueryStarted({ gadgetId, body: { channelId, kind } }, { dispatch, queryFulfilled }) {
        const done = await queryFulfilled.catch(() => null);
        if (done)
          dispatch(
            trueUpApi.util.updateQueryData('gathering', { gadgetId, channelId, kind }, () => done.data),
          );
      },
    }),
    take: build.mutation<TakenEvidence, { gadgetId: string; body: TakeBody }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/taken`, method: 'POST', body }),
    }),
    airing: build.query<AiringNow, string>({
      query: (id) => `/gadgets/${id}/airing`,
      keepUnusedDataFor: 0,
    }),
    keepAiring: build.mutation<GuidedCalibrations, { gadgetId: string; body: NewAiring }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/airing`, method: 'POST', body }),
      invalidatesTags: ['points', 'calibrations', 'logbook'],
    }),
    lampLight: build.query<LampLight, string>({
      query: (id) => `/gadgets/${id}/lamp-light`,
      keepUnusedDataFor: 0,
    }),
    keepLampLight: build.mutation<Gadget, { gadgetId: string; body: NewLampLight }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/lamp-light`, method: 'POST', body }),
      invalidatesTags: ['gadget', 'logbook'],
    }),
    expose: build.mutation<EvidencePoint, { gadgetId: string; body: NewExposure }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/exposures`, method: 'POST', body }),
      invalidatesTags: ['evidence', 'logbook'],
    }),
    takeOthersOff: build.mutation<Gadget, { gadgetId: string; body: NewCrossTalk }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/cross-talk`, method: 'POST', body }),
      invalidatesTags: ['gadget', 'logbook'],
    }),
    calibrateGuided: build.mutation<GuidedCalibrations, { gadgetId: string; body: NewGuidedCalibration }>({
      query: ({ gadgetId, body }) => ({
        url: `/gadgets/${gadgetId}/guided-calibrations`,
        method: 'POST',
        body,
      }),
      invalidatesTags: ['calibrations', 'evidence', 'gadget', 'logbook'],
    }),
  }),
});

export const {
  useExposeMutation,
  useGatheringQuery,
  useGatherMutation,
  useTakeMutation,
  useAiringQuery,
  useKeepAiringMutation,
  useLampLightQuery,
  useKeepLampLightMutation,
  useLazyStreamFaultsQuery,
  useTakeOthersOffMutation,
  usePointsQuery,
  useKeepPointMutation,
  usePatchPointMutation,
  useCalibrationsQuery,
  useCalibrateMutation,
  usePatchCalibrationMutation,
  useDueQuery,
  useUseCalibrationVersionMutation,
  useEvidenceQuery,
  useKeepEvidenceMutation,
  usePatchEvidenceMutation,
  useCalibrateGuidedMutation,
} = trueUpApi;
