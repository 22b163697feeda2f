import { encodeSampleBlock } from '@lucky-needle/core/formats';
import type { Recording } from '@lucky-needle/core/model';
import type { Knex } from 'knex';
import { BUCKET_SAMPLES, joinBuckets, pairsOf } from '../db/overview.ts';
import { piecesOf, readSamples, within } from './pieces.ts';
import { CHUNK_SAMPLES, countAbout, readChunkRanges, readOverviews, type Samples } from './sampleStore.ts';

/** Samples that leave in one window unreduced, at the most. */
export const MAX_WINDOW_SAMPLES = 2_000_000;

/** More samples than these are not taken into memory only to be reduced: every 64 of them will do. */
const MOST_REDUCED_FROM_SAMPLES = 500_000;

/**
 * A stretch of a recording as a binary sample block. When it holds more than `points` samples, each stretch of equal
 * count gives two rows: lowest, then highest, of every column. They come from the samples themselves, from what was kept of
 * every 64 of them, or of every chunk, so that a look at a second and at a year cost about the same.
 */
export async function recordingWindow(
  knex: Knex,
  recording: Recording,
  fromS: number,
  toS: number,
  points: number,
): Promise<ArrayBuffer> {
  const parts = piecesOf(recording).flatMap((piece) => {
    const part = within(piece, fromS, toS);
    return part ? [{ piece, ...part }] : [];
  });
  const counts = await Promise.all(parts.map((p) => countAbout(knex, p.piece.of, p.fromS, p.toS)));
  const count = counts.reduce((a, b) => a + b, 0);
  const stretch = count / Math.max(1, Math.floor(points / 2));
  // Chunks at the ends count whole, so what is wanted whole may seem a few too many.
  const whole = count <= points + 2 * CHUNK_SAMPLES * parts.length;
  const { samples, reducedBy } =
    whole || (stretch < 2 * BUCKET_SAMPLES && count <= MOST_REDUCED_FROM_SAMPLES)
      ? await fromSamples(knex, recording, fromS, toS, points)
      : await fromOverviews(knex, recording, parts, stretch);
  return encodeSampleBlock({
    header: {
      columns: recording.columns,
      count: samples.times.length,
      reducedBy,
      recordingId: recording.id,
    },
    times: samples.times,
    columns: samples.columns,
  });
}

interface Reduced {
  readonly samples: Samples;
  /** Samples that each pair of rows stands for. */
  readonly reducedBy: number;
}

async function fromSamples(
  knex: Knex,
  recording: Recording,
  fromS: number,
  toS: number,
  points: number,
): Promise<Reduced> {
  const pieces: Samples[] = [];
  for await (const samples of readSamples(knex, recording, fromS, toS)) pieces.push(samples);
  const all = joinSamples(pieces, recording.columns.length);
  const count = all.times.length;
  if (count <= points) return { samples: all, reducedBy: 1 };
  const stretch = Math.ceil(count / Math.max(1, Math.floor(points / 2)));
  return { samples: reducePairs(all.times, all.columns, stretch), reducedBy: stretch };
}

async function fromOverviews(
  knex: Knex,
  recording: Recording,
  parts: readonly { piece: { of: string; shiftS: number }; fromS: number; toS: number }[],
  stretch: number,
): Promise<Reduced> {
  const columnCount = recording.columns.length;
  const coarse = stretch >= 2 * CHUNK_SAMPLES;
  const size = coarse ? CHUNK_SAMPLES : BUCKET_SAMPLES;
  const each = Math.max(1, Math.ceil(stretch / size));
  const reduced: Samples[] = [];
  for (const { piece, fromS, toS } of parts) {
    const found = coarse
      ? [await readChunkRanges(knex, piece.of, columnCount, fromS, toS)]
      : await readOverviews(knex, piece.of, columnCount, fromS, toS);
    const { times, columns } = pairsOf(joinBuckets(found, columnCount, fromS, toS), each);
    reduced.push({ times: piece.shiftS === 0 ? times : times.map((t) => t + piece.shiftS), columns });
  }
  return { samples: joinSamples(reduced, columnCount), reducedBy: each * size };
}

function joinSamples(pieces: readonly Samples[], columnCount: number): Samples {
  const count = pieces.reduce((n, p) => n + p.times.length, 0);
  const join = (of: (p: Samples) => Float64Array) => {
    const all = new Float64Array(count);
    let at = 0;
    for (const piece of pieces) {
      all.set(of(piece), at);
      at += of(piece).length;
    }
    return all;
  };
  return {
    times: join((p) => p.times),
    columns: Array.from({ length: columnCount }, (_, k) => join((p) => p.columns[k]!)),
  };
}

function reducePairs(times: Float64Array, columns: readonly Float64Array[], stretch: number) {
  const rows = Math.ceil(times.length / stretch);
  const outTimes = new Float64Array(rows * 2);
  const outColumns = columns.map(() => new Float64Array(rows * 2));
  for (let row = 0; row < rows; row++) {
    const from = row * stretch;
    const to = Math.min(times.length, from + stretch);
    outTimes[2 * row] = times[from]!;
    outTimes[2 * row + 1] = times[(from + to - 1) >> 1]!;
    columns.forEach((column, k) => {
      let low = Infinity;
      let high = -Infinity;
      for (let i = from; i < to; i++) {
        const v = column[i]!;
        if (v < low) low = v;
        if (v > high) high = v;
      }
      outColumns[k]![2 * row] = low === Infinity ? Number.NaN : low;
      outColumns[k]![2 * row + 1] = high === -Infinity ? Number.NaN : high;
    });
  }
  return { times: outTimes, columns: outColumns };
}
