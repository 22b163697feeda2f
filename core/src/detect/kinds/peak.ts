import { Type } from 'typebox';
import { number, whole } from '../../stage/params.ts';
import { peakInC } from '../inC/peakInC.ts';
import { inWords, toThree } from '../inWords.ts';
import { moment, refused, type DetectorKind } from '../kind.ts';
import { detectAll } from '../detector.ts';
import { smallestOf } from '../smallestOf.ts';
import { noPeaks, streamPeaks, type PeakEvent } from '../streamPeaks.ts';
import { traceTraits } from '../traceTraits.ts';

/** Highest points between rises and falls. */
export const peak: DetectorKind<{
  height: number;
  prominence: number;
  least: number;
  shortestS: number;
}> = {
  kind: 'peak',
  title: 'Peak',
  summary: 'The highest reading between a rise and a fall',
  looksAt: 'reading',
  params: Type.Object({
    height: number('Minimum peak value'),
    prominence: number('Minimum rise and fall', { above: 0 }),
    least: whole('Minimum readings in the peak', { min: 1, max: 1000 }),
    shortestS: number('Minimum duration', { min: 0, max: 1e6, unit: 's' }),
  }),
  defaults: { height: -1e12, prominence: 1, least: 1, shortestS: 0 },
  levels: ['height', 'prominence'],
  start({ height, prominence, least, shortestS }, { sampleRateHz }, emit) {
    const memory = noPeaks();
    const u = 1 / sampleRateHz / Math.sqrt(12);
    const finder = streamPeaks(
      { height, prominence, minIntervalS: 0, least, shortestS },
      (p) => {
        const few = p.readings < least;
        const why = few
          ? `Only ${p.readings} of the required ${least} readings in the peak.`
          : `Peak is shorter than ${shortestS} s.`;
        emit(p.enough ? moment(p.timeS, p.value, p.value, u) : refused(p.timeS, p.value, why));
      },
      memory,
    );
    return { memory, push: finder.push };
  },
  find(trace) {
    const traits = traceTraits(trace);
    if (!traits) return { problem: 'At least 20 readings with a few peaks are needed.' };
    const { noise, times, values } = traits;
    const any = { height: -Infinity, prominence: Math.max(8 * noise, 1e-12), minIntervalS: 0 };
    const peaks = detectAll<PeakEvent>((emit) => streamPeaks(any, emit), times, values);
    const smallest = smallestOf(peaks.map((p) => p.rise));
    if (smallest === null)
      return { problem: 'Fewer than three peaks stand out from the noise. Let a few more happen.' };
    const { unit } = trace;
    const prominence = toThree((8 * noise + smallest) / 2);
    return {
      params: { height: -1e12, prominence, least: 1, shortestS: 0 },
      deadTimeS: 0,
      why: `Minimum rise and fall ${inWords(prominence, unit)}: halfway between eight times the noise, ${inWords(8 * noise, unit)}, and the smallest of ${peaks.length} peaks, ${inWords(smallest, unit)}.`,
    };
  },
  emitC: peakInC,
};
