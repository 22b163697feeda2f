import { randomUUID } from 'node:crypto';
import { statfs, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { storedBytesPerDay } from '@lucky-needle/core/formats';
import type { DiskState, JoinBody, NewMarker, Piece, Recording } from '@lucky-needle/core/model';
import { ProblemError, notFound } from '../http/problem.ts';
import { extentOf, piecesOf, within } from '../recordings/pieces.ts';
import type { Bench } from './bench.ts';

const DELETED_DAYS = 30;

const invalid = (detail: string, wayOut: string, field?: string) =>
  new ProblemError(422, 'cannot-cut', 'Run not changed', detail, wayOut, field);

/** Cuts, joins, marks and removals of recordings. No sample is written or lost by any of them. */
export function cutService(bench: Bench) {
  const { tables, knex } = bench;

  async function finished(id: string): Promise<Recording> {
    const recording = await tables.recordings.find(id);
    if (!recording) throw notFound('recording', id);
    if (recording.state === 'recording')
      throw new ProblemError(
        409,
        'recording',
        'Recording in progress',
        `"${recording.name}" is still being recorded.`,
        'Stop recording first.',
      );
    return recording;
  }

  /** The recording made of other pieces, with its extent worked out anew. */
  async function madeOf(recording: Recording, pieces: readonly Piece[] | null): Promise<Recording> {
    const next = { ...recording, pieces: pieces && [...pieces] };
    const extent = await extentOf(knex, next);
    if (extent.sampleCount === 0)
      throw invalid('This section has no readings.', 'Choose a section with readings.');
    return {
      ...next,
      ...extent,
      markers: next.markers.filter((m) => m.timeS >= extent.firstTimeS! && m.timeS <= extent.lastTimeS!),
    };
  }

  const partsBetween = (recording: Recording, fromS: number, toS: number): Piece[] =>
    piecesOf(recording).flatMap((piece) => {
      const part = within(piece, fromS, toS);
      if (!part) return [];
      const bound = (v: number) => (Number.isFinite(v) ? v : null);
      return [{ ...piece, fromS: bound(part.fromS), toS: bound(part.toS) }];
    });

  async function store(recording: Recording, said: string): Promise<Recording> {
    await tables.recordings.update(recording);
    await tables.logbook.write(recording.gadgetId, 'runs', said);
    bench.changed(recording.gadgetId, 'recordings');
    return recording;
  }

  return {
    /** Keeps a stretch, s in the recording's own time; null brings back all that the recording owns. */
    async trim(id: string, keep: { fromS: number; toS: number } | null): Promise<Recording> {
      const recording = await finished(id);
      if (keep === null) {
        const whole = { ...recording, pieces: null };
        const extent = await extentOf(knex, whole);
        if (extent.sampleCount === 0)
          throw invalid(
            `"${recording.name}" has no readings of its own: it was joined or split from other runs.`,
            'Delete it and restore the original runs.',
          );
        return store({ ...whole, ...extent }, `Run "${recording.name}": cut undone.`);
      }
      if (!(keep.fromS < keep.toS))
        throw invalid(
          `A section must end after it starts; received ${keep.fromS} to ${keep.toS} s.`,
          'Swap the start and the end.',
          'keep',
        );
      const next = await madeOf(recording, partsBetween(recording, keep.fromS, keep.toS));
      return store(
        next,
        `Run "${recording.name}" cut to ${next.sampleCount} of ${recording.sampleCount} readings.`,
      );
    },

    /** The second part, from a moment on, becomes a recording of its own. */
    async split(id: string, atS: number): Promise<{ items: Recording[] }> {
      const recording = await finished(id);
      if (!(atS > recording.firstTimeS! && atS <= recording.lastTimeS!))
        throw invalid(
          `The run goes from ${recording.firstTimeS} to ${recording.lastTimeS} s; ${atS} s is outside.`,
          'Choose a time within the run.',
          'atS',
        );
      // The reading at that very moment belongs to the second.
      const before = atS - 1e-9 * Math.max(1, Math.abs(atS));
      const first = await madeOf(recording, partsBetween(recording, -Infinity, before));
      const second = await madeOf(
        {
          ...recording,
          id: randomUUID(),
          name: `${recording.name.slice(0, 65)}, part 2`,
          startedAt: laterBy(recording, atS),
          sourceChecksum: null,
        },
        partsBetween(recording, atS, Infinity),
      );
      await tables.recordings.insert(second);
      await store(first, `Run "${recording.name}" split at ${atS.toFixed(1)} s.`);
      return { items: [first, second] };
    },

    /** One recording made of several, in the order in which they were begun, with the time between them kept. */
    async join(gadgetId: string, { name, ids }: JoinBody): Promise<Recording> {
      const parts = await Promise.all(ids.map((id) => finished(id)));
      if (parts.some((p) => p.gadgetId !== gadgetId))
        throw invalid('These runs belong to different gadgets.', 'Choose runs of one gadget.', 'ids');
      const [first, ...rest] = parts.toSorted((a, b) => a.startedAt.localeCompare(b.startedAt)) as [
        Recording,
        ...Recording[],
      ];
      const columns = (r: Recording) => r.columns.map((c) => `${c.name} ${c.unit}`).join();
      const other = rest.find((r) => columns(r) !== columns(first));
      if (other)
        throw invalid(
          `The columns differ: "${other.name}" has ${columns(other)}; "${first.name}" has ${columns(first)}.`,
          'Choose runs with the same columns.',
          'ids',
        );
      const pieces = [...piecesOf(first)];
      let endS = first.lastTimeS ?? 0;
      for (const part of rest) {
        const sinceS = (Date.parse(part.startedAt) - Date.parse(first.startedAt)) / 1000;
        const wanted = (first.firstTimeS ?? 0) + sinceS - (part.firstTimeS ?? 0);
        // Never back over what stands there already.
        const shift = Math.max(wanted, endS + 1 / part.sampleRateHz - (part.firstTimeS ?? 0));
        for (const piece of piecesOf(part)) pieces.push({ ...piece, shiftS: piece.shiftS + shift });
        endS = (part.lastTimeS ?? 0) + shift;
      }
      const joined = await madeOf(
        {
          ...first,
          id: randomUUID(),
          name,
          endedAt: rest.at(-1)!.endedAt,
          lostReadings: parts.reduce((n, p) => n + p.lostReadings, 0),
          issues: parts.flatMap((p) => p.issues).slice(0, 200),
          markers: [],
          excluded: null,
          sourceChecksum: null,
        },
        pieces,
      );
      await tables.recordings.insert(joined);
      await tables.logbook.write(gadgetId, 'runs', `Run "${name}" joined from ${parts.length} runs.`);
      bench.changed(gadgetId, 'recordings');
      return joined;
    },

    async mark(id: string, { timeS, text }: NewMarker): Promise<Recording> {
      const recording = await tables.recordings.find(id);
      if (!recording) throw notFound('recording', id);
      const recorder = bench.links.of(recording.gadgetId)?.recorder;
      const live = recorder?.recording.id === id ? recorder.newestS : null;
      const at = timeS ?? live ?? recording.lastTimeS;
      if (at === null || (timeS !== null && live === null && !inside(recording, timeS)))
        throw invalid(
          timeS === null
            ? 'No readings yet.'
            : `The run goes from ${recording.firstTimeS} to ${recording.lastTimeS} s; ${timeS} s is outside.`,
          'Choose a time within the run.',
          'timeS',
        );
      const markers = await tables.recordings.addMarker(id, { timeS: at, text });
      bench.changed(recording.gadgetId, 'recordings');
      return { ...recording, markers };
    },

    async unmark(id: string, markerId: string): Promise<Recording> {
      const recording = await tables.recordings.find(id);
      if (!recording) throw notFound('recording', id);
      const markers = recording.markers.filter((m) => m.id !== markerId);
      await tables.recordings.setMarkers(id, markers);
      bench.changed(recording.gadgetId, 'recordings');
      return { ...recording, markers };
    },

    /** Hides a recording; it can be brought back for thirty days. */
    async remove(id: string): Promise<void> {
      const recording = await finished(id);
      await tables.recordings.setDeleted(id, bench.now());
      await tables.logbook.write(recording.gadgetId, 'runs', `Run "${recording.name}" deleted.`);
      bench.changed(recording.gadgetId, 'recordings');
    },

    async restore(id: string): Promise<Recording> {
      if (!(await tables.recordings.setDeleted(id, null))) throw notFound('deleted run', id);
      const recording = (await tables.recordings.find(id))!;
      await tables.logbook.write(recording.gadgetId, 'runs', `Run "${recording.name}" restored.`);
      bench.changed(recording.gadgetId, 'recordings');
      return recording;
    },

    /** Frees the room of what was deleted long ago. */
    purge: (): Promise<number> =>
      tables.recordings.purge(new Date(Date.parse(bench.now()) - DELETED_DAYS * 86_400_000).toISOString()),

    async disk(): Promise<DiskState> {
      const { bavail, bsize } = await statfs(bench.dataDir);
      const sizes = await Promise.all(
        ['', '-wal'].map((tail) =>
          stat(join(bench.dataDir, `lucky-needle.sqlite${tail}`)).then(
            (s) => s.size,
            () => 0,
          ),
        ),
      );
      const bytesPerDay = bench.links
        .all()
        .filter((r) => r.recorder !== null)
        .reduce((sum, r) => {
          const { columns, sampleRateHz } = r.recorder!.recording;
          return sum + storedBytesPerDay(columns.length, sampleRateHz);
        }, 0);
      const freeBytes = bavail * bsize;
      return {
        freeBytes,
        databaseBytes: sizes.reduce((a, b) => a + b, 0),
        bytesPerDay,
        daysLeft: bytesPerDay > 0 ? freeBytes / bytesPerDay : null,
      };
    },
  };
}

const inside = (r: Recording, timeS: number) =>
  r.firstTimeS !== null && timeS >= r.firstTimeS && timeS <= r.lastTimeS!;

/** When that moment of a run was, by the clock on the wall: a simulated gadget may have run faster than it. */
function laterBy(r: Recording, atS: number): string {
  const began = Date.parse(r.startedAt);
  // What came from a file ended when it was brought in.
  const tookMs = (r.endedAt === null || r.sourceChecksum ? Infinity : Date.parse(r.endedAt)) - began;
  const pace = Math.min(1000, r.pieces === null ? tookMs / (r.lastTimeS! - r.firstTimeS!) : 1000);
  return new Date(began + Math.min(tookMs, pace * (atS - (r.firstTimeS ?? 0)))).toISOString();
}
