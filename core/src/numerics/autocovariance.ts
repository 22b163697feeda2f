import FFT from 'fft.js';

/** Up to so many the plain sums are quicker. */
const SHORT = 64;

/**
 * Autocovariances of deviations that add up to zero, for every lag, each over the whole number of them; of many by a transform
 * of twice their length, so that a long series costs little more than it takes to read it.
 * Source: Wiener and Khinchin; Box, Jenkins and Reinsel, Time Series Analysis, 2.1.
 */
export function autocovariance(deviations: ArrayLike<number>): Float64Array {
  const n = deviations.length;
  if (n <= SHORT)
    return Float64Array.from({ length: n }, (_, lag) => {
      let sum = 0;
      for (let i = lag; i < n; i++) sum += deviations[i]! * deviations[i - lag]!;
      return sum / n;
    });
  const fft = new FFT(2 ** Math.max(1, Math.ceil(Math.log2(2 * n))));
  const padded = new Float64Array(fft.size);
  padded.set(deviations);
  const spectrum = fft.createComplexArray();
  fft.realTransform(spectrum, padded);
  fft.completeSpectrum(spectrum);
  for (let k = 0; k < fft.size; k++) {
    spectrum[2 * k] = spectrum[2 * k]! ** 2 + spectrum[2 * k + 1]! ** 2;
    spectrum[2 * k + 1] = 0;
  }
  const back = fft.createComplexArray();
  fft.inverseTransform(back, spectrum);
  return Float64Array.from({ length: n }, (_, lag) => back[2 * lag]! / n);
}

/** How far a series hangs together. */
export interface Together {
  /** Variance of its mean. */
  readonly ofMean: number;
  /** Lags up to which it surely does. */
  readonly lags: number;
}

/**
 * The same with what the mean takes off the autocovariances put back: it is one of the series itself, so that each comes out
 * too low by its variance.
 * Source: Geyer, Statistical Science 7 (1992) 473 (initial monotone sequence).
 */
export function together(covariance: Float64Array): Together {
  const n = covariance.length;
  let ofMean = 0;
  let lags = 0;
  for (let round = 0; round < 6; round++) {
    let sum = 0;
    let before = Infinity;
    for (lags = 0; lags + 1 < n / 2; lags += 2) {
      const pair = covariance[lags]! + covariance[lags + 1]! + 2 * ofMean;
      if (pair <= ofMean) break;
      before = Math.min(pair, before);
      sum += before;
    }
    const next = Math.max(2 * sum - (covariance[0]! + ofMean), 1e-4 * covariance[0]!) / n;
    const isSettled = Math.abs(next - ofMean) < 1e-3 * next;
    ofMean = next;
    if (isSettled) break;
  }
  return { ofMean, lags };
}
