import { welch } from '../numerics/index.ts';
import { REASON } from '../stage/contract.ts';
import type { FaceSpectrum } from './widgets/kind.ts';

/** So many of the newest readings are looked at, and so many a segment at the most. */
export const SPECTRUM_OF = 4096;
const SEGMENT = 512;
/** Fewer say nothing of frequencies. */
const LEAST = 32;

/** Newest readings of a channel, oldest first. */
interface Newest {
  readonly times: ArrayLike<number>;
  readonly values: ArrayLike<number>;
  readonly reasons: ArrayLike<number>;
}

/** Sizes by frequency of the newest readings behind the last that was none; null where they are too few, or have no pace. */
export function faceSpectrum({ times, values, reasons }: Newest): FaceSpectrum | null {
  const end = times.length;
  let from = Math.max(0, end - SPECTRUM_OF);
  // A reading that is none would be taken for a frequency.
  for (let i = from; i < end; i++) if (reasons[i] !== REASON.ok) from = i + 1;
  const length = end - from;
  if (length < LEAST) return null;
  const rateHz = (length - 1) / (times[end - 1]! - times[from]!);
  if (!(rateHz > 0) || !Number.isFinite(rateHz)) return null;
  const clean = Float64Array.from({ length }, (_, i) => values[from + i]!);
  const segment = Math.min(SEGMENT, 2 ** Math.floor(Math.log2(length / 2)));
  const { frequencyHz, density } = welch(clean, rateHz, segment);
  return { hz: [...frequencyHz.subarray(1)], size: Array.from(density.subarray(1), Math.sqrt) };
}
