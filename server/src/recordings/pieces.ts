import type { Knex } from 'knex';
import type { Piece, Recording } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import { askPool, countInside, readChunks, type AskChunks, type Samples } from './sampleStore.ts';
import { turns } from './turns.ts';

/** What a recording is made of: its own samples whole, or stretches of its own and of others. */
export const piecesOf = (recording: Pick<Recording, 'id' | 'pieces'>): readonly Piece[] =>
  recording.pieces ?? [{ of: recording.id, fromS: null, toS: null, shiftS: 0 }];

/** A piece within a stretch of the recording's time, in the time of its owner; null when they do not meet. */
export function within(piece: Piece, fromS: number, toS: number): { fromS: number; toS: number } | null {
  const from = Math.max(piece.fromS ?? -Infinity, fromS - piece.shiftS);
  const to = Math.min(piece.toS ?? Infinity, toS - piece.shiftS);
  return from <= to ? { fromS: from, toS: to } : null;
}

/** A place in what a recording is made of: a chunk of one of its pieces. */
export interface Position {
  readonly piece: number;
  readonly chunk: number;
}

/** Samples of a recording in a stretch of its time, chunk by chunk, whatever it is made of. */
export async function* readSamples(
  knex: Knex,
  recording: Pick<Recording, 'id' | 'pieces' | 'columns'>,
  fromS = -Infinity,
  toS = Infinity,
): AsyncGenerator<Samples> {
  for await (const { samples } of walkSamples(knex, recording, { piece: 0, chunk: 0 }, fromS, toS))
    yield samples;
}

/** Samples of a chunk, with its place. */
export interface Placed {
  readonly at: Position;
  readonly samples: Samples;
}

/** The same from a place on, each with its own place. */
export const walkSamples = (
  knex: Knex,
  recording: Pick<Recording, 'id' | 'pieces' | 'columns'>,
  from: Position,
  fromS = -Infinity,
  toS = Infinity,
): AsyncGenerator<Placed> => walkChunks(askPool(knex), recording, from, fromS, toS);

/** The same from wherever the chunks are asked for. */
export async function* walkChunks(
  ask: AskChunks,
  recording: Pick<Recording, 'id' | 'pieces' | 'columns'>,
  from: Position,
  fromS: number,
  toS: number,
): AsyncGenerator<Placed> {
  const pieces = piecesOf(recording);
  const letOthersIn = turns();
  for (let k = from.piece; k < pieces.length; k++) {
    const piece = pieces[k]!;
    const part = within(piece, fromS, toS);
    if (!part) continue;
    const chunks = readChunks(ask, piece.of, recording.columns.length, part.fromS, part.toS, {
      firstSeq: k === from.piece ? from.chunk : 0,
    });
    for await (const { seq, times: all, columns } of chunks) {
      const first = lowerBound(all, part.fromS);
      const last = upTo(all, part.toS);
      if (last <= first) continue;
      const times = all.subarray(first, last);
      yield {
        at: { piece: k, chunk: seq },
        samples: {
          times: piece.shiftS === 0 ? times : times.map((t) => t + piece.shiftS),
          columns: columns.map((c) => c.subarray(first, last)),
        },
      };
      await letOthersIn();
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
    for await (const { times } of readChunks(askPool(knex), of, recording.columns.length, from, to, {
      edgesOnly: true,
    })) {
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
