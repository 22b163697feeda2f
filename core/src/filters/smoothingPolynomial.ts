/**
 * Weights that give the value or a derivative of the polynomial fitted to a window, at one place in it.
 * @param width samples in the window @param degree below width @param derivative 0 to degree
 * @param at place in the window, 0 oldest to width - 1 newest @param dtS sample period, s
 * @returns width weights, oldest sample first
 * @throws {RangeError} when the degree is not below the width or the derivative above the degree
 * Source: Savitzky and Golay, Anal. Chem. 36 (1964) 1627; Gorry, Anal. Chem. 62 (1990) 570 for the ends.
 */
export function smoothingWeights(
  width: number,
  degree: number,
  derivative: number,
  at: number,
  dtS: number,
): Float64Array {
  if (!Number.isInteger(width) || width < 2 || !Number.isInteger(degree) || degree < 0 || degree >= width)
    throw new RangeError(
      `The degree of a smoothing polynomial must be below its window width; received degree ${degree}, width ${width}. Widen the window or lower the degree.`,
    );
  if (derivative > degree)
    throw new RangeError(
      `A derivative of order ${derivative} needs a polynomial of at least that degree; received ${degree}.`,
    );
  // Places are scaled to -1..1, or high degrees would lose their digits.
  const half = (width - 1) / 2;
  const x = Float64Array.from({ length: width }, (_, i) => (i - half) / half);
  const place = (at - half) / half;
  const weights = new Float64Array(width);
  for (const basis of orthonormalPolynomials(x, degree)) {
    const there = derivativeAt(basis.coefficients, derivative, place) / (half * dtS) ** derivative;
    for (let i = 0; i < width; i++) weights[i]! += there * basis.values[i]!;
  }
  return weights;
}

interface Basis {
  /** Rising powers. */
  readonly coefficients: readonly number[];
  readonly values: Float64Array;
}

/** Polynomials of degree 0 to `degree` that are orthonormal over the places: the fit's weights follow without solving. */
function orthonormalPolynomials(x: Float64Array, degree: number): Basis[] {
  const found: Basis[] = [];
  for (let k = 0; k <= degree; k++) {
    // x times the last one, made orthogonal twice over: once is not enough for rounding.
    let coefficients = k === 0 ? [1] : [0, ...found[k - 1]!.coefficients];
    let values = Float64Array.from(x, (v) => derivativeAt(coefficients, 0, v));
    for (let pass = 0; pass < 2; pass++)
      for (const b of found) {
        const dot = values.reduce((s, v, i) => s + v * b.values[i]!, 0);
        values = values.map((v, i) => v - dot * b.values[i]!);
        coefficients = coefficients.map((c, j) => c - dot * (b.coefficients[j] ?? 0));
      }
    const size = Math.sqrt(values.reduce((s, v) => s + v * v, 0));
    found.push({ coefficients: coefficients.map((c) => c / size), values: values.map((v) => v / size) });
  }
  return found;
}

/** A derivative of a polynomial in rising powers. */
function derivativeAt(coefficients: readonly number[], derivative: number, x: number): number {
  let sum = 0;
  for (let k = coefficients.length - 1; k >= derivative; k--) {
    let factor = 1;
    for (let j = 0; j < derivative; j++) factor *= k - j;
    sum = sum * x + factor * coefficients[k]!;
  }
  return sum;
}

/**
 * Smooths a whole column without delay; the first and last half-windows come from the polynomial of the end windows.
 * @param width odd
 * @throws {RangeError} for an even width or fewer samples than one window
 */
export function smoothColumn(
  x: Float64Array,
  width: number,
  degree: number,
  derivative: number,
  dtS: number,
): Float64Array {
  if (width % 2 === 0)
    throw new RangeError(`Enter an odd window width; received ${width}. Use ${width + 1}.`);
  if (x.length < width)
    throw new RangeError(
      `The window of ${width} samples is longer than the ${x.length} samples of data. Narrow it or record longer.`,
    );
  const half = (width - 1) / 2;
  const centre = smoothingWeights(width, degree, derivative, half, dtS);
  const out = new Float64Array(x.length);
  const dot = (weights: Float64Array, from: number) => {
    let sum = 0;
    for (let i = 0; i < width; i++) sum += weights[i]! * x[from + i]!;
    return sum;
  };
  for (let n = half; n < x.length - half; n++) out[n] = dot(centre, n - half);
  for (let i = 0; i < half; i++) {
    out[i] = dot(smoothingWeights(width, degree, derivative, i, dtS), 0);
    const place = width - half + i;
    out[x.length - half + i] = dot(smoothingWeights(width, degree, derivative, place, dtS), x.length - width);
  }
  return out;
}
