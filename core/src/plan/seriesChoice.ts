import { compileLine } from '../line/compile.ts';
import { invertLine } from '../line/invert.ts';
import { slopeAtRest } from '../line/atRest.ts';
import type { LineSpec } from '../model/line.ts';
import { eSeriesBetween } from './inputFilter.ts';

export interface SeriesChoice {
  readonly seriesOhm: number;
  /** Largest step of one code over the range, in the reading's unit. */
  readonly worstStep: number;
}

/** Worst step of one code between two readings, for the line as it is. */
export function worstStep(line: LineSpec, low: number, high: number, sampleRateHz: number): number {
  const compiled = compileLine(line, { sampleRateHz });
  return Math.max(...[low, high].map((at) => Math.abs(slopeAtRest(compiled, invertLine(compiled, at)[0]!))));
}

/**
 * The E12 series resistor between 100 ohm and 1 Mohm that keeps the worst step over the range smallest.
 * @returns null when the line has no divider
 */
export function bestSeriesResistor(
  line: LineSpec,
  low: number,
  high: number,
  sampleRateHz: number,
): SeriesChoice | null {
  const stage = line.stages.find((s) => s.kind === 'divider');
  if (!stage) return null;
  let best: SeriesChoice | null = null;
  for (const seriesOhm of eSeriesBetween('E12', 100, 820e3)) {
    const trial = {
      ...line,
      stages: line.stages.map((s) => (s.id === stage.id ? { ...s, params: { ...s.params, seriesOhm } } : s)),
    };
    const step = worstStep(trial, low, high, sampleRateHz);
    if (!best || step < best.worstStep) best = { seriesOhm, worstStep: step };
  }
  return best;
}
