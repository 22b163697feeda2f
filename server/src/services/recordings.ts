import { randomUUID } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { boardReader } from '@lucky-needle/core/formats';
import type { Recording, RecordingPatch } from '@lucky-needle/core/model';
import { OTHER_PACE } from '../capture/links.ts';
import { Recorder } from '../capture/recorder.ts';
import { databaseProblem, notFound, ProblemError } from '../http/problem.ts';
import { isBeingImported } from '../imports/beingImported.ts';
import { readingStarts } from '../readings/readingStarts.ts';
import { ChunkWriter } from '../recordings/chunkWriter.ts';
import type { Bench } from './bench.ts';

/** Rows of a board's text that are stored at once. */
const PIECE_ROWS = 2000;

export function recordingService(bench: Bench) {
  const { tables, knex } = bench;

  async function find(id: string): Promise<Recording> {
    const recording = await tables.recordings.find(id);
    if (!recording) throw notFound('recording', id);
    return recording;
  }

  async function blank(
    gadgetId: string,
    name: string,
    columns: Recording['columns'],
    sampleRateHz: number,
  ): Promise<Recording> {
    const used = (await tables.calibrations.list(gadgetId)).filter((c) => c.state === 'in use');
    return {
      id: randomUUID(),
      gadgetId,
      name,
      state: 'recording',
      startedAt: bench.now(),
      endedAt: null,
      columns,
      sampleRateHz,
      sampleCount: 0,
      firstTimeS: null,
      lastTimeS: null,
      lostReadings: 0,
      issues: [],
      note: '',
      versions: Object.fromEntries(used.map((c) => [c.channelId, c.number])),
      excluded: null,
      pieces: null,
      markers: [],
      sourceChecksum: null,
    };
  }

  return {
    find,
    blank,

    async start(gadgetId: string, name: string): Promise<Recording> {
      const gadget = await tables.gadgets.find(gadgetId);
      if (!gadget) throw notFound('gadget', gadgetId);
      const runner = bench.links.of(gadgetId);
      if (!runner)
        throw new ProblemError(
          409,
          'no-link',
          'No link',
          'Nothing to record: this gadget has no link.',
          'Set up a link on the Link page.',
        );
      if (runner.recorder)
        throw new ProblemError(
          409,
          'recording',
          'Already recording',
          `"${runner.recorder.recording.name}" is being recorded.`,
          'Stop recording first.',
        );
      const columns = runner.columns.map((column) => ({ name: column, unit: 'count' as const }));
      // A real gadget keeps its own pace, whatever the brief asks for.
      const rateHz = runner.stored.settings.kind === 'simulated' ? null : runner.paceHz;
      const liveHz = runner.live.sampleRateHz;
      // About the pace that its lines are run at is that pace: the recording then reads as it was shown.
      const isLive = liveHz !== null && (rateHz === null || Math.abs(rateHz / liveHz - 1) <= OTHER_PACE);
      const recording = await blank(
        gadgetId,
        name,
        columns,
        isLive ? liveHz : (rateHz ?? gadget.sampleRateHz),
      );
      try {
        await tables.recordings.insert(recording);
        await tables.logbook.write(gadgetId, 'runs', `Recording of run "${name}" started.`);
      } catch (error) {
        throw databaseProblem(error);
      }
      // The very row that is recorded first is the one behind what the lines remember here.
      const starts = runner.live.starts();
      runner.recorder = new Recorder(knex, tables, recording, bench.databaseProblem);
      try {
        await readingStarts(knex).keep(recording.id, starts);
      } catch {
        // The rows are safe all the same; only what the lines remembered is not.
        runner.recorder.remark(
          'begins-afresh',
          'Filters restart with this run: their state could not be saved.',
        );
      }
      bench.changed(gadgetId, 'recordings');
      return recording;
    },

    async stop(id: string): Promise<Recording> {
      const recording = await find(id);
      const runner = bench.links.of(recording.gadgetId);
      if (runner?.recorder?.recording.id !== id) {
        throw new ProblemError(
          409,
          'not-recording',
          'Not recording',
          `"${recording.name}" is not being recorded.`,
          'Reload the page to see its state.',
        );
      }
      runner.settle();
      const closed = await runner.recorder.stop();
      runner.recorder = null;
      await tables.logbook.write(
        recording.gadgetId,
        'runs',
        `Recording of run "${closed.name}" stopped: ${closed.sampleCount} readings${closed.lostReadings > 0 ? `, ${closed.lostReadings} lost` : ''}.`,
      );
      bench.changed(recording.gadgetId, 'recordings');
      return closed;
    },

    /** Closes recordings that a server left open when it ended without warning, and says so. */
    async recover(): Promise<Recording[]> {
      const open = await tables.recordings.unfinished();
      for (const recording of open) {
        if (isBeingImported(recording.note) && recording.sampleCount === 0) {
          await tables.recordings.remove(recording.id);
          await tables.logbook.write(
            recording.gadgetId,
            'runs',
            `Import of "${recording.name}" was interrupted because the server stopped unexpectedly. Nothing was stored; import the file again.`,
          );
          continue;
        }
        const startMs = Date.parse(recording.startedAt);
        const lengthMs = 1000 * ((recording.lastTimeS ?? 0) - (recording.firstTimeS ?? 0));
        await tables.recordings.update({
          ...recording,
          state: 'recovered',
          endedAt: new Date(startMs + lengthMs).toISOString(),
        });
        const kind = (await tables.links.ofGadget(recording.gadgetId))?.settings.kind;
        // What comes over a network waits a second for what was overtaken on its way.
        const missing = kind === 'push' || kind === 'mqtt' ? 'the last two seconds' : 'the last second';
        await tables.logbook.write(
          recording.gadgetId,
          'runs',
          `Run "${recording.name}" was closed when the server restarted after an unexpected stop. ${recording.sampleCount} readings are safe; at most ${missing} may be missing.`,
        );
      }
      return open.filter((r) => !isBeingImported(r.note));
    },

    async patch(id: string, patch: RecordingPatch): Promise<Recording> {
      const recording = await find(id);
      const next = { ...recording, ...patch };
      await tables.recordings.update(next);
      if (patch.excluded)
        await tables.logbook.write(
          recording.gadgetId,
          'runs',
          `Run "${next.name}" excluded: ${patch.excluded}.`,
        );
      if (patch.excluded === null)
        await tables.logbook.write(recording.gadgetId, 'runs', `Run "${next.name}" included again.`);
      bench.changed(recording.gadgetId, 'recordings');
      return next;
    },

    /** Stores text lines as a board printed them, at a given time: how the demo's finished runs come in. */
    async storeBoardText(
      gadgetId: string,
      name: string,
      startedAt: string,
      names: readonly string[],
      lines: Iterable<string>,
    ): Promise<Recording> {
      const gadget = await tables.gadgets.find(gadgetId);
      if (!gadget) throw notFound('gadget', gadgetId);
      const columns = names.map((column) => ({ name: column, unit: 'count' as const }));
      const recording = { ...(await blank(gadgetId, name, columns, gadget.sampleRateHz)), startedAt };
      await tables.recordings.insert(recording);
      const writer = new ChunkWriter(knex, recording.id, columns.length);
      const read = boardReader(names);
      let stored = 0;
      let firstTimeS: number | null = null;
      let lastTimeS: number | null = null;
      for (const line of lines) {
        const reading = read(line);
        if (reading.kind !== 'reading') continue;
        writer.append(reading.timeS, reading.values);
        firstTimeS ??= reading.timeS;
        lastTimeS = reading.timeS;
        // Who is served meanwhile does not wait for all of it.
        if (++stored % PIECE_ROWS === 0) await setImmediate();
      }
      await writer.commit();
      const endedAt = new Date(
        Date.parse(startedAt) + 1000 * ((lastTimeS ?? 0) - (firstTimeS ?? 0)),
      ).toISOString();
      const done: Recording = {
        ...recording,
        state: 'closed',
        endedAt,
        sampleCount: writer.committed,
        firstTimeS,
        lastTimeS,
      };
      await tables.recordings.update(done);
      await tables.logbook.write(
        gadgetId,
        'runs',
        `Recording of run "${name}" stopped: ${done.sampleCount} readings.`,
        endedAt,
      );
      return done;
    },
  };
}
