import FFT from 'fft.js';

/**
 * Autocovariances of deviations that add up to zero, for every lag, each over the whole number of them; by a transform of
 * twice their length, so that a long series costs little more than it takes to read it.
 * Source: Wiener and Khinchin; Box, Jenkins and Reinsel, Time Series Analysis, 2.1.
 */
export function autocovariance(deviations: ArrayLike<number>): Float64Array {
  const n = deviations.length;
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
