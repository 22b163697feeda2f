import type { Knex } from 'knex';
import type { ReadoutMemory, Reading } from '@lucky-needle/core/reading';
import { ProblemError } from '../http/problem.ts';
import type { Position } from '../recordings/pieces.ts';
import { memoryFromText } from './memoryText.ts';

/** Where the readings of a recording can be gone on with. */
export interface Cursor {
  readonly at: Position;
  readonly memory: ReadoutMemory;
  /** The last reading before, and when the last row before came. */
  readonly newest: Reading;
  readonly rawS: number;
}

/** Per stage, raw first: how many values, and how many bad ones of each reason. */
export type Tally = readonly { readonly length: number; readonly bad: Readonly<Record<number, number>> }[];

export interface Segment {
  readonly seq: number;
  readonly firstS: number;
  readonly lastS: number;
  readonly tally: Tally;
}

/** As it is stored: text is made where the segment is, and goes from thread to thread as it is. */
export interface NewSegment {
  readonly seq: number;
  readonly firstS: number;
  readonly lastS: number;
  /** The cursor that it begins at. */
  readonly start: string;
  readonly tally: string;
  readonly overviews: Readonly<Record<Level, Float64Array>>;
}

/** What a view grows by. */
export interface Growth {
  /** How many segments it has before. */
  readonly before: number;
  readonly made: readonly NewSegment[];
  /** The cursor where it goes on, as text. */
  readonly next: string;
  /** Whether that is all of it. */
  readonly complete: boolean;
}

/** Readings that a bucket of each overview stands for. */
export const LEVELS = [64, 512, 4096] as const;
export type Level = (typeof LEVELS)[number];

/** Views that are kept of one recording; the one that was longest not looked at goes first. */
const MOST_OF_A_RECORDING = 40;
/** How often it is noted that a view is looked at. */
const NOTED_MS = 60_000;

interface SegmentRow {
  view_id: string;
  seq: number;
  first_time_s: number;
  last_time_s: number;
  start: string;
  tally: string;
  every64: Buffer;
  every512: Buffer;
  every4096: Buffer;
}

/** Checkpoints and overviews of the readings of recordings, beside their samples. All of it can be made again. */
export function viewStore(knex: Knex) {
  const views = () =>
    knex<{ id: string; recording_id: string; used_at: number; complete: number; next: string }>(
      'reading_views',
    );
  const segments = () => knex<SegmentRow>('reading_segments');
  return {
    /** Whether a view is there, and whether it holds all of its recording. */
    async state(id: string): Promise<'none' | 'begun' | 'complete'> {
      const row = await views().where({ id }).select('complete').first();
      return row ? (row.complete === 1 ? 'complete' : 'begun') : 'none';
    },

    /** Where a view that is begun goes on. */
    async next(id: string): Promise<Cursor | null> {
      const row = await views().where({ id }).select('next').first();
      return row ? (memoryFromText(row.next) as Cursor) : null;
    },

    /** Adds segments to a view. @throws {ProblemError} when those before were dropped meanwhile */
    async append(
      id: string,
      recordingId: string,
      { before, made, next, complete }: Growth,
      usedAt: number,
    ): Promise<void> {
      await knex.transaction(async (trx) => {
        const last = { view_id: id, seq: before - 1 };
        if (before > 0 && !(await trx('reading_segments').where(last).first('seq'))) throw dropped();
        await trx('reading_views')
          .insert({
            id,
            recording_id: recordingId,
            used_at: usedAt,
            complete: complete ? 1 : 0,
            next,
          })
          .onConflict('id')
          .merge();
        if (made.length === 0) return;
        await trx<SegmentRow>('reading_segments')
          .insert(
            made.map((segment) => ({
              view_id: id,
              seq: segment.seq,
              first_time_s: segment.firstS,
              last_time_s: segment.lastS,
              start: segment.start,
              tally: segment.tally,
              every64: bytesOf(segment.overviews[64]),
              every512: bytesOf(segment.overviews[512]),
              every4096: bytesOf(segment.overviews[4096]),
            })),
          )
          .onConflict(['view_id', 'seq'])
          .merge();
      });
    },

    async segments(id: string): Promise<Segment[]> {
      const rows = await segments()
        .where({ view_id: id })
        .orderBy('seq')
        .select('seq', 'first_time_s', 'last_time_s', 'tally');
      return rows.map((r) => ({
        seq: r.seq,
        firstS: r.first_time_s,
        lastS: r.last_time_s,
        tally: JSON.parse(r.tally) as Tally,
      }));
    },

    async start(id: string, seq: number): Promise<Cursor> {
      const row = await segments().where({ view_id: id, seq }).select('start').first();
      return memoryFromText(row!.start) as Cursor;
    },

    /** Overviews of a run of segments, in order. */
    async overviews(id: string, level: Level, from: number, to: number): Promise<Float64Array[]> {
      const column = `every${level}` as const;
      const rows = (await segments()
        .where({ view_id: id })
        .whereBetween('seq', [from, to])
        .orderBy('seq')
        .select(column)) as unknown as Record<string, Buffer>[];
      return rows.map((row) => new Float64Array(new Uint8Array(row[column]!).buffer));
    },

    /** Notes that a view is looked at. */
    async use(id: string, recordingId: string, usedAt: number): Promise<void> {
      // Noted now and then, since it costs a write.
      const noted = await views()
        .where({ id })
        .where('used_at', '<', usedAt - NOTED_MS)
        .update({ used_at: usedAt });
      if (noted > 0) await this.purge(recordingId);
    },

    /** Lets go of the views of a recording that have not been looked at for longest. */
    async purge(recordingId: string): Promise<void> {
      const old = await views()
        .where({ recording_id: recordingId })
        .orderBy('used_at', 'desc')
        .offset(MOST_OF_A_RECORDING)
        .limit(1000)
        .select('id');
      if (old.length > 0)
        await views()
          .whereIn(
            'id',
            old.map((o) => o.id),
          )
          .delete();
    },

    removeAll: () => views().delete(),
  };
}

const dropped = () =>
  new ProblemError(
    409,
    'readings-dropped',
    'Calculation discarded',
    'The results for this run were discarded while they were being calculated.',
    'Open the run again to recalculate them.',
  );

export type ViewStore = ReturnType<typeof viewStore>;

const bytesOf = (numbers: Float64Array): Buffer =>
  Buffer.from(numbers.buffer, numbers.byteOffset, numbers.byteLength);
