import { expose, transfer } from 'comlink';
import { reduceForPlot } from '@lucky-needle/core/formats';
import { compileLine, runLine } from '@lucky-needle/core/line';
import type { Evidence, FitResult, LineSpec } from '@lucky-needle/core/model';
import { previewGuided } from '../pages/trueup/guided/previewGuided.ts';
import { differenceOf } from './differenceOf.ts';

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

const work = {
  /** The same raw columns through two lines: both readings, and what lies between them. */
  compare(
    lines: readonly [LineSpec, LineSpec],
    sampleRateHz: number,
    times: Float64Array,
    raw: readonly Float64Array[],
    points: number,
  ): ComparedReadings {
    const [a, b] = lines.map((line) => runOver(line, sampleRateHz, times, raw));
    const { times: at, values, mean } = differenceOf(a!, b!);
    return {
      readings: [reduced(a!, points), reduced(b!, points)],
      difference: reduced({ times: at, values, rateHz: a!.rateHz }, points),
      meanDifference: mean,
    };
  },

  /** Runs the raw columns of a line through it and thins the reading for drawing; gaps in time become gaps in the curve. */
  convert(
    line: LineSpec,
    sampleRateHz: number,
    times: Float64Array,
    raw: readonly Float64Array[],
    points: number,
  ): ReducedReading {
    const reading = reduced(runOver(line, sampleRateHz, times, raw), points);
    return transfer(reading, [reading.times.buffer, reading.values.buffer]);
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

function reduced({ times, values, rateHz }: Reading, points: number): ReducedReading {
  let bad = 0;
  let low = Infinity;
  let high = -Infinity;
  for (const v of values) {
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
