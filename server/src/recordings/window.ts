import { encodeSampleBlock } from '@lucky-needle/core/formats';
import type { Recording } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import type { Knex } from 'knex';
import { readChunks } from './sampleStore.ts';

/** Samples that leave in one window unreduced, at the most. */
export const MAX_WINDOW_SAMPLES = 2_000_000;

/**
 * A stretch of a recording as a binary sample block. When it holds more than `points` samples, each stretch of equal
 * count gives two rows: lowest, then highest, of every column.
 */
export async function recordingWindow(
  knex: Knex,
  recording: Recording,
  fromS: number,
  toS: number,
  points: number,
): Promise<ArrayBuffer> {
  const times: Float64Array[] = [];
  const columns: Float64Array[][] = recording.columns.map(() => []);
  let count = 0;
  for await (const samples of readChunks(knex, recording.id, recording.columns.length, fromS, toS)) {
    const first = lowerBound(samples.times, fromS);
    const last = lowerBound(samples.times, toS + 1e-12);
    times.push(samples.times.subarray(first, last));
    samples.columns.forEach((column, i) => columns[i]!.push(column.subarray(first, last)));
    count += last - first;
  }
  const allTimes = join(times, count);
  const allColumns = columns.map((pieces) => join(pieces, count));
  const stretch = count > points ? Math.ceil(count / Math.max(1, Math.floor(points / 2))) : 1;
  const reduced =
    stretch > 1 ? reducePairs(allTimes, allColumns, stretch) : { times: allTimes, columns: allColumns };
  return encodeSampleBlock({
    header: {
      columns: recording.columns,
      count: reduced.times.length,
      reducedBy: stretch,
      recordingId: recording.id,
    },
    times: reduced.times,
    columns: reduced.columns,
  });
}

function join(pieces: readonly Float64Array[], count: number): Float64Array {
  const all = new Float64Array(count);
  let at = 0;
  for (const piece of pieces) {
    all.set(piece, at);
    at += piece.length;
  }
  return all;
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
