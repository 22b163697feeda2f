import type { Knex } from 'knex';
import type { Piece, Recording } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import { countInside, readChunks, type Samples } from './sampleStore.ts';

/** What a recording is made of: its own samples whole, or stretches of its own and of others. */
export const piecesOf = (recording: Pick<Recording, 'id' | 'pieces'>): readonly Piece[] =>
  recording.pieces ?? [{ of: recording.id, fromS: null, toS: null, shiftS: 0 }];

/** A piece within a stretch of the recording's time, in the time of its owner; null when they do not meet. */
export function within(piece: Piece, fromS: number, toS: number): { fromS: number; toS: number } | null {
  const from = Math.max(piece.fromS ?? -Infinity, fromS - piece.shiftS);
  const to = Math.min(piece.toS ?? Infinity, toS - piece.shiftS);
  return from <= to ? { fromS: from, toS: to } : null;
}

/** Samples of a recording in a stretch of its time, chunk by chunk, whatever it is made of. */
export async function* readSamples(
  knex: Knex,
  recording: Pick<Recording, 'id' | 'pieces' | 'columns'>,
  fromS = -Infinity,
  toS = Infinity,
): AsyncGenerator<Samples> {
  for (const piece of piecesOf(recording)) {
    const part = within(piece, fromS, toS);
    if (!part) continue;
    for await (const samples of readChunks(knex, piece.of, recording.columns.length, part.fromS, part.toS)) {
      const first = lowerBound(samples.times, part.fromS);
      const last = upTo(samples.times, part.toS);
      if (last <= first) continue;
      const times = samples.times.subarray(first, last);
      yield {
        times: piece.shiftS === 0 ? times : times.map((t) => t + piece.shiftS),
        columns: samples.columns.map((c) => c.subarray(first, last)),
      };
    }
  }
}

export interface Extent {
  readonly sampleCount: number;
  readonly firstTimeS: number | null;
  readonly lastTimeS: number | null;
}

/** How many samples some pieces hold, and from when to when. Only chunks that a piece cuts through are read. */
export async function extentOf(
  knex: Knex,
  recording: Pick<Recording, 'id' | 'pieces' | 'columns'>,
): Promise<Extent> {
  let sampleCount = 0;
  let [first, last] = [Infinity, -Infinity];
  const count = (n: number, fromS: number, toS: number) => {
    sampleCount += n;
    first = Math.min(first, fromS);
    last = Math.max(last, toS);
  };
  for (const { of, fromS, toS, shiftS } of piecesOf(recording)) {
    const [from, to] = [fromS ?? -Infinity, toS ?? Infinity];
    const inside = await countInside(knex, of, from, to);
    if (inside) count(inside.count, inside.firstS + shiftS, inside.lastS + shiftS);
    for await (const { times } of readChunks(knex, of, recording.columns.length, from, to, true)) {
      const [a, b] = [lowerBound(times, from), upTo(times, to)];
      if (b > a) count(b - a, times[a]! + shiftS, times[b - 1]! + shiftS);
    }
  }
  return sampleCount === 0
    ? { sampleCount, firstTimeS: null, lastTimeS: null }
    : { sampleCount, firstTimeS: first, lastTimeS: last };
}

/** Index after the last time that is not beyond a moment. */
function upTo(times: Float64Array, toS: number): number {
  let last = lowerBound(times, toS);
  while (last < times.length && times[last]! <= toS) last++;
  return last;
}
