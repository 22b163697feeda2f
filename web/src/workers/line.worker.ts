import { expose, transfer } from 'comlink';
import { stretchesBeyond, type BeyondRule, type BeyondStretch } from '@lucky-needle/core/detect';
import { reduceForPlot, type SampleBlock } from '@lucky-needle/core/formats';
import { compileLine, runLine } from '@lucky-needle/core/line';
import { lowerBound } from '@lucky-needle/core/numerics';
import type { Evidence, FitResult, LineSpec } from '@lucky-needle/core/model';
import { fetchWindow } from '../api/fetchWindow.ts';
import { previewGuided } from './previewGuided.ts';
import { differenceOf } from './differenceOf.ts';
import { rateOf, rawColumns } from './rawColumns.ts';

export interface ReducedReading {
  readonly times: Float64Array;
  readonly values: Float64Array;
  readonly reducedBy: number;
  /** Samples that came out as no number. */
  readonly bad: number;
  readonly low: number;
  readonly high: number;
}

export interface ComparedReadings {
  readonly readings: readonly [ReducedReading, ReducedReading];
  /** Second less first, thinned for drawing. */
  readonly difference: ReducedReading;
  readonly meanDifference: number;
}

/** More bands than this are a wash of colour. */
const MOST_STRETCHES = 200;

/** Looks under way, by who wants them: a newer wish of the same one ends the older. */
const looks = new Map<string, AbortController>();

const work = {
  /**
   * A recording, or a stretch of it, through the lines of several channels, thinned for drawing; gaps in time become gaps in
   * the curves. Lines whose raw columns are missing are left out.
   * @param key who wants it; null comes back when the same one wanted something else meanwhile
   */
  async look(
    key: string,
    wanted: Wanted,
    lines: readonly ChannelLine[],
    points: number,
  ): Promise<Look | null> {
    looks.get(key)?.abort();
    const abort = new AbortController();
    looks.set(key, abort);
    try {
      const { block, rateHz } = await fetched(wanted, abort.signal);
      const readings = lines.flatMap(({ id, line }) => {
        const raw = rawColumns(block, line);
        return raw
          ? [{ id, reading: reduced(runOver(line, rateHz, block.times, raw), points, wanted.within) }]
          : [];
      });
      const look = { thinned: block.header.reducedBy, readings };
      return transfer(
        look,
        readings.flatMap((r) => [r.reading.times.buffer, r.reading.values.buffer]),
      );
    } catch (error) {
      if (abort.signal.aborted) return null;
      throw error;
    } finally {
      if (looks.get(key) === abort) looks.delete(key);
    }
  },

  /** Ends a look that is no longer wanted. */
  forget(key: string): void {
    looks.get(key)?.abort();
  },

  /** The same samples through two lines: both readings, and what lies between them. */
  async compare(
    wanted: Wanted,
    lines: readonly [LineSpec, LineSpec],
    points: number,
  ): Promise<ComparedReadings> {
    const { block, rateHz } = await fetched(wanted);
    const raw = columnsOf(block, lines[0]);
    const [a, b] = lines.map((line) => runOver(line, rateHz, block.times, raw));
    const { times: at, values, mean } = differenceOf(a!, b!);
    return {
      readings: [reduced(a!, points), reduced(b!, points)],
      difference: reduced({ times: at, values, rateHz: a!.rateHz }, points),
      meanDifference: mean,
    };
  },

  /** Where a reading lies beyond a level: all are counted, the first are told. */
  async stretches(wanted: Wanted, line: LineSpec, rule: BeyondRule): Promise<FoundStretches> {
    const { block, rateHz } = await fetched(wanted);
    const reading = runOver(line, rateHz, block.times, columnsOf(block, line));
    const found = stretchesBeyond(reading.times, reading.values, rule);
    return {
      stretches: found.slice(0, MOST_STRETCHES),
      count: found.length,
      togetherS: found.reduce((sum, s) => sum + s.endS - s.startS, 0),
    };
  },

  /** A guided true-up from pieces that are not stored yet. */
  guided(
    fitId: string,
    line: LineSpec,
    pieces: readonly { readonly evidence: Evidence }[],
    sampleRateHz: number,
  ): FitResult | string {
    return previewGuided(fitId, line, pieces, sampleRateHz);
  },
};

/** A stretch of a recording in its own time. */
export interface Stretch {
  readonly fromS: number;
  readonly toS: number;
}

/** Samples of a recording that are worked on. */
export interface Wanted {
  readonly recordingId: string;
  readonly sampleRateHz: number;
  /** So many are taken whole; more come thinned to the lowest and highest. */
  readonly samples: number;
  /** What is fetched; null for all of it. */
  readonly stretch: Stretch | null;
  /** What lowest, highest and bad are counted in; null for all that is fetched. */
  readonly within: Stretch | null;
}

export interface ChannelLine {
  readonly id: string;
  readonly line: LineSpec;
}

export interface Look {
  /** Samples that each pair of points stands for; 1 where all were taken. */
  readonly thinned: number;
  readonly readings: readonly { readonly id: string; readonly reading: ReducedReading }[];
}

export interface FoundStretches {
  /** The first of them, as many as can be drawn. */
  readonly stretches: readonly BeyondStretch[];
  readonly count: number;
  readonly togetherS: number;
}

async function fetched(
  { recordingId, sampleRateHz, samples, stretch }: Wanted,
  signal: AbortSignal | null = null,
): Promise<{ block: SampleBlock; rateHz: number }> {
  const block = await fetchWindow(recordingId, samples, signal, stretch);
  return { block, rateHz: rateOf(sampleRateHz, block) };
}

function columnsOf(block: SampleBlock, line: LineSpec): Float64Array[] {
  const raw = rawColumns(block, line);
  if (!raw) throw new Error('The recording has not all the raw columns that this reading starts from.');
  return raw;
}

interface Reading {
  readonly times: Float64Array;
  readonly values: Float64Array;
  readonly rateHz: number;
}

function runOver(
  line: LineSpec,
  sampleRateHz: number,
  times: Float64Array,
  raw: readonly Float64Array[],
): Reading {
  const compiled = compileLine(line, { sampleRateHz });
  const block = {
    length: times.length,
    times,
    lanes: raw.map((values) => ({ values, reasons: new Uint8Array(values.length) })),
  };
  const [reading] = runLine(compiled, block);
  return { times: reading!.times, values: reading!.lanes[0]!.values, rateHz: compiled.outputRateHz };
}

function reduced(
  { times, values, rateHz }: Reading,
  points: number,
  within: Stretch | null = null,
): ReducedReading {
  let bad = 0;
  let low = Infinity;
  let high = -Infinity;
  const first = within ? lowerBound(times, within.fromS) : 0;
  const last = within ? lowerBound(times, within.toS) : values.length;
  for (let i = first; i < last; i++) {
    const v = values[i]!;
    if (Number.isNaN(v)) bad++;
    else {
      if (v < low) low = v;
      if (v > high) high = v;
    }
  }
  return { ...withGaps(reduceForPlot(times, values, points), 2.5 / rateHz), bad, low, high };
}

/** Puts a NaN into every stretch of time without samples, so that a lost link shows as a gap. */
function withGaps(column: ReturnType<typeof reduceForPlot>, longest: number) {
  const limit = longest * Math.max(1, column.reducedBy);
  const times: number[] = [];
  const values: number[] = [];
  column.times.forEach((t, i) => {
    if (i > 0 && t - column.times[i - 1]! > limit) {
      times.push((t + column.times[i - 1]!) / 2);
      values.push(Number.NaN);
    }
    times.push(t);
    values.push(column.values[i]!);
  });
  return { times: Float64Array.from(times), values: Float64Array.from(values), reducedBy: column.reducedBy };
}

export type LineWork = typeof work;

expose(work);
