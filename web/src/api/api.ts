import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
import type {
  Calibration,
  CalibrationPoint,
  EvidencePatch,
  EvidencePoint,
  Gadget,
  GadgetPatch,
  DiskState,
  ImportBody,
  Job,
  JoinBody,
  Link,
  LinkLines,
  LinkPatch,
  LogEntry,
  GuidedCalibrations,
  NewCalibration,
  NewEvidence,
  MadeLink,
  NewGadget,
  NewLink,
  NewMarker,
  UploadFor,
  NewGuidedCalibration,
  NewOwnReference,
  NewPoint,
  OwnPart,
  OwnReference,
  Part,
  PartsImported,
  PointPatch,
  Recording,
  RecordingPatch,
} from '@lucky-needle/core/model';

interface Listed<T> {
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

export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api' }),
  tagTypes: TAGS,
  endpoints: (build) => ({
    gadgets: build.query<Listed<Gadget>, void>({
      query: () => '/gadgets?limit=200',
      providesTags: ['gadget'],
    }),
    gadget: build.query<Gadget, string>({ query: (id) => `/gadgets/${id}`, providesTags: ['gadget'] }),
    createGadget: build.mutation<Gadget, NewGadget>({
      query: (body) => ({ url: '/gadgets', method: 'POST', body }),
      invalidatesTags: ['gadget'],
    }),
    loadMill: build.mutation<Gadget, void>({
      query: () => ({ url: '/mill', method: 'POST' }),
      invalidatesTags: ['gadget'],
    }),
    patchGadget: build.mutation<Gadget, { id: string; version: number; patch: GadgetPatch }>({
      query: ({ id, version, patch }) => ({
        url: `/gadgets/${id}`,
        method: 'PATCH',
        body: patch,
        headers: { 'If-Match': `"${version}"` },
      }),
      invalidatesTags: (_r, error) => (error ? [] : ['gadget', 'logbook']),
    }),
    deleteGadget: build.mutation<void, string>({
      query: (id) => ({ url: `/gadgets/${id}`, method: 'DELETE' }),
      invalidatesTags: ['gadget'],
    }),
    restoreGadget: build.mutation<Gadget, string>({
      query: (id) => ({ url: `/gadgets/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['gadget', 'link'],
    }),
    link: build.query<Link | null, string>({
      queryFn: async (id, _api, _extra, fetch) => {
        const result = await fetch(`/gadgets/${id}/link`);
        // No link is a state of its own, not a failure.
        if (result.error?.status === 404) return { data: null };
        return result.error ? { error: result.error } : { data: result.data as Link };
      },
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
    calibrateGuided: build.mutation<GuidedCalibrations, { gadgetId: string; body: NewGuidedCalibration }>({
      query: ({ gadgetId, body }) => ({
        url: `/gadgets/${gadgetId}/guided-calibrations`,
        method: 'POST',
        body,
      }),
      invalidatesTags: ['calibrations', 'logbook'],
    }),
    ownReferences: build.query<OwnReference[], void>({
      query: () => '/references',
      transformResponse: (r: Listed<OwnReference>) => r.items,
      providesTags: ['references'],
    }),
    addOwnReference: build.mutation<OwnReference, NewOwnReference>({
      query: (body) => ({ url: '/references', method: 'POST', body }),
      invalidatesTags: ['references'],
    }),
    replaceOwnReference: build.mutation<
      OwnReference,
      { id: string; version: number; reference: NewOwnReference }
    >({
      query: ({ id, version, reference }) => ({
        url: `/references/${id}`,
        method: 'PUT',
        body: reference,
        headers: { 'If-Match': `"${version}"` },
      }),
      invalidatesTags: (_r, error) => (error ? [] : ['references']),
    }),
    deleteOwnReference: build.mutation<void, string>({
      query: (id) => ({ url: `/references/${id}`, method: 'DELETE' }),
      invalidatesTags: ['references'],
    }),
    restoreOwnReference: build.mutation<OwnReference, string>({
      query: (id) => ({ url: `/references/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['references'],
    }),
    recordings: build.query<Listed<Recording>, string>({
      query: (id) => `/gadgets/${id}/recordings?limit=200`,
      providesTags: ['recordings'],
    }),
    startRecording: build.mutation<Recording, { gadgetId: string; name: string }>({
      query: ({ gadgetId, name }) => ({
        url: `/gadgets/${gadgetId}/recordings`,
        method: 'POST',
        body: { name },
      }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    stopRecording: build.mutation<Recording, string>({
      query: (id) => ({ url: `/recordings/${id}/stop`, method: 'POST' }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    patchRecording: build.mutation<Recording, { id: string; patch: RecordingPatch }>({
      query: ({ id, patch }) => ({ url: `/recordings/${id}`, method: 'PATCH', body: patch }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    upload: build.mutation<UploadFor, { gadgetId: string; file: File }>({
      query: ({ gadgetId, file }) => ({
        url: `/gadgets/${gadgetId}/uploads?name=${encodeURIComponent(file.name.slice(0, 80))}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    }),
    discardUpload: build.mutation<void, string>({
      query: (id) => ({ url: `/uploads/${id}`, method: 'DELETE' }),
    }),
    importUpload: build.mutation<Job, { id: string; body: ImportBody }>({
      query: ({ id, body }) => ({ url: `/uploads/${id}/import`, method: 'POST', body }),
    }),
    job: build.query<Job, string>({ query: (id) => `/jobs/${id}` }),
    cancelJob: build.mutation<Job, string>({
      query: (id) => ({ url: `/jobs/${id}/cancel`, method: 'POST' }),
    }),
    trimRun: build.mutation<Recording, { id: string; keep: { fromS: number; toS: number } | null }>({
      query: ({ id, keep }) => ({ url: `/recordings/${id}/trim`, method: 'POST', body: { keep } }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    splitRun: build.mutation<{ items: Recording[] }, { id: string; atS: number }>({
      query: ({ id, atS }) => ({ url: `/recordings/${id}/split`, method: 'POST', body: { atS } }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    joinRuns: build.mutation<Recording, { gadgetId: string; body: JoinBody }>({
      query: ({ gadgetId, body }) => ({ url: `/gadgets/${gadgetId}/recordings/join`, method: 'POST', body }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    markRun: build.mutation<Recording, { id: string; marker: NewMarker }>({
      query: ({ id, marker }) => ({ url: `/recordings/${id}/markers`, method: 'POST', body: marker }),
      invalidatesTags: ['recordings'],
    }),
    unmarkRun: build.mutation<Recording, { id: string; markerId: string }>({
      query: ({ id, markerId }) => ({ url: `/recordings/${id}/markers/${markerId}`, method: 'DELETE' }),
      invalidatesTags: ['recordings'],
    }),
    deleteRun: build.mutation<void, string>({
      query: (id) => ({ url: `/recordings/${id}`, method: 'DELETE' }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    restoreRun: build.mutation<Recording, string>({
      query: (id) => ({ url: `/recordings/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['recordings', 'logbook'],
    }),
    restoreWorkspace: build.mutation<{ createdAt: string; setAside: string }, File>({
      query: (file) => ({
        url: '/workspace/restore',
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/zip' },
      }),
      invalidatesTags: [...TAGS],
    }),
    disk: build.query<DiskState, void>({ query: () => '/disk', providesTags: ['recordings'] }),
    parts: build.query<OwnPart[], void>({
      query: () => '/parts',
      transformResponse: (r: Listed<OwnPart>) => r.items,
      providesTags: ['parts'],
    }),
    addPart: build.mutation<OwnPart, Part>({
      query: (body) => ({ url: '/parts', method: 'POST', body }),
      invalidatesTags: ['parts'],
    }),
    replacePart: build.mutation<OwnPart, { part: Part; version: number }>({
      query: ({ part, version }) => ({
        url: `/parts/${part.id}`,
        method: 'PUT',
        body: part,
        headers: { 'If-Match': `"${version}"` },
      }),
      invalidatesTags: (_r, error) => (error ? [] : ['parts']),
    }),
    deletePart: build.mutation<void, string>({
      query: (id) => ({ url: `/parts/${id}`, method: 'DELETE' }),
      invalidatesTags: ['parts'],
    }),
    restorePart: build.mutation<OwnPart, string>({
      query: (id) => ({ url: `/parts/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['parts'],
    }),
    importParts: build.mutation<PartsImported, File>({
      query: (file) => ({
        url: `/parts-file?format=${/\.json$/i.test(file.name) ? 'json' : 'csv'}`,
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'text/plain' },
      }),
      invalidatesTags: ['parts'],
    }),
    logbook: build.query<Listed<LogEntry>, string>({
      query: (id) => `/gadgets/${id}/logbook?limit=200`,
      providesTags: ['logbook'],
    }),
    addNote: build.mutation<LogEntry, { gadgetId: string; text: string }>({
      query: ({ gadgetId, text }) => ({
        url: `/gadgets/${gadgetId}/logbook`,
        method: 'POST',
        body: { text },
      }),
      invalidatesTags: ['logbook'],
    }),
  }),
});

export const {
  useGadgetsQuery,
  useGadgetQuery,
  useCreateGadgetMutation,
  useLoadMillMutation,
  usePatchGadgetMutation,
  useDeleteGadgetMutation,
  useRestoreGadgetMutation,
  useLinkQuery,
  useMakeLinkMutation,
  useRemoveLinkMutation,
  useRenewTokenMutation,
  useLinkLinesQuery,
  useBrokerQuery,
  usePatchLinkMutation,
  usePointsQuery,
  useKeepPointMutation,
  usePatchPointMutation,
  useCalibrationsQuery,
  useCalibrateMutation,
  useUseCalibrationVersionMutation,
  useEvidenceQuery,
  useKeepEvidenceMutation,
  usePatchEvidenceMutation,
  useCalibrateGuidedMutation,
  useOwnReferencesQuery,
  useAddOwnReferenceMutation,
  useReplaceOwnReferenceMutation,
  useDeleteOwnReferenceMutation,
  useRestoreOwnReferenceMutation,
  useRecordingsQuery,
  useStartRecordingMutation,
  useStopRecordingMutation,
  usePatchRecordingMutation,
  useUploadMutation,
  useDiscardUploadMutation,
  useImportUploadMutation,
  useJobQuery,
  useCancelJobMutation,
  useTrimRunMutation,
  useSplitRunMutation,
  useJoinRunsMutation,
  useMarkRunMutation,
  useUnmarkRunMutation,
  useDeleteRunMutation,
  useRestoreRunMutation,
  useDiskQuery,
  useRestoreWorkspaceMutation,
  usePartsQuery,
  useAddPartMutation,
  useReplacePartMutation,
  useDeletePartMutation,
  useRestorePartMutation,
  useImportPartsMutation,
  useLogbookQuery,
  useAddNoteMutation,
} = api;
