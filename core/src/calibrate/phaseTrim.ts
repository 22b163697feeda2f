import { mean, sampleSd } from '../numerics/index.ts';

export interface PhaseTrim {
  /** For the AC power stage: how far the current sensor lags, microseconds; negative when it leads. */
  readonly currentDelayUs: number;
  /** Standard uncertainty from the scatter between stretches of the recording. */
  readonly u: number;
  readonly frequencyHz: number;
  readonly phaseDeg: number;
  readonly stretches: number;
}

/** Length of the mean of unit vectors along the phases, from which they count as one. */
const ONE_WAY = 0.9;
/** A sensor that lags by more, rad, is wired the wrong way round, or the load is no resistance. */
const LEAST_LIKELY = Math.PI / 3;

/**
 * Delay of the current sensor from a recording with a purely resistive load, where voltage and current must be in phase: the
 * phase between their fundamentals, by correlation over whole cycles, in up to ten stretches.
 * @param voltage n samples @param current n samples, both at an even rate
 * @returns the trim, or a sentence that says why there is none
 */
export function fitPhaseTrim(
  voltage: Float64Array,
  current: Float64Array,
  sampleRateHz: number,
): PhaseTrim | string {
  const n = Math.min(voltage.length, current.length);
  const crossings = risingCrossings(voltage.subarray(0, n));
  if (crossings.length < 6)
    return `Only ${Math.max(0, crossings.length - 1)} whole cycles found; 5 are needed. Record longer with the generator running.`;
  const cycles = crossings.length - 1;
  const frequencyHz = (cycles * sampleRateHz) / (crossings.at(-1)! - crossings[0]!);
  const currentSize = sampleSd(current.subarray(0, n));
  if (!(currentSize > 0)) return 'The current does not change. Switch on the resistive load.';
  const stretches = Math.min(10, Math.floor(cycles / 2));
  const phases = Array.from({ length: stretches }, (_, k) => {
    const from = crossings[Math.floor((k * cycles) / stretches)]!;
    const to = crossings[Math.floor(((k + 1) * cycles) / stretches)]!;
    return phaseBetween(voltage, current, from, to, frequencyHz / sampleRateHz);
  });
  // Of noise alone each stretch tells another phase: all together they then point nowhere.
  const [across, along] = [mean(phases.map(Math.sin)), mean(phases.map(Math.cos))];
  const together = Math.hypot(across, along);
  if (!(together > ONE_WAY))
    return 'The current does not follow the voltage; only noise is left. Switch on a resistive load, such as an incandescent lamp.';
  const phase = Math.atan2(across, along);
  if (Math.abs(phase) > LEAST_LIKELY)
    return `The current lags by ${Math.round((phase * 180) / Math.PI)}°, far more than any sensor with a resistive load. Swap the two wires of the current sensor, or use an incandescent lamp as the load.`;
  const delay = (p: number) => (p / (2 * Math.PI * frequencyHz)) * 1e6;
  return {
    currentDelayUs: delay(phase),
    // The short way round from their middle.
    u:
      delay(sampleSd(phases.map((p) => Math.atan2(Math.sin(p - phase), Math.cos(p - phase))))) /
      Math.sqrt(stretches),
    frequencyHz,
    phaseDeg: (phase * 180) / Math.PI,
    stretches,
  };
}

/** Places of rising crossings of the mean, between samples, at least a quarter of the longest spacing apart. */
export function risingCrossings(x: Float64Array): number[] {
  const centre = mean(x);
  const band = 0.2 * sampleSd(x);
  const found: number[] = [];
  let armed = false;
  for (let i = 1; i < x.length; i++) {
    if (x[i]! < centre - band) armed = true;
    if (armed && x[i - 1]! < centre && x[i]! >= centre) {
      found.push(i - 1 + (centre - x[i - 1]!) / (x[i]! - x[i - 1]!));
      armed = false;
    }
  }
  return found;
}

/** How far the second lags the first, rad, at a frequency in cycles a sample. A Hann window keeps broken ends from counting. */
function phaseBetween(v: Float64Array, i: Float64Array, from: number, to: number, frequency: number): number {
  const [a, b] = [Math.ceil(from), Math.floor(to)];
  const meanV = mean(v.subarray(a, b + 1));
  const meanI = mean(i.subarray(a, b + 1));
  let [vr, vi, ir, ii] = [0, 0, 0, 0];
  for (let k = a; k <= b; k++) {
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * (k - a)) / (b - a));
    const c = window * Math.cos(2 * Math.PI * frequency * k);
    const s = window * Math.sin(2 * Math.PI * frequency * k);
    vr += (v[k]! - meanV) * c;
    vi -= (v[k]! - meanV) * s;
    ir += (i[k]! - meanI) * c;
    ii -= (i[k]! - meanI) * s;
  }
  return Math.atan2(vi * ir - vr * ii, vr * ir + vi * ii);
}
