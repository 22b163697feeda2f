import type { Recording } from '@lucky-needle/core/model';
import { mergeOverview, OverviewBuilder, type ReadoutChannel } from '@lucky-needle/core/reading';
import type { Position } from '../recordings/pieces.ts';
import type { Samples } from '../recordings/sampleStore.ts';
import { memoryToText } from './memoryText.ts';
import { SegmentRun } from './segmentRun.ts';
import { LEVELS, type Cursor, type NewSegment, type ViewStore } from './viewStore.ts';

/** Chunks of samples between two checkpoints; more where a line remembers much, so that they stay small beside the samples. */
const CHUNKS = 4;
const MEMORY_TEXT = 100_000;
/** Segments that are committed together: each commit waits for the disk. */
const SEGMENTS_AT_ONCE = 16;

/** A view while it is brought up to the end of its recording. */
export interface GrowingView {
  /** Where the samples begin that it has not been given yet. */
  readonly from: Position;
  /** The next chunk of samples. @param at its place */
  take(at: Position, samples: Samples): Promise<void>;
  /** There are no more, for now or for good. */
  end(): Promise<void>;
}

/**
 * Goes on with a view from where it was left.
 * @param seq how many segments it has @param start where it stands; null at the beginning of its recording
 */
export function growView(
  store: ViewStore,
  recording: Recording,
  channel: ReadoutChannel,
  { id, seq: known, start }: { readonly id: string; readonly seq: number; readonly start: Cursor | null },
  now: () => number,
): GrowingView {
  const run = new SegmentRun(recording, channel, start);
  const from = start?.at ?? { piece: 0, chunk: 0 };
  let seq = known;
  let segment = begin(run, from, recording.sampleRateHz);
  let made: NewSegment[] = [];

  async function append(next: Position, end: boolean): Promise<void> {
    if (segment.chunks > 0) made.push({ ...finish(segment, run), seq: seq++ });
    segment = begin(run, next, recording.sampleRateHz);
    if (!end && made.length < SEGMENTS_AT_ONCE) return;
    await store.append(id, recording.id, made, segment.start, end, now());
    made = [];
  }

  return {
    from,
    async take(at, samples) {
      if (segment.chunks >= segment.most) await append(at, false);
      add(segment, run, samples);
    },
    async end() {
      // What is still being recorded goes on in its last chunk: only what lies behind a full one is kept.
      if (recording.state === 'recording') {
        if (made.length > 0) await store.append(id, recording.id, made, segment.start, false, now());
        return;
      }
      const { at } = segment.start;
      await append({ piece: Math.max(at.piece, (recording.pieces ?? [0]).length), chunk: 0 }, true);
    },
  };
}

interface OpenSegment {
  readonly start: Cursor;
  readonly overview: OverviewBuilder;
  readonly most: number;
  chunks: number;
  firstS: number;
  lastS: number;
}

function begin(run: SegmentRun, at: Position, sampleRateHz: number): OpenSegment {
  const start = run.cursor(at);
  const size = memoryToText(start.memory).length;
  return {
    start,
    // At the full rate a bucket is full long before.
    overview: new OverviewBuilder(start.newest, (2 * LEVELS[0]) / sampleRateHz),
    most: CHUNKS * Math.max(1, Math.ceil(size / MEMORY_TEXT)),
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
    start: segment.start,
    firstS: segment.firstS,
    lastS: segment.lastS,
    tally: run.takeTally(),
    overviews: { 64: every64, 512: every512, 4096: mergeOverview(every512, 8) },
  };
}
