import {
  Calibration,
  CalibrationPatch,
  CalibrationPoint,
  EvidencePatch,
  EvidencePoint,
  Gadget,
  GuidedCalibrations,
  NewCalibration,
  NewCrossTalk,
  NewEvidence,
  NewExposure,
  NewGuidedCalibration,
  NewPoint,
  NewPointCalibrations,
  PointPatch,
  StreamLook,
} from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Bench } from '../services/bench.ts';
import type { Services } from '../services/services.ts';
import { listOf, textOf } from './paging.ts';

export function trueUpRoutes(
  bench: Bench,
  { gadgets, trueUp, guidedTrueUp, crossTalk, streamLook }: Services,
): Route[] {
  return [
    {
      method: 'get',
      path: '/api/gadgets/:id/points',
      summary: 'Calibration points of all channels',
      answer: listOf(CalibrationPoint),
      async handle(request) {
        await gadgets.find(request.params['id']!);
        const items = await bench.tables.points.list(request.params['id']!);
        return { items, total: items.length };
      },
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/points',
      summary: 'Save a captured point',
      body: NewPoint,
      answer: CalibrationPoint,
      status: 201,
      handle: (request) => trueUp.keepPoint(request.params['id']!, request.body as NewPoint),
    },
    {
      method: 'patch',
      path: '/api/points/:id',
      summary:
        'Exclude a point with a reason, include it again, make it a check point, or correct its reference',
      body: PointPatch,
      answer: CalibrationPoint,
      handle: (request) => trueUp.patchPoint(request.params['id']!, request.body as PointPatch),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/calibrations',
      summary: 'Calibration versions of all channels',
      answer: listOf(Calibration),
      async handle(request) {
        await gadgets.find(request.params['id']!);
        const items = await bench.tables.calibrations.list(request.params['id']!);
        return { items, total: items.length };
      },
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/calibrations',
      summary: 'Fit a channel to its points as a new calibration version, and make it active if requested',
      body: NewCalibration,
      answer: Calibration,
      status: 201,
      handle: (request) => trueUp.calibrate(request.params['id']!, request.body as NewCalibration),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/point-calibrations',
      summary: 'Save points of several channels and use the same fit for each; all or none',
      body: NewPointCalibrations,
      answer: GuidedCalibrations,
      status: 201,
      handle: (request) => trueUp.calibrateAll(request.params['id']!, request.body as NewPointCalibrations),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/evidence',
      summary:
        'Evidence of guided calibrations: rest positions, rotations, drags, sections of alternating current',
      answer: listOf(EvidencePoint),
      async handle(request) {
        await gadgets.find(request.params['id']!);
        const items = await bench.tables.evidence.list(request.params['id']!);
        return { items, total: items.length };
      },
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/evidence',
      summary: 'Save evidence for a guided calibration',
      body: NewEvidence,
      answer: EvidencePoint,
      status: 201,
      handle: (request) => guidedTrueUp.keep(request.params['id']!, request.body as NewEvidence),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/stream-faults',
      summary:
        'Data faults in the raw rows of ?channel: the latest live rows, or the first rows of ?recording',
      answer: StreamLook,
      handle: (request) =>
        streamLook.look(
          request.params['id']!,
          textOf(request, 'channel'),
          request.query['recording'] === undefined ? null : textOf(request, 'recording'),
        ),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/exposures',
      summary:
        'Capture an exposure: what all channels of a unit read while a known amount of one gas is present, from live readings',
      body: NewExposure,
      answer: EvidencePoint,
      status: 201,
      handle: (request) => crossTalk.expose(request.params['id']!, request.body as NewExposure),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/cross-talk',
      summary: 'Correct channels for their cross-sensitivity to each other; all or none',
      body: NewCrossTalk,
      answer: Gadget,
      handle: (request) => crossTalk.use(request.params['id']!, request.body as NewCrossTalk),
    },
    {
      method: 'patch',
      path: '/api/evidence/:id',
      summary: 'Exclude evidence with a reason, or include it again',
      body: EvidencePatch,
      answer: EvidencePoint,
      handle: (request) => guidedTrueUp.patch(request.params['id']!, request.body as EvidencePatch),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/guided-calibrations',
      summary: 'Create and use a new calibration version for each named channel, from saved evidence',
      body: NewGuidedCalibration,
      answer: GuidedCalibrations,
      status: 201,
      handle: (request) =>
        guidedTrueUp.calibrate(request.params['id']!, request.body as NewGuidedCalibration),
    },
    {
      method: 'patch',
      path: '/api/calibrations/:id',
      summary: 'Set after how many months a calibration is due for a check',
      body: CalibrationPatch,
      answer: Calibration,
      handle: (request) => trueUp.patchCalibration(request.params['id']!, request.body as CalibrationPatch),
    },
    {
      method: 'post',
      path: '/api/calibrations/:id/use',
      summary: 'Use a calibration version; it replaces the active one',
      answer: Calibration,
      handle: (request) => trueUp.use(request.params['id']!),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/channels/:channelId/header',
      summary: 'C header of a channel: constants and conversion',
      media: 'text/x-c',
      async handle(request, response) {
        const { name, text } = await trueUp.header(request.params['id']!, request.params['channelId']!);
        response.setHeader('Content-Disposition', `attachment; filename="${name}"`);
        response.type('text/x-c; charset=utf-8').send(text);
      },
    },
  ];
}
