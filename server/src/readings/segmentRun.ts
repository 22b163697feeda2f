import type { Block, LineMemory } from '@lucky-needle/core/line';
import type { Recording } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import {
  createReadout,
  type Gap,
  type Readout,
  type ReadoutChannel,
  type ReadoutMemory,
} from '@lucky-needle/core/reading';
import type { Position } from '../recordings/pieces.ts';
import type { Samples } from '../recordings/sampleStore.ts';
import type { Cursor, Tally } from './viewStore.ts';

/** Rows further apart than so many periods have a gap between them. */
const GAP_PERIODS = 2.5;

export interface ReadingVisitor {
  /** With the one before it, whose value is NaN where it is not to be gone on from. */
  reading(timeS: number, value: number, beforeS: number, before: number): void;
  gap(gap: Gap): void;
  /** Many readings at once, with no gap among them; one by one where it is not there. */
  block?(times: Float64Array, values: Float64Array, count: number): void;
}

/** What the readout of one channel remembers where its line has remembered so much. */
export function memoryOf(
  recording: Pick<Recording, 'columns' | 'sampleRateHz'>,
  channel: ReadoutChannel,
  line: LineMemory,
): ReadoutMemory {
  const readout = readoutOf(recording, channel);
  readout.restoreChannel(0, line);
  return readout.save();
}

/** @throws {LineError} when its line cannot run */
export function readoutOf(
  recording: Pick<Recording, 'columns' | 'sampleRateHz'>,
  channel: ReadoutChannel,
): Readout {
  const readout = createReadout({
    columns: recording.columns.map((c) => c.name),
    sampleRateHz: recording.sampleRateHz,
    channels: [channel],
    readingsOnly: true,
  });
  const { problem } = readout.lines[0]!;
  if (problem) throw problem;
  return readout;
}

/** One channel of a recording, run from some place on: each reading goes to a visitor, with the one before it. */
export class SegmentRun {
  readonly readout: Readout;
  private newestS = Number.NaN;
  private newestValue = Number.NaN;
  private rawS = Number.NaN;
  private readonly longestS: number;
  /** What is counted for the tally; all when null. */
  private readonly within: { readonly fromS: number; readonly toS: number } | null;
  private lengths: number[] = [];
  private bad: Record<number, number>[] = [];

  constructor(
    recording: Pick<Recording, 'columns' | 'sampleRateHz'>,
    channel: ReadoutChannel,
    from: Cursor | null = null,
    within: { readonly fromS: number; readonly toS: number } | null = null,
  ) {
    this.within = within;
    this.readout = readoutOf(recording, channel);
    this.longestS = GAP_PERIODS / recording.sampleRateHz;
    if (!from) return;
    this.readout.restore(from.memory);
    this.newestS = from.newest.timeS;
    this.newestValue = from.newest.value;
    this.rawS = from.rawS;
  }

  /** Where it stands. @param at the place of the next samples */
  cursor(at: Position): Cursor {
    const newest = { timeS: this.newestS, value: this.newestValue };
    return { at, memory: this.readout.save(), newest, rawS: this.rawS };
  }

  feed(samples: Samples, visit: ReadingVisitor): void {
    const gaps = this.gapsIn(samples.times);
    let nextGap = 0;
    this.readout.feed({ length: samples.times.length, ...samples }, (_channel, stages) => {
      this.count(stages);
      const { length, times, lanes } = stages.at(-1)!;
      const { values } = lanes[0]!;
      if (visit.block && length > 0 && !(nextGap < gaps.length && gaps[nextGap]!.toS <= times[length - 1]!)) {
        visit.block(times, values, length);
        this.newestS = times[length - 1]!;
        this.newestValue = values[length - 1]!;
        return;
      }
      for (let i = 0; i < length; i++) {
        const timeS = times[i]!;
        while (nextGap < gaps.length && gaps[nextGap]!.toS <= timeS) this.pass(gaps[nextGap++]!, visit);
        const value = values[i]!;
        visit.reading(timeS, value, this.newestS, this.newestValue);
        this.newestS = timeS;
        this.newestValue = value;
      }
    });
    while (nextGap < gaps.length) this.pass(gaps[nextGap++]!, visit);
  }

  /** What came to each stage since the last call. */
  takeTally(): Tally {
    const tally = this.lengths.map((length, k) => ({ length, bad: this.bad[k]! }));
    this.lengths = [];
    this.bad = [];
    return tally;
  }

  private pass(gap: Gap, visit: ReadingVisitor): void {
    visit.gap(gap);
    this.newestValue = Number.NaN;
  }

  private gapsIn(times: Float64Array): Gap[] {
    const gaps: Gap[] = [];
    let before = this.rawS;
    for (let i = 0; i < times.length; i++) {
      const t = times[i]!;
      if (t - before > this.longestS) gaps.push({ fromS: before, toS: t });
      before = t;
    }
    this.rawS = before;
    return gaps;
  }

  private count(stages: readonly Block[]): void {
    stages.forEach(({ length: all, times, lanes }, k) => {
      const instants = times.subarray(0, all);
      const first = this.within ? lowerBound(instants, this.within.fromS) : 0;
      const length = this.within ? upperBound(instants, this.within.toS) : all;
      this.lengths[k] = (this.lengths[k] ?? 0) + Math.max(0, length - first);
      const bad = (this.bad[k] ??= {});
      const { reasons } = lanes[0]!;
      if (allGood(reasons, length)) return;
      for (let i = first; i < length; i++) {
        const reason = reasons[i]!;
        if (reason !== 0) bad[reason] = (bad[reason] ?? 0) + 1;
      }
    });
  }
}

/** Whether the first so many reasons are all zero; four at a time, which is nearly always enough. */
function allGood(reasons: Uint8Array, count: number): boolean {
  let i = 0;
  if (reasons.byteOffset % 4 === 0) {
    const words = new Int32Array(reasons.buffer, reasons.byteOffset, count >> 2);
    while (i < words.length && words[i] === 0) i++;
    if (i < words.length) return false;
    i *= 4;
  }
  while (i < count && reasons[i] === 0) i++;
  return i >= count;
}

/** Index behind the last that is not above a value. */
function upperBound(values: Float64Array, value: number): number {
  let at = lowerBound(values, value);
  while (at < values.length && values[at]! <= value) at++;
  return at;
}
