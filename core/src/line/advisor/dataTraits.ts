import { centredMedian } from '../../filters/index.ts';
import type { FastestEvent } from '../../model/gadget.ts';
import { median, welch } from '../../numerics/index.ts';
import { aliasHz } from '../../numerics/samplingRate.ts';

/** What disturbs readings, in their own unit. */
export interface DataTraits {
  /** Readings that were looked at; bad ones are left out. */
  readonly n: number;
  /** Standard deviation from one reading to the next, spikes aside. */
  readonly noise: number;
  /** Readings that stand apart from both neighbours' median by more than six such deviations. */
  readonly spikes: number;
  /** Mains hum: its own frequency, where it shows at this rate, and its amplitude. */
  readonly hum: { readonly mainsHz: number; readonly seenHz: number; readonly amplitude: number } | null;
  /** How far the middle moves over the stretch, beside an event that is no slow change; 0 where slow change is what is measured. */
  readonly wander: number;
}

/** Fewer readings tell nothing of a spectrum. */
export const LEAST_READINGS = 256;
const SPIKE_WIDTH = 9;
const SPIKE_SD = 6;
const MAINS = [50, 60, 100, 120];

/**
 * Finds noise, spikes, hum and wander in a stretch of readings.
 * @param values readings at an even rate; bad ones are skipped
 * @returns null for fewer than LEAST_READINGS good ones
 */
export function dataTraits(
  values: ArrayLike<number>,
  sampleRateHz: number,
  event: FastestEvent | null,
): DataTraits | null {
  const good = Float64Array.from(Array.from(values).filter(Number.isFinite));
  const n = good.length;
  if (n < LEAST_READINGS) return null;
  const noise = neighbourSd(good);
  const width = spikeWidth(event, sampleRateHz);
  const middle = centredMedian(good, width);
  // A true event that is as short as the window would be taken for a spike.
  const narrow = event?.kind === 'pulse' && event.widthS * sampleRateHz < 2 * SPIKE_WIDTH;
  const far = good.map((v, i) => Math.abs(v - middle[i]!));
  const scatter = Math.max(noise, 1.4826 * median(far));
  // What the event itself bends within the window is no spike.
  const limit = SPIKE_SD * scatter + bendOf(event, good, (width - 1) / 2 / sampleRateHz);
  const isSpike = (i: number) => !narrow && scatter > 0 && far[i]! > limit;
  const spikes = far.filter((_, i) => isSpike(i)).length;
  const calm = good.map((v, i) => (isSpike(i) ? middle[i]! : v));
  return { n, noise, spikes, hum: humIn(calm, sampleRateHz, event, noise), wander: wanderOf(calm, event) };
}

/** Short beside a wave's period, so that its crests stay. */
function spikeWidth(event: FastestEvent | null, sampleRateHz: number): number {
  if (event?.kind !== 'tone') return SPIKE_WIDTH;
  const eighth = Math.floor(sampleRateHz / event.frequencyHz / 8);
  return Math.max(3, Math.min(SPIKE_WIDTH, eighth - (1 - (eighth % 2))));
}

/** How far a crest of the event stands out from its own median over so many seconds either way. */
function bendOf(event: FastestEvent | null, x: Float64Array, halfS: number): number {
  const sorted = x.slice().sort();
  const range = (share: number) =>
    sorted[Math.floor((1 - share) * (x.length - 1))]! - sorted[Math.floor(share * (x.length - 1))]!;
  switch (event?.kind) {
    case 'tone':
      return (range(0.02) / 2) * (1 - Math.cos(2 * Math.PI * event.frequencyHz * halfS));
    case 'pulse':
      return range(0) * (1 - Math.cos((Math.PI * halfS) / event.widthS));
    default:
      return 0;
  }
}

/** Noise from second differences, by their median, so that slopes and spikes do not count: sd of e[i-1] - 2 e[i] + e[i+1] is √6 sd. */
function neighbourSd(x: Float64Array): number {
  const bends = Float64Array.from({ length: x.length - 2 }, (_, i) =>
    Math.abs(x[i]! - 2 * x[i + 1]! + x[i + 2]!),
  );
  const robust = (1.4826 * median(bends)) / Math.sqrt(6);
  // Codes that mostly repeat have a median of 0 and still scatter.
  return robust > 0 ? robust : Math.sqrt(bends.reduce((s, b) => s + b * b, 0) / bends.length / 6);
}

function humIn(
  x: Float64Array,
  sampleRateHz: number,
  event: FastestEvent | null,
  noise: number,
): DataTraits['hum'] {
  const segment = 2 ** Math.floor(Math.log2(Math.min(4096, x.length / 2)));
  const { density } = welch(x, sampleRateHz, segment);
  const width = sampleRateHz / segment;
  let found: DataTraits['hum'] = null;
  for (const mainsHz of MAINS) {
    const seenHz = aliasHz(mainsHz, sampleRateHz);
    const bin = Math.round(seenHz / width);
    // At rest or at half the rate a line cannot be told from the middle or from noise.
    if (bin < 6 || bin > density.length - 4) continue;
    if (event?.kind === 'tone' && Math.abs(seenHz - event.frequencyHz) < 0.2 * event.frequencyHz) continue;
    const line = Math.max(density[bin - 1]!, density[bin]!, density[bin + 1]!);
    const around = [
      ...density.subarray(Math.max(1, bin - 24), bin - 3),
      ...density.subarray(bin + 4, bin + 25),
    ];
    let power = 0;
    for (let k = bin - 3; k <= bin + 3; k++) power += density[k]! * width;
    const amplitude = Math.sqrt(2 * power);
    if (line > 25 * median(around) && amplitude > noise / 2 && amplitude > (found?.amplitude ?? 0))
      found = { mainsHz, seenHz, amplitude };
  }
  return found;
}

/** Range of the middles of eight pieces; only beside events that are no slow change themselves. */
function wanderOf(x: Float64Array, event: FastestEvent | null): number {
  if (event?.kind !== 'tone' && event?.kind !== 'pulse') return 0;
  const size = Math.floor(x.length / 8);
  const middles = Array.from({ length: 8 }, (_, k) => median(x.subarray(k * size, (k + 1) * size)));
  return Math.max(...middles) - Math.min(...middles);
}
