import type { Recording } from '@lucky-needle/core/model';
import { mergeOverview, OverviewBuilder, type ReadoutChannel } from '@lucky-needle/core/reading';
import type { Position } from '../recordings/pieces.ts';
import type { Samples } from '../recordings/sampleStore.ts';
import { memoryToText } from './memoryText.ts';
import { SegmentRun } from './segmentRun.ts';
import { LEVELS, type Cursor, type Growth, type NewSegment } from './viewStore.ts';

/** Chunks of samples between two checkpoints; more where a line remembers much, so that they stay small beside the samples. */
const CHUNKS = 4;
const MEMORY_TEXT = 100_000;
/** Segments that are committed together: each commit waits for the disk. */
const SEGMENTS_AT_ONCE = 16;

/** A view while it is brought up to the end of its recording. */
export interface GrowingView {
  /** The next chunk of samples. @param at its place */
  take(at: Position, samples: Samples): Promise<void>;
  /** There are no more, for now or for good. */
  end(): Promise<void>;
}

/** A view that is not there up to the end of its recording. */
export interface ShortView {
  readonly id: string;
  readonly channel: ReadoutChannel;
  /** How many segments it has. */
  readonly seq: number;
  /** Where it stands; null at the beginning of its recording. */
  readonly start: Cursor | null;
}

/** Keeps what was made of a view. */
export type KeepSegments = (growth: Growth) => Promise<void>;

/** Where the samples begin that a view has not been given yet. */
export const placeOf = ({ start }: ShortView): Position => start?.at ?? { piece: 0, chunk: 0 };

/** Goes on with a view from where it was left. @throws {LineError} when its line cannot run */
export function growView(recording: Recording, view: ShortView, keep: KeepSegments): GrowingView {
  const { channel, seq: known, start } = view;
  const run = new SegmentRun(recording, channel, start);
  let seq = known;
  let segment = begin(run, placeOf(view), recording.sampleRateHz);
  let made: NewSegment[] = [];

  async function keepMade(complete: boolean): Promise<void> {
    const all = made;
    made = [];
    await keep({ before: seq - all.length, made: all, next: segment.startText, complete });
  }

  async function append(next: Position, end: boolean): Promise<void> {
    if (segment.chunks > 0) made.push({ ...finish(segment, run), seq: seq++ });
    segment = begin(run, next, recording.sampleRateHz);
    if (!end && made.length < SEGMENTS_AT_ONCE) return;
    await keepMade(end);
  }

  return {
    async take(at, samples) {
      if (segment.chunks >= segment.most) await append(at, false);
      add(segment, run, samples);
    },
    async end() {
      // What is still being recorded goes on in its last chunk: only what lies behind a full one is kept.
      if (recording.state === 'recording') {
        if (made.length > 0) await keepMade(false);
        return;
      }
      const { at } = segment.start;
      await append({ piece: Math.max(at.piece, (recording.pieces ?? [0]).length), chunk: 0 }, true);
    },
  };
}

interface OpenSegment {
  readonly start: Cursor;
  readonly startText: string;
  readonly overview: OverviewBuilder;
  readonly most: number;
  chunks: number;
  firstS: number;
  lastS: number;
}

function begin(run: SegmentRun, at: Position, sampleRateHz: number): OpenSegment {
  const start = run.cursor(at);
  const startText = memoryToText(start);
  return {
    start,
    startText,
    // At the full rate a bucket is full long before.
    overview: new OverviewBuilder(start.newest, (2 * LEVELS[0]) / sampleRateHz),
    most: CHUNKS * Math.max(1, Math.ceil(startText.length / MEMORY_TEXT)),
    chunks: 0,
    firstS: Number.NaN,
    lastS: Number.NaN,
  };
}

function add(segment: OpenSegment, run: SegmentRun, samples: Samples): void {
  const { overview } = segment;
  run.feed(samples, {
    reading: (timeS, value) => overview.add(timeS, value),
    gap: (gap) => overview.gap(gap),
    block: (times, values, count) => overview.addAll(times, values, count),
  });
  if (segment.chunks === 0) segment.firstS = samples.times[0]!;
  segment.lastS = samples.times.at(-1)!;
  segment.chunks++;
}

function finish(segment: OpenSegment, run: SegmentRun): Omit<NewSegment, 'seq'> {
  const every64 = segment.overview.pack();
  const every512 = mergeOverview(every64, 8);
  return {
    start: segment.startText,
    firstS: segment.firstS,
    lastS: segment.lastS,
    tally: JSON.stringify(run.takeTally()),
    overviews: { 64: every64, 512: every512, 4096: mergeOverview(every512, 8) },
  };
}
