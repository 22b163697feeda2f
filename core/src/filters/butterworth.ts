import { sectionResponse, type Complex, type Section } from './sections.ts';

export const BUTTERWORTH_KINDS = ['lowpass', 'highpass', 'bandpass', 'bandstop'] as const;
export type ButterworthKind = (typeof BUTTERWORTH_KINDS)[number];

/**
 * Butterworth filter as second-order sections by the bilinear transform with prewarping; -3 dB at the cut-offs.
 * Sections, not one long polynomial, because high orders lose their digits in that form.
 * @param order of the low-pass prototype, 1 to 12; a band filter has twice as many poles
 * @param cutoffHz one frequency, or the lower and upper end of the band
 * @throws {RangeError} when a cut-off is not between 0 and half the sample rate, the band does not rise, or rounding
 *   leaves the filter unstable
 * Source: Oppenheim and Schafer, Discrete-Time Signal Processing, 3rd edition, 7.1.3 and 7.4.
 */
export function butterworthSections(
  kind: ButterworthKind,
  order: number,
  cutoffHz: number | readonly [number, number],
  sampleRateHz: number,
): Section[] {
  const cutoffs = typeof cutoffHz === 'number' ? [cutoffHz] : [...cutoffHz];
  const band = kind === 'bandpass' || kind === 'bandstop';
  if (cutoffs.length !== (band ? 2 : 1))
    throw new RangeError(
      `A ${kind} filter needs ${band ? 'a lower and an upper cutoff' : 'one cutoff'}; received ${cutoffs.join(' and ')} Hz.`,
    );
  if (!Number.isInteger(order) || order < 1 || order > 12)
    throw new RangeError(`A Butterworth filter's order is a whole number from 1 to 12; received ${order}.`);
  for (const f of cutoffs) {
    if (!(f > 0) || f >= sampleRateHz / 2)
      throw new RangeError(
        `Enter a cutoff frequency above 0 and below half the sampling rate (${sampleRateHz / 2} Hz); received ${f} Hz. Lower the cutoff or sample faster.`,
      );
  }
  if (band && !(cutoffs[0]! < cutoffs[1]!))
    throw new RangeError(
      `Enter the lower cutoff first; received ${cutoffs[0]} to ${cutoffs[1]} Hz. Swap the cutoffs.`,
    );
  const warped = cutoffs.map((f) => Math.tan((Math.PI * f) / sampleRateHz));
  const sections = band
    ? bandSections(kind, order, warped[0]!, warped[1]!)
    : plainSections(kind === 'highpass', order, warped[0]!);
  for (const s of sections) {
    // The stability triangle of a second-order section.
    if (!(Math.abs(s.a2) < 1 && Math.abs(s.a1) < 1 + s.a2))
      throw new RangeError(
        `This filter is unstable: order ${order} at ${cutoffs.join(' to ')} Hz is too narrow for a sampling rate of ${sampleRateHz} Hz. Lower the order, widen the band or decimate first.`,
      );
  }
  return sections;
}

function plainSections(high: boolean, order: number, w: number): Section[] {
  const sections: Section[] = [];
  for (let k = 0; k < Math.floor(order / 2); k++) {
    const damping = 2 * Math.sin((Math.PI * (2 * k + 1)) / (2 * order));
    const norm = 1 + damping * w + w * w;
    const b = (high ? 1 : w * w) / norm;
    sections.push({
      b0: b,
      b1: high ? -2 * b : 2 * b,
      b2: b,
      a1: (2 * (w * w - 1)) / norm,
      a2: (1 - damping * w + w * w) / norm,
    });
  }
  if (order % 2 === 1) {
    const b = (high ? 1 : w) / (1 + w);
    sections.push({ b0: b, b1: high ? -b : b, b2: 0, a1: (w - 1) / (1 + w), a2: 0 });
  }
  return sections;
}

const times = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
});

function squareRoot(a: Complex): Complex {
  const size = Math.hypot(a.re, a.im);
  const re = Math.sqrt((size + a.re) / 2);
  return { re, im: (a.im < 0 ? -1 : 1) * Math.sqrt(Math.max(0, (size - a.re) / 2)) };
}

/** z of s by the bilinear transform with unit step: (1 + s) / (1 - s). */
function bilinear(s: Complex): Complex {
  const size = (1 - s.re) ** 2 + s.im ** 2;
  return { re: (1 - s.re * s.re - s.im * s.im) / size, im: (2 * s.im) / size };
}

function bandSections(kind: ButterworthKind, order: number, low: number, high: number): Section[] {
  const width = high - low;
  const centre2 = low * high;
  // Frequency, as a fraction of the rate, that the band is centred on after warping.
  const centre = Math.atan(Math.sqrt(centre2)) / Math.PI;
  const sections: Section[] = [];
  const add = (z1: Complex, z2: Complex) => {
    const a1 = -(z1.re + z2.re);
    const a2 = times(z1, z2).re;
    const raw =
      kind === 'bandpass'
        ? { b0: 1, b1: 0, b2: -1, a1, a2 }
        : { b0: 1, b1: -2 * Math.cos(2 * Math.PI * centre), b2: 1, a1, a2 };
    // Unit gain where the filter lets through: mid-band, or at rest for a band stop.
    const h = sectionResponse([raw], kind === 'bandpass' ? centre : 0, 1);
    const gain = 1 / Math.hypot(h.re, h.im);
    sections.push({ b0: raw.b0 * gain, b1: raw.b1 * gain, b2: raw.b2 * gain, a1, a2 });
  };
  const conjugate = (z: Complex): Complex => ({ re: z.re, im: -z.im });
  for (let k = 0; k < Math.ceil(order / 2); k++) {
    const angle = (Math.PI * (2 * k + 1)) / (2 * order);
    const pole: Complex = { re: -Math.sin(angle), im: Math.cos(angle) };
    // Low-pass to band-pass: s^2 - p width s + centre^2 = 0; to band-stop with 1/p in place of p (|p| = 1).
    const half =
      kind === 'bandpass'
        ? { re: (pole.re * width) / 2, im: (pole.im * width) / 2 }
        : { re: (pole.re * width) / 2, im: (-pole.im * width) / 2 };
    const square = times(half, half);
    const root = squareRoot({ re: square.re - centre2, im: square.im });
    const one = bilinear({ re: half.re + root.re, im: half.im + root.im });
    const two = bilinear({ re: half.re - root.re, im: half.im - root.im });
    if (Math.abs(pole.im) < 1e-12) add(one, two);
    else {
      add(one, conjugate(one));
      add(two, conjugate(two));
    }
  }
  return sections;
}
