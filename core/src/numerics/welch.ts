import FFT from 'fft.js';

export interface Spectrum {
  readonly frequencyHz: Float64Array;
  /** One-sided power spectral density, unit squared per hertz. */
  readonly density: Float64Array;
  readonly segments: number;
}

/**
 * Welch's averaged periodogram: periodic Hann window, half overlap, mean removed from each segment, density scaling.
 * @param values n samples at an even rate, none NaN
 * @param sampleRateHz above 0
 * @param segment samples a segment, a power of two, at most n
 * @throws {RangeError} for a segment that is no power of two or longer than the data
 * Source: Welch, IEEE Trans. Audio Electroacoust. 15 (1967) 70.
 */
export function welch(values: ArrayLike<number>, sampleRateHz: number, segment: number): Spectrum {
  const n = values.length;
  if (!(segment >= 4) || (segment & (segment - 1)) !== 0)
    throw new RangeError(`A spectrum's segment must be a power of two from 4; received ${segment}.`);
  if (segment > n)
    throw new RangeError(
      `A segment of ${segment} samples needs as many; received ${n}. Shorten it or record longer.`,
    );
  if (!(sampleRateHz > 0))
    throw new RangeError(`The sample rate must be above 0 Hz; received ${sampleRateHz}.`);
  const fft = new FFT(segment);
  const window = Float64Array.from(
    { length: segment },
    (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / segment),
  );
  const power = window.reduce((s, w) => s + w * w, 0);
  const bins = segment / 2 + 1;
  const density = new Float64Array(bins);
  const piece = new Float64Array(segment);
  const out = fft.createComplexArray();
  let segments = 0;
  for (let from = 0; from + segment <= n; from += segment / 2) {
    let sum = 0;
    for (let i = 0; i < segment; i++) sum += values[from + i]!;
    const mean = sum / segment;
    for (let i = 0; i < segment; i++) piece[i] = (values[from + i]! - mean) * window[i]!;
    fft.realTransform(out, piece);
    for (let k = 0; k < bins; k++) density[k]! += out[2 * k]! ** 2 + out[2 * k + 1]! ** 2;
    segments++;
  }
  for (let k = 0; k < bins; k++) {
    density[k]! *= (k === 0 || k === bins - 1 ? 1 : 2) / (segments * sampleRateHz * power);
  }
  return {
    frequencyHz: Float64Array.from({ length: bins }, (_, k) => (k * sampleRateHz) / segment),
    density,
    segments,
  };
}
