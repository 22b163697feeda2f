import type { Brief } from '../model/gadget.ts';
import { neededRateHz } from '../prove/claims.ts';
import { timingUncertainty, worstPeakFraction, rateForPeak } from '../prove/samplingRate.ts';
import { printSignificant, UNITS } from '../units/index.ts';

export interface Demand {
  readonly id: 'rate' | 'resolution' | 'reference' | 'timing' | 'latency';
  readonly title: string;
  readonly value: number;
  readonly unit: string;
  readonly arithmetic: string;
}

const p = (v: number) => printSignificant(v);

/** What a brief asks of the parts, each figure with its arithmetic. */
export function demandsOf(brief: Brief): Demand[] {
  const symbol = UNITS[brief.unit].symbol;
  const rate = neededRateHz(brief);
  const { fastest } = brief;
  const how =
    fastest.kind === 'ramp'
      ? `${p(fastest.ratePerS)} ${symbol}/s may move a fifth of ±${brief.tolerance} ${symbol} between readings.`
      : fastest.kind === 'pulse'
        ? `A ${p(fastest.widthS * 1000)} ms pulse may lose a tenth of its peak: π / (2 × width × acos 0.9).`
        : `Ten samples a period keep the shape of ${p(fastest.frequencyHz)} Hz; ${p(2.56 * fastest.frequencyHz)} Hz would only keep it apart from others.`;
  return [
    { id: 'rate', title: 'Readings a second', value: rate, unit: 'Hz', arithmetic: how },
    {
      id: 'resolution',
      title: 'Steps no larger than',
      value: brief.tolerance / 5,
      unit: symbol,
      arithmetic: `A fifth of the tolerance of ${brief.tolerance} ${symbol}.`,
    },
    {
      id: 'reference',
      title: 'A reference good to',
      value: brief.tolerance / 3,
      unit: symbol,
      arithmetic: 'A third of the tolerance leaves room for the gadget itself.',
    },
    {
      id: 'timing',
      title: 'Timing of an event, standard',
      value: timingUncertainty(rate, 0, 0) / Math.SQRT2,
      unit: 's',
      arithmetic: `One reading late at most: 1 / (${p(rate)} Hz × √12).`,
    },
    {
      id: 'latency',
      title: 'Lag no longer than',
      value:
        fastest.kind === 'ramp'
          ? brief.tolerance / 3 / fastest.ratePerS
          : fastest.kind === 'pulse'
            ? fastest.widthS
            : 0.25 / fastest.frequencyHz,
      unit: 's',
      arithmetic:
        fastest.kind === 'ramp'
          ? 'A third of the tolerance at the fastest change.'
          : fastest.kind === 'pulse'
            ? 'The width of the pulse.'
            : 'A quarter of a period.',
    },
  ];
}

/** Says why a converter of this rate cannot meet the brief's event; null when it can. */
export function contradiction(brief: Brief, converterHz: number): string | null {
  const { fastest } = brief;
  if (fastest.kind !== 'pulse' || converterHz >= rateForPeak(fastest.widthS, 0.1)) {
    const needed = neededRateHz(brief);
    return converterHz >= needed
      ? null
      : `${p(converterHz)} readings a second cannot follow what needs ${p(needed)}.`;
  }
  const kept = worstPeakFraction(fastest.widthS, converterHz);
  return `A ${p(fastest.widthS * 1000)} ms pulse and a converter of ${p(converterHz)} readings a second cannot meet: ${kept === 0 ? 'it may miss the pulse altogether' : `it may keep only ${p(100 * kept)} % of the peak`}.`;
}

/** How long a reading takes to be seen: sample period, filter delay and display refresh, against what is allowed. */
export function latency(sampleRateHz: number, filterDelayS: number, refreshS: number, allowedS: number) {
  const value = 1 / sampleRateHz + filterDelayS + refreshS;
  return {
    value,
    state: value <= allowedS ? ('pass' as const) : ('fail' as const),
    sentence: `${p(value)} s from event to display: ${p(1 / sampleRateHz)} s of sampling, ${p(filterDelayS)} s of filter, ${p(refreshS)} s of display; ${p(allowedS)} s are allowed.`,
  };
}

/** Top speed that tracking by image shift can follow: frame rate times usable shift a frame. @param shiftM in metres */
export const trackingTopSpeed = (frameRateHz: number, shiftM: number) => frameRateHz * shiftM;
