import type { Complex, ColumnFilter } from './sections.ts';

export const FIR_WINDOWS = ['hamming', 'hann', 'blackman'] as const;
export type FirWindow = (typeof FIR_WINDOWS)[number];
export type FirKind = 'lowpass' | 'highpass';

const WINDOW_TERMS: Readonly<Record<FirWindow, readonly number[]>> = {
  hamming: [0.54, 0.46, 0],
  hann: [0.5, 0.5, 0],
  blackman: [0.42, 0.5, 0.08],
};

/**
 * Windowed-sinc taps, scaled to unit gain at rest (low-pass) or at half the rate (high-pass); symmetric window.
 * @throws {RangeError} for an even number of taps of a high-pass, fewer than 3 taps, or a cut-off not below half the rate
 * Source: Oppenheim and Schafer, Discrete-Time Signal Processing, 3rd edition, 7.5.
 */
export function firTaps(
  count: number,
  cutoffHz: number,
  sampleRateHz: number,
  window: FirWindow,
  kind: FirKind,
): Float64Array {
  if (!Number.isInteger(count) || count < 3)
    throw new RangeError(`An FIR filter needs a whole number of at least 3 taps; received ${count}.`);
  if (kind === 'highpass' && count % 2 === 0)
    throw new RangeError(`A high-pass needs an odd number of taps; received ${count}. Use ${count + 1}.`);
  if (!(cutoffHz > 0) || cutoffHz >= sampleRateHz / 2)
    throw new RangeError(
      `Enter a cutoff frequency above 0 and below half the sampling rate (${sampleRateHz / 2} Hz); received ${cutoffHz} Hz. Lower the cutoff or sample faster.`,
    );
  const c = (2 * cutoffHz) / sampleRateHz;
  const middle = (count - 1) / 2;
  const sinc = (v: number) => (v === 0 ? 1 : Math.sin(Math.PI * v) / (Math.PI * v));
  const [w0, w1, w2] = WINDOW_TERMS[window];
  const taps = Float64Array.from({ length: count }, (_, i) => {
    const m = i - middle;
    const ideal = kind === 'lowpass' ? c * sinc(c * m) : sinc(m) - c * sinc(c * m);
    const phase = (2 * Math.PI * i) / (count - 1);
    return ideal * (w0! - w1! * Math.cos(phase) + w2! * Math.cos(2 * phase));
  });
  const gain = taps.reduce(
    (s, h, i) => s + (kind === 'lowpass' ? h : h * Math.cos(Math.PI * (i - middle))),
    0,
  );
  return taps.map((h) => h / gain);
}

/** Runs taps from rest, or as if the first sample had always been there. Newest sample times first tap. */
export function firFilter(taps: Float64Array, primed: boolean): ColumnFilter {
  const n = taps.length;
  const reversed = taps.slice().reverse();
  // The ring is kept twice in a row, so that the newest n samples always lie side by side.
  const memory = { ring: new Float64Array(2 * n), at: 0, started: !primed };
  function next(x: number): number {
    const { ring } = memory;
    if (!memory.started) {
      memory.started = true;
      ring.fill(x);
    }
    ring[memory.at] = x;
    ring[memory.at + n] = x;
    const at = memory.at + 1 === n ? 0 : memory.at + 1;
    memory.at = at;
    let sum = 0;
    for (let i = 0; i < n; i++) sum += reversed[i]! * ring[at + i]!;
    return sum;
  }
  return {
    memory,
    next,
    block(from, to, start, count) {
      for (let i = start; i < start + count; i++) to[i] = next(from[i]!);
    },
  };
}

/** Complex gain of taps at a frequency. */
export function firResponse(taps: ArrayLike<number>, frequencyHz: number, sampleRateHz: number): Complex {
  const w = (2 * Math.PI * frequencyHz) / sampleRateHz;
  let re = 0;
  let im = 0;
  for (let k = 0; k < taps.length; k++) {
    re += taps[k]! * Math.cos(w * k);
    im -= taps[k]! * Math.sin(w * k);
  }
  return { re, im };
}
