import { mean, sampleSd } from '../numerics/index.ts';

export interface NoiseResult {
  readonly n: number;
  readonly mean: number;
  readonly sd: number;
  readonly peakToPeak: number;
  /**
   * Bits that a converter without noise would need for the same scatter: log2(range / (sd sqrt 12)). Null where all
   * readings are alike: the noise lies below a step, and nothing tells how far.
   */
  readonly effectiveBits: number | null;
  /** Bits that never flicker: log2(range / (6.6 sd)); null where all readings are alike. */
  readonly steadyBits: number | null;
  readonly histogram: { readonly edges: Float64Array; readonly counts: Int32Array };
}

/**
 * Noise of readings at rest.
 * @param values n readings, none NaN, taken while nothing changed
 * @param range full range of the reading, same unit
 * @throws {RangeError} with fewer than 16 readings or a range not above 0
 */
export function noise(values: ArrayLike<number>, range: number, bins = 32): NoiseResult {
  const n = values.length;
  if (n < 16)
    throw new RangeError(
      `At least 16 readings are needed to measure noise; received ${n}. Record for longer.`,
    );
  if (!(range > 0)) throw new RangeError(`Enter a range above 0; received ${range}.`);
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < n; i++) {
    low = Math.min(low, values[i]!);
    high = Math.max(high, values[i]!);
  }
  if (Number.isNaN(low + high))
    throw new RangeError('All readings must be numbers. Exclude invalid readings.');
  const sd = sampleSd(values);
  const width = (high - low) / bins || 1;
  const counts = new Int32Array(bins);
  for (let i = 0; i < n; i++) counts[Math.min(bins - 1, Math.floor((values[i]! - low) / width))]!++;
  return {
    n,
    mean: mean(values),
    sd,
    peakToPeak: high - low,
    effectiveBits: sd > 0 ? Math.log2(range / (sd * Math.sqrt(12))) : null,
    steadyBits: sd > 0 ? Math.log2(range / (6.6 * sd)) : null,
    histogram: { edges: Float64Array.from({ length: bins + 1 }, (_, i) => low + i * width), counts },
  };
}
