import type { ChannelBrief, Gadget, Place } from '../model/gadget.ts';
import { edgeRateHz, neededRateHz, peakLossAllowed } from '../prove/neededRate.ts';
import { timingUncertainty } from '../numerics/samplingRate.ts';
import { boilingPointC, standardPressureHpa } from '../references/index.ts';
import { printNominal, UNITS } from '../units/index.ts';
import { channelsOf } from './briefFor.ts';
import { amperes } from './verdict.ts';
import { lowerFirst } from '../words/index.ts';

export interface Demand {
  readonly id:
    'rate' | 'resolution' | 'reference' | 'timing' | 'latency' | 'inputs' | 'endurance' | 'boiling';
  readonly title: string;
  readonly value: number;
  readonly unit: string;
  readonly arithmetic: string;
}

const p = (v: number) => printNominal(v);

/** What one ask demands of the parts, each figure with its arithmetic; resolution and reference are of the sensed quantity. */
export function demandsOf(brief: ChannelBrief): Demand[] {
  const sensed = brief.sensed ?? brief;
  const symbol = UNITS[brief.unit].symbol;
  const sensedSymbol = UNITS[sensed.unit].symbol;
  const rate = neededRateHz(brief);
  const demands: Demand[] = [
    {
      id: 'rate',
      title: 'Readings per second, per channel',
      value: rate,
      unit: '/s',
      arithmetic: rateInWords(brief),
    },
    {
      id: 'resolution',
      title: 'Largest step (resolution)',
      value: sensed.tolerance / 5,
      unit: sensedSymbol,
      arithmetic: `A fifth of the tolerance of ±${sensed.tolerance} ${sensedSymbol}.`,
    },
    {
      id: 'reference',
      title: 'Reference accuracy',
      value: sensed.tolerance / 3,
      unit: sensedSymbol,
      arithmetic: 'A third of the tolerance, which leaves room for the gadget itself.',
    },
    {
      id: 'timing',
      title: 'Timing uncertainty (standard)',
      value: timingUncertainty(rate, 0, 0) / Math.SQRT2,
      unit: 's',
      arithmetic: `At most one reading late: 1 / (${p(rate)}/s × √12).`,
    },
  ];
  const lag = lagAllowed(brief, symbol);
  if (lag) demands.push({ id: 'latency', title: 'Maximum lag', unit: 's', ...lag });
  return brief.measurand === 'worked out' ? demands.filter((d) => d.id !== 'reference') : demands;
}

function rateInWords(brief: ChannelBrief): string {
  const { fastest } = brief;
  const symbol = UNITS[brief.unit].symbol;
  switch (fastest.kind) {
    case 'ramp':
      return `At ${p(fastest.ratePerS)} ${symbol}/s, the value may change by a fifth of ±${brief.tolerance} ${symbol} between readings.`;
    case 'pulse':
      return `A ${p(fastest.widthS * 1000)} ms pulse up to the highest reading may lose ±${p(brief.tolerance)} ${symbol}, ${p(100 * peakLossAllowed(brief))} % of its peak: π / (2 × width × acos ${printNominal(1 - peakLossAllowed(brief), 4)}).`;
    case 'tone':
      return `Ten samples per period preserve the shape of a ${p(fastest.frequencyHz)} Hz signal; ${p(2.56 * fastest.frequencyHz)} Hz would only avoid aliasing.`;
    case 'crossing':
      return `Start and stop each up to one reading late: √2 / (rate × √12) may be ${p(fastest.timingS)} s.`;
    case 'edges':
      return `${p(edgeRateHz(brief.unit, brief.high, fastest.marks))} edges per second at top speed (${fastest.marks} marks per turn), times three.`;
  }
}

function lagAllowed(
  { fastest, tolerance }: ChannelBrief,
  symbol: string,
): { value: number; arithmetic: string } | null {
  switch (fastest.kind) {
    case 'ramp':
      return {
        value: tolerance / 3 / fastest.ratePerS,
        arithmetic: `A third of ±${tolerance} ${symbol} at the fastest change.`,
      };
    case 'pulse':
      return { value: fastest.widthS, arithmetic: 'The width of the pulse.' };
    case 'tone':
      return { value: 0.25 / fastest.frequencyHz, arithmetic: 'A quarter of a period.' };
    case 'crossing':
    case 'edges':
      return null;
  }
}

/** What the whole gadget demands: inputs, endurance, and what its place does to water. */
export function gadgetDemands(gadget: Pick<Gadget, 'brief' | 'channels' | 'place'>): Demand[] {
  const { brief, channels, place } = gadget;
  if (!brief) return [];
  const sensed = brief.asks.filter((a) => a.measurand !== 'worked out');
  const counts = sensed.map((a) => ({ a, n: channelsOf({ channels }, a).length }));
  const inputs = counts.reduce((s, c) => s + c.n, 0);
  const demands: Demand[] = [
    {
      id: 'inputs',
      title: 'Inputs',
      value: inputs,
      unit: inputs === 1 ? 'channel' : 'channels',
      arithmetic: `${counts.map((c) => `${c.n} × ${lowerFirst(c.a.quantity)}`).join(', ')}.`,
    },
  ];
  if (brief.power === 'battery') {
    const wanted = brief.enduranceH ?? 24;
    demands.push({
      id: 'endurance',
      title: 'Maximum average current',
      value: 2 / wanted,
      unit: 'A',
      arithmetic: `2 Ah from a set of AA cells, over ${p(wanted)} h: ${amperes(2 / wanted)}${brief.enduranceH === null ? ' (one day assumed: the brief sets no battery life)' : ''}.`,
    });
  }
  const boiling = brief.asks.some((a) => UNITS[(a.sensed ?? a).unit].dimension === 'temperature')
    ? boilingDemand(place)
    : null;
  return boiling ? [...demands, boiling] : demands;
}

function boilingDemand(place: Place): Demand | null {
  const known = place.elevationM >= -430 && place.elevationM <= 9000;
  const pressure = place.pressureHpa ?? (known ? standardPressureHpa(place.elevationM) : Number.NaN);
  if (!(pressure >= 300 && pressure <= 1100)) return null;
  return {
    id: 'boiling',
    title: 'Boiling point of water',
    value: boilingPointC(pressure),
    unit: '°C',
    arithmetic: `${p(pressure)} hPa ${place.pressureHpa === null ? `from the elevation of ${place.elevationM} m` : 'from the barometer'}.`,
  };
}

/** How long a reading takes to be seen: sample period, filter delay and display refresh, against what is allowed. */
export function latency(sampleRateHz: number, filterDelayS: number, refreshS: number, allowedS: number) {
  const value = 1 / sampleRateHz + filterDelayS + refreshS;
  return {
    value,
    state: value <= allowedS ? ('pass' as const) : ('fail' as const),
    sentence: `${p(value)} s from event to display: sampling ${p(1 / sampleRateHz)} s, filter ${p(filterDelayS)} s, display ${p(refreshS)} s; ${p(allowedS)} s allowed.`,
  };
}

/** Top speed that tracking by image shift can follow: frame rate times usable shift a frame. @param shiftM in metres */
export const trackingTopSpeed = (frameRateHz: number, shiftM: number) => frameRateHz * shiftM;
