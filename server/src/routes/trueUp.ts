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
      summary: 'Captured points of all channels',
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
      summary: 'Keep a captured point',
      body: NewPoint,
      answer: CalibrationPoint,
      status: 201,
      handle: (request) => trueUp.keepPoint(request.params['id']!, request.body as NewPoint),
    },
    {
      method: 'patch',
      path: '/api/points/:id',
      summary: 'Leave a point out with a reason, count it again, make it a check, or correct its reference',
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
      summary: 'Fit a channel to its points as a new version, and put it in use if asked',
      body: NewCalibration,
      answer: Calibration,
      status: 201,
      handle: (request) => trueUp.calibrate(request.params['id']!, request.body as NewCalibration),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/point-calibrations',
      summary: 'Keep points of several channels and put each in use by the same fit: whole, or not at all',
      body: NewPointCalibrations,
      answer: GuidedCalibrations,
      status: 201,
      handle: (request) => trueUp.calibrateAll(request.params['id']!, request.body as NewPointCalibrations),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/evidence',
      summary: 'What was kept for guided true-ups: rests, turns, drags, stretches of alternating current',
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
      summary: 'Keep evidence for a guided true-up',
      body: NewEvidence,
      answer: EvidencePoint,
      status: 201,
      handle: (request) => guidedTrueUp.keep(request.params['id']!, request.body as NewEvidence),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/stream-faults',
      summary:
        'What is wrong with the raw rows of ?channel: the newest live ones, or the first of ?recording',
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
        'Keep what all channels of a unit read while a known amount of one quantity is there, taken from the live readings',
      body: NewExposure,
      answer: EvidencePoint,
      status: 201,
      handle: (request) => crossTalk.expose(request.params['id']!, request.body as NewExposure),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/cross-talk',
      summary:
        'Let each channel show what is left when what it answers to the others is taken off: all of them, or none',
      body: NewCrossTalk,
      answer: Gadget,
      handle: (request) => crossTalk.use(request.params['id']!, request.body as NewCrossTalk),
    },
    {
      method: 'patch',
      path: '/api/evidence/:id',
      summary: 'Leave evidence out with a reason, or count it again',
      body: EvidencePatch,
      answer: EvidencePoint,
      handle: (request) => guidedTrueUp.patch(request.params['id']!, request.body as EvidencePatch),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/guided-calibrations',
      summary: 'A new version in use for each channel named, from kept evidence',
      body: NewGuidedCalibration,
      answer: GuidedCalibrations,
      status: 201,
      handle: (request) =>
        guidedTrueUp.calibrate(request.params['id']!, request.body as NewGuidedCalibration),
    },
    {
      method: 'patch',
      path: '/api/calibrations/:id',
      summary: 'Say after how many months a calibration is to be checked again',
      body: CalibrationPatch,
      answer: Calibration,
      handle: (request) => trueUp.patchCalibration(request.params['id']!, request.body as CalibrationPatch),
    },
    {
      method: 'post',
      path: '/api/calibrations/:id/use',
      summary: 'Put a calibration version in use; the one before is replaced',
      answer: Calibration,
      handle: (request) => trueUp.use(request.params['id']!),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/channels/:channelId/header',
      summary: 'The channel as a C header: constants and conversion',
      media: 'text/x-c',
      async handle(request, response) {
        const { name, text } = await trueUp.header(request.params['id']!, request.params['channelId']!);
        response.setHeader('Content-Disposition', `attachment; filename="${name}"`);
        response.type('text/x-c; charset=utf-8').send(text);
      },
    },
  ];
}
