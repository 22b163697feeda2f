import type { ChannelBrief, FastestEvent } from '../../model/gadget.ts';
import { convertDifference, printNominal, UNITS, type UnitId } from '../../units/index.ts';
import { filterTraits, priceOfFilter } from '../filterTraits.ts';
import { stageKind } from '../registry.ts';
import type { PrepareContext, StageParams } from '../../stage/contract.ts';
import { dataTraits, type DataTraits } from './dataTraits.ts';

export interface AdvisedStage {
  readonly kind: string;
  readonly params: StageParams;
  /** Why it is there. */
  readonly reason: string;
}

export interface FilterAdvice {
  readonly title: string;
  readonly stages: readonly AdvisedStage[];
  /** Scatter that is left, in the reading's unit; mean delay, s. */
  readonly noiseLeft: number;
  readonly delayS: number;
  /** What it costs on the brief's event, in words. */
  readonly price: string;
}

export interface Advice {
  readonly traits: DataTraits;
  /** What was found, in words. */
  readonly findings: readonly string[];
  /** One or two chains, the plainer first; none where nothing needs to be done. */
  readonly chains: readonly FilterAdvice[];
}

interface Wanted {
  readonly brief: ChannelBrief;
  readonly unit: UnitId;
  readonly tolerance: number;
  readonly event: FastestEvent;
  readonly context: PrepareContext;
}

/** Shares of a peak or an amplitude, and of the tolerance on a ramp, that filters may cost together. */
const MOST_LOST = 0.03;
const MOST_LAG = 0.2;

/**
 * Proposes filters for readings as they are and the event that they must follow: spikes out first, hum by a notch or by
 * whole periods, wander by what passes only change, and smoothing no slower than the event allows.
 * @param values readings of the line without its filters, in `unit`, at an even rate
 * @returns null for too few readings, or where the brief is of another quantity
 */
export function adviseFilters(
  values: ArrayLike<number>,
  sampleRateHz: number,
  brief: ChannelBrief,
  unit: UnitId,
): Advice | null {
  if (UNITS[brief.unit].dimension !== UNITS[unit].dimension) return null;
  const { fastest } = brief;
  const event: FastestEvent =
    fastest.kind === 'ramp'
      ? { kind: 'ramp', ratePerS: convertDifference(fastest.ratePerS, brief.unit, unit) }
      : fastest;
  const traits = dataTraits(values, sampleRateHz, event);
  if (!traits) return null;
  const tolerance = convertDifference(brief.tolerance, brief.unit, unit);
  const wanted: Wanted = { brief, unit, tolerance, event, context: { sampleRateHz } };
  const first = firstStages(traits, wanted);
  const ways = [smoothing(traits, wanted), wholePeriods(traits, wanted)];
  const chains = ways.flatMap((way, i) => {
    if (!way) return [];
    const stages = [...first.filter((s) => !(i === 1 && s.kind === 'notch')), ...way.stages];
    return stages.length === 0 ? [] : [chainOf(way.title, stages, traits, wanted)];
  });
  const seen = new Set<string>();
  return {
    traits,
    findings: findingsOf(traits, wanted),
    chains: chains.filter((c) => {
      const key = JSON.stringify(c.stages.map((s) => [s.kind, s.params]));
      return !seen.has(key) && seen.add(key);
    }),
  };
}

const p = (v: number) => printNominal(v, 2);

function findingsOf(traits: DataTraits, { unit, tolerance }: Wanted): string[] {
  const symbol = UNITS[unit].symbol;
  const { n, noise, spikes, hum, wander } = traits;
  return [
    `Noise is ${p(noise)} ${symbol} (standard deviation between readings), ${p((100 * noise) / tolerance)} % of the tolerance.`,
    ...(spikes > 0 ? [`${spikes} of ${n} readings are spikes.`] : []),
    ...(hum
      ? [
          `Mains hum at ${hum.mainsHz} Hz with an amplitude of ${p(hum.amplitude)} ${symbol}${Math.abs(hum.seenHz - hum.mainsHz) > 0.5 ? `, aliased to ${p(hum.seenHz)} Hz at this sampling rate` : ''}.`,
        ]
      : []),
    ...(wander > 3 * noise ? [`The baseline drifts by ${p(wander)} ${symbol}.`] : []),
  ];
}

/** Spikes, hum and wander, in this order: a spike would ring in whatever comes after it. */
function firstStages(traits: DataTraits, { event, context }: Wanted): AdvisedStage[] {
  const stages: AdvisedStage[] = [];
  const { spikes, hum, wander, noise, n } = traits;
  if (spikes > 0)
    stages.push({
      kind: 'hampel',
      params: { width: 9, limit: 4, floor: 0 },
      reason: `${spikes} spikes in ${n} readings, removed before smoothing can spread them.`,
    });
  if (hum && hum.seenHz < 0.45 * context.sampleRateHz)
    stages.push({
      kind: 'notch',
      params: { notchHz: round(hum.seenHz), q: 5 },
      reason: `Removes hum at ${p(hum.seenHz)} Hz and little else.`,
    });
  if (event.kind === 'tone' && wander > 3 * noise)
    stages.push({
      kind: 'butterworth-highpass',
      params: { order: 1, cutoffHz: round(event.frequencyHz / 8) },
      reason: `Slow drift is far below ${p(event.frequencyHz)} Hz, so a high-pass removes it.`,
    });
  return stages;
}

interface Way {
  readonly title: string;
  readonly stages: readonly AdvisedStage[];
}

/** Smoothing down to a tenth of the tolerance, as far as the event lets it. */
function smoothing(traits: DataTraits, wanted: Wanted): Way | null {
  const { event, tolerance, context } = wanted;
  const gain = tolerance / 10 / traits.noise;
  if (gain >= 1) return { title: 'Disturbances only', stages: [] };
  switch (event.kind) {
    case 'ramp': {
      // Noise of a first-order smoother: gain² = a / (2 - a), a = 1 - exp(-dt / T).
      const a = (2 * gain ** 2) / (1 + gain ** 2);
      const needed = -1 / (context.sampleRateHz * Math.log(1 - a));
      const allowed = (MOST_LAG * tolerance) / event.ratePerS;
      const timeConstantS = round(Math.min(needed, allowed));
      const short = needed > allowed;
      return {
        title: 'Smoothing',
        stages: [
          {
            kind: 'exponential',
            params: { timeConstantS },
            reason: short
              ? `The longest time constant that ${p(event.ratePerS)} ${UNITS[wanted.unit].symbol}/s allows; a tenth of the tolerance would need ${p(needed)} s.`
              : 'Reduces scatter to a tenth of the tolerance.',
          },
        ],
      };
    }
    case 'pulse':
    case 'tone':
      return { title: 'Low-pass', stages: lowPass(wanted) };
    default:
      return null;
  }
}

/** The lowest cut-off that loses no more of the event than it may. */
function lowPass({ event, context }: Wanted): AdvisedStage[] {
  const kind = stageKind('butterworth-lowpass')!;
  const top = 0.45 * context.sampleRateHz;
  const lost = (cutoffHz: number) => priceOfFilter(kind, { order: 2, cutoffHz }, context, event)?.amount ?? 1;
  const start = event.kind === 'tone' ? event.frequencyHz : event.kind === 'pulse' ? 0.5 / event.widthS : top;
  if (start >= top || lost(top) > MOST_LOST) return [];
  let [low, high] = [start, top];
  for (let i = 0; i < 24; i++) {
    const middle = Math.sqrt(low * high);
    if (lost(middle) > MOST_LOST) low = middle;
    else high = middle;
  }
  return [
    {
      kind: 'butterworth-lowpass',
      params: { order: 2, cutoffHz: round(high, 3, Math.ceil) },
      reason: `The lowest cutoff that keeps the brief’s ${event.kind === 'tone' ? 'wave' : 'pulse'}; it loses ${p(100 * lost(round(high, 3, Math.ceil)))} %.`,
    },
  ];
}

/** A mean over whole periods of the hum takes it and its overtones out; for slow changes only. */
function wholePeriods(traits: DataTraits, wanted: Wanted): Way | null {
  const { event, tolerance, context } = wanted;
  if (event.kind !== 'ramp') return null;
  const gain = tolerance / 10 / traits.noise;
  if (gain >= 1 && !traits.hum) return null;
  const allowed = 1 + (2 * MOST_LAG * tolerance * context.sampleRateHz) / event.ratePerS;
  const period = traits.hum ? context.sampleRateHz / traits.hum.seenHz : 1;
  const needed = Math.max(gain < 1 ? 1 / gain ** 2 : 1, period);
  const periods = Math.max(1, Math.round(Math.min(needed, allowed) / period));
  const width = Math.round(periods * period);
  if (width < 2 || width > allowed || width > 10_000) return null;
  return {
    title: traits.hum ? 'Moving mean over whole periods' : 'Moving mean',
    stages: [
      {
        kind: 'moving-mean',
        params: { width },
        reason: traits.hum
          ? `${width} readings cover ${periods} period${periods > 1 ? 's' : ''} of the hum, so the hum and its harmonics cancel out.`
          : `${width} readings scatter ${p(Math.sqrt(width))} times less than one reading.`,
      },
    ],
  };
}

function chainOf(
  title: string,
  stages: readonly AdvisedStage[],
  { noise }: DataTraits,
  { event, context, unit, tolerance }: Wanted,
): FilterAdvice {
  let gain = 1;
  let delayS = 0;
  let lost = 0;
  for (const { kind: name, params } of stages) {
    const kind = stageKind(name)!;
    const traits = filterTraits(kind, params, context);
    gain *= traits.noiseGain;
    delayS += traits.delayS;
    lost += priceOfFilter(kind, params, context, event)?.amount ?? 0;
  }
  const price =
    event.kind === 'ramp'
      ? `Lags the fastest change by ${p(lost)} ${UNITS[unit].symbol}, ${p((100 * lost) / tolerance)} % of the tolerance.`
      : event.kind === 'pulse' || event.kind === 'tone'
        ? `Reduces the ${event.kind === 'tone' ? 'wave' : 'pulse'} by about ${p(100 * Math.max(0, lost))} %.`
        : 'Delays all events equally.';
  return { title, stages, noiseLeft: noise * gain, delayS, price };
}

/** A constant as a maker would type it. */
const round = (v: number, digits = 2, how: (v: number) => number = Math.round): number => {
  const step = 10 ** (Math.floor(Math.log10(v)) - digits + 1);
  return Number((how(v / step) * step).toPrecision(digits));
};
