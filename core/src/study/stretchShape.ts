import { noise } from '../prove/noise.ts';
import { sampleSd, welch, type Spectrum } from '../numerics/index.ts';
import { printSignificant, UNITS, type UnitId } from '../units/index.ts';
import { evenReadings } from './evenReadings.ts';
import type { StudyFact, StudyPlot, StudySamples } from './kind.ts';
import { axis, fact, sized } from './words.ts';

/** Readings in a row without a gap that it takes. */
const LEAST_READINGS = 32;
/** A swing stands out when its own lines of the spectrum hold so much of all scatter. */
const STANDS_OUT = 0.1;

export interface StretchShape {
  readonly facts: readonly StudyFact[];
  readonly plots: readonly [histogram: StudyPlot, spectrum: StudyPlot];
}

/**
 * How readings of a stretch lie, whatever it holds: how often each came, which frequencies they are made of, and the
 * strongest swing with its height. Of the longest part without a gap.
 * @returns why there is nothing to tell, as words
 */
export function stretchShape(
  samples: Pick<StudySamples, 'times' | 'values'>,
  unit: UnitId,
  bins = 40,
): StretchShape | string {
  const { values, rateHz } = evenReadings(samples);
  const n = values.length;
  if (n < LEAST_READINGS)
    return `${n} consecutive readings without a gap; at least ${LEAST_READINGS} are needed. Select a longer section.`;
  const spectrum = spectrumOf(values, rateHz);
  const swing = strongestSwing(spectrum, sampleSd(values) ** 2);
  return {
    facts: [
      fact('Based on', `${n} readings, ${printSignificant(rateHz, 3)} per second`),
      fact('Scatter', `${sized(sampleSd(values), unit)} standard deviation`),
      fact(
        'Strongest oscillation',
        swing
          ? `amplitude ${sized(swing.amplitude, unit)} at ${printSignificant(swing.frequencyHz, 3)} Hz`
          : 'none found',
      ),
    ],
    plots: [histogramPlot(values, unit, bins), spectrumPlot(spectrum, unit)],
  };
}

/** Segments short enough that several are averaged, long enough to part frequencies. */
export const spectrumOf = (values: Float64Array, rateHz: number): Spectrum =>
  welch(values, rateHz, Math.min(values.length, Math.max(16, Math.min(1000, values.length >> 3))));

export function histogramPlot(values: Float64Array, unit: UnitId, bins: number): StudyPlot {
  const { edges, counts } = noise(values, 1, bins).histogram;
  return {
    title: 'Distribution of readings',
    x: axis('reading', UNITS[unit].symbol),
    y: axis('readings', ''),
    series: [
      {
        label: 'readings',
        x: Array.from(counts).flatMap((_, k) => [edges[k]!, edges[k + 1]!]),
        y: Array.from(counts).flatMap((c) => [c, c]),
        style: 'line',
      },
    ],
    allowed: null,
  };
}

export function spectrumPlot({ frequencyHz, density }: Spectrum, unit: UnitId): StudyPlot {
  const positive = Array.from(frequencyHz, (_, k) => k).filter((k) => k > 0 && density[k]! > 0);
  return {
    title: 'Frequency spectrum',
    x: axis('frequency', 'Hz', 'logarithmic'),
    y: axis('density', `${UNITS[unit].symbol || '1'}²/Hz`, 'logarithmic'),
    series: [
      {
        label: 'density',
        x: positive.map((k) => frequencyHz[k]!),
        y: positive.map((k) => density[k]!),
        style: 'line',
      },
    ],
    allowed: null,
  };
}

/**
 * The swing of the highest line that has lower ones on both sides, with the power of the lines that the window spreads it
 * over: amplitude √(2 × power), frequency by their balance. Null where it holds little of all scatter.
 */
function strongestSwing({ frequencyHz, density }: Spectrum, variance: number) {
  let best = 0;
  for (let k = 2; k < density.length - 1; k++)
    if (density[k]! > density[k - 1]! && density[k]! >= density[k + 1]! && density[k]! > (density[best] ?? 0))
      best = k;
  if (best < 2) return null;
  const width = frequencyHz[1]!;
  // A Hann window spreads a swing over its line and two on each side.
  const lines = [-2, -1, 0, 1, 2].map((d) => best + d).filter((k) => k > 0 && k < density.length);
  const power = lines.reduce((s, k) => s + density[k]! * width, 0);
  if (!(power > STANDS_OUT * variance)) return null;
  const balance = lines.reduce((s, k) => s + density[k]! * width * frequencyHz[k]!, 0) / power;
  return { frequencyHz: balance, amplitude: Math.sqrt(2 * power) };
}
