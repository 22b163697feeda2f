import { NewRecording, Recording, RecordingPatch } from '@lucky-needle/core/model';
import { ProblemError } from '../http/problem.ts';
import type { Route } from '../http/route.ts';
import { convertedRecording } from '../recordings/convertedBlocks.ts';
import { checkExport, EXPORT_FILES, EXPORT_FORMATS, exportRecording } from '../recordings/exportRecording.ts';
import { MAX_WINDOW_SAMPLES, recordingWindow } from '../recordings/window.ts';
import type { Bench } from '../services/bench.ts';
import type { Services } from '../services/services.ts';
import { listOf, numberOf, pageOf } from './paging.ts';

export function recordingRoutes(bench: Bench, { gadgets, readings, recordings }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/gadgets/:id/recordings',
      summary: 'Runs of a gadget, newest first',
      answer: listOf(Recording),
      async handle(request) {
        const id = request.params['id']!;
        await gadgets.find(id);
        const { limit, offset } = pageOf(request);
        return {
          items: await bench.tables.recordings.list(id, limit, offset),
          total: await bench.tables.recordings.count(id),
        };
      },
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/recordings',
      summary: 'Start recording the live link',
      body: NewRecording,
      answer: Recording,
      status: 201,
      handle: (request) => recordings.start(request.params['id']!, (request.body as NewRecording).name),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/stop',
      summary: 'Stop recording a run',
      answer: Recording,
      handle: (request) => recordings.stop(request.params['id']!),
    },
    {
      method: 'get',
      path: '/api/recordings/:id',
      summary: 'One run, without its samples',
      answer: Recording,
      handle: (request) => recordings.find(request.params['id']!),
    },
    {
      method: 'patch',
      path: '/api/recordings/:id',
      summary: 'Rename a run, edit its note, or exclude it with a reason or include it again',
      body: RecordingPatch,
      answer: Recording,
      handle: (request) => recordings.patch(request.params['id']!, request.body as RecordingPatch),
    },
    {
      method: 'get',
      path: '/api/recordings/:id/window',
      summary: 'Samples between ?from and ?to seconds as a binary block, reduced to about ?points points',
      media: 'application/octet-stream',
      async handle(request, response) {
        const recording = await recordings.find(request.params['id']!);
        const points = numberOf(request, 'points', MAX_WINDOW_SAMPLES);
        if (points < 2 || points > MAX_WINDOW_SAMPLES) {
          throw new ProblemError(
            422,
            'invalid-query',
            'Invalid query',
            `points must be from 2 to ${MAX_WINDOW_SAMPLES}; received ${points}.`,
            'Correct the URL.',
            'points',
          );
        }
        const from = numberOf(request, 'from', -1e300);
        const to = numberOf(request, 'to', 1e300);
        const bytes = await recordingWindow(bench.knex, recording, from, to, points);
        response.type('application/octet-stream').send(Buffer.from(bytes));
      },
    },
    {
      method: 'get',
      path: '/api/recordings/:id/export/:format',
      summary: `A run as a file (${EXPORT_FORMATS.join(', ')}); ?raw=1 exports raw counts only`,
      media: 'application/octet-stream',
      async handle(request, response) {
        const recording = await recordings.find(request.params['id']!);
        const format = EXPORT_FORMATS.find((f) => f === request.params['format']);
        if (!format)
          throw new ProblemError(
            404,
            'no-format',
            'Not found',
            `Unknown export format "${request.params['format']}".`,
            `Choose ${EXPORT_FORMATS.join(', ')}.`,
          );
        const gadget = await gadgets.find(recording.gadgetId);
        const calibrations = await bench.tables.calibrations.list(gadget.id);
        const channels = request.query['raw'] === '1' ? [] : await readings.channelsOf(recording);
        const converted = convertedRecording(
          bench.knex,
          recording,
          await Promise.all(
            channels.map(async ({ channel, readout }) => ({
              name: channel.name,
              calibration:
                calibrations.find((c) => c.channelId === channel.id && c.state === 'in use')?.number ?? null,
              readout,
              start: await readings.startOf(recording, readout),
            })),
          ),
        );
        const source = { recording, gadget, converted };
        checkExport(format, source);
        const [ending, media] = EXPORT_FILES[format];
        const file = recording.name.replace(/[^A-Za-z0-9]+/g, '-').toLowerCase() || 'recording';
        response.setHeader('Content-Disposition', `attachment; filename="${file}.${ending}"`);
        response.type(media);
        await exportRecording(format, source, response);
      },
    },
  ];
}
