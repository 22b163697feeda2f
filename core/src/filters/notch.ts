import type { Section } from './sections.ts';

/**
 * Second-order notch with unit gain at rest; -3 dB bandwidth f0 / q.
 * @throws {RangeError} when the notch is not below half the sample rate or q is not above 0
 * Source: Orfanidis, Introduction to Signal Processing, 11.3.
 */
export function notchSection(notchHz: number, q: number, sampleRateHz: number): Section {
  if (!(notchHz > 0) || notchHz >= sampleRateHz / 2)
    throw new RangeError(
      `Enter a notch frequency above 0 and below half the sampling rate (${sampleRateHz / 2} Hz); received ${notchHz} Hz. Sample faster.`,
    );
  if (!(q > 0)) throw new RangeError(`Enter a quality factor above 0; received ${q}.`);
  const w = (2 * Math.PI * notchHz) / sampleRateHz;
  const gain = 1 / (1 + Math.tan(w / q / 2));
  const b1 = -2 * gain * Math.cos(w);
  return { b0: gain, b1, b2: gain, a1: b1, a2: 2 * gain - 1 };
}
