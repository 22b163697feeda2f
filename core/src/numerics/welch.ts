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
 * @param segment samples a segment, any number from 4, at most n
 * @throws {RangeError} for a segment that is no whole number from 4 or longer than the data
 * Source: Welch, IEEE Trans. Audio Electroacoust. 15 (1967) 70.
 */
export function welch(values: ArrayLike<number>, sampleRateHz: number, segment: number): Spectrum {
  const n = values.length;
  if (!(segment >= 4) || !Number.isInteger(segment))
    throw new RangeError(`A spectrum's segment must be a whole number from 4; received ${segment}.`);
  if (segment > n)
    throw new RangeError(
      `A segment of ${segment} samples needs at least as much data; received ${n} samples. Shorten the segment or record longer.`,
    );
  if (!(sampleRateHz > 0))
    throw new RangeError(`Enter a sampling rate above 0 Hz; received ${sampleRateHz}.`);
  const powers = powersOf(segment);
  const window = Float64Array.from(
    { length: segment },
    (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / segment),
  );
  const power = window.reduce((s, w) => s + w * w, 0);
  const bins = (segment >> 1) + 1;
  const density = new Float64Array(bins);
  const piece = new Float64Array(segment);
  let segments = 0;
  for (let from = 0; from + segment <= n; from += segment - (segment >> 1)) {
    let sum = 0;
    for (let i = 0; i < segment; i++) sum += values[from + i]!;
    const mean = sum / segment;
    for (let i = 0; i < segment; i++) piece[i] = (values[from + i]! - mean) * window[i]!;
    powers(piece, density);
    segments++;
  }
  // Of an odd segment the last bin has a mirror as well.
  const alone = segment % 2 === 0 ? bins - 1 : -1;
  for (let k = 0; k < bins; k++)
    density[k]! *= (k === 0 || k === alone ? 1 : 2) / (segments * sampleRateHz * power);
  return {
    frequencyHz: Float64Array.from({ length: bins }, (_, k) => (k * sampleRateHz) / segment),
    density,
    segments,
  };
}

/** Adds |DFT|^2 of a piece to each bin up to half its length. */
function powersOf(length: number): (piece: Float64Array, sums: Float64Array) => void {
  if ((length & (length - 1)) === 0) {
    const fft = new FFT(length);
    const out = fft.createComplexArray();
    return (piece, sums) => {
      fft.realTransform(out, piece);
      for (let k = 0; k < sums.length; k++) sums[k]! += out[2 * k]! ** 2 + out[2 * k + 1]! ** 2;
    };
  }
  return chirped(length);
}

/**
 * A transform of any length as a convolution with a chirp, by transforms of a power of two.
 * Source: Bluestein, IEEE Trans. Audio Electroacoust. 18 (1970) 451.
 */
function chirped(length: number): ReturnType<typeof powersOf> {
  const size = 2 ** Math.ceil(Math.log2(2 * length - 1));
  const fft = new FFT(size);
  // k^2 modulo 2 n keeps the angle exact for long segments.
  const angle = (k: number) => (Math.PI * ((k * k) % (2 * length))) / length;
  const chirp = fft.createComplexArray().fill(0);
  for (let k = 0; k < length; k++) {
    for (const at of [k, (size - k) % size]) {
      chirp[2 * at] = Math.cos(angle(k));
      chirp[2 * at + 1] = Math.sin(angle(k));
    }
  }
  const moved = fft.createComplexArray();
  const turned = fft.createComplexArray();
  const product = fft.createComplexArray();
  const back = fft.createComplexArray();
  const kernel = fft.createComplexArray();
  fft.transform(kernel, chirp);
  return (piece, sums) => {
    moved.fill(0);
    for (let k = 0; k < length; k++) {
      moved[2 * k] = piece[k]! * Math.cos(angle(k));
      moved[2 * k + 1] = -piece[k]! * Math.sin(angle(k));
    }
    fft.transform(turned, moved);
    for (let k = 0; k < size; k++) {
      const [a, b, c, d] = [turned[2 * k]!, turned[2 * k + 1]!, kernel[2 * k]!, kernel[2 * k + 1]!];
      product[2 * k] = a * c - b * d;
      product[2 * k + 1] = a * d + b * c;
    }
    fft.inverseTransform(back, product);
    for (let k = 0; k < sums.length; k++) sums[k]! += back[2 * k]! ** 2 + back[2 * k + 1]! ** 2;
  };
}
