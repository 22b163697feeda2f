import { seededRandom } from '../../src/numerics/index.ts';

export interface Electrocardiogram {
  readonly times: Float64Array;
  /** mV */
  readonly values: Float64Array;
  readonly sampleRateHz: number;
  /** Tops of the tall waves, s. */
  readonly beats: readonly number[];
}

/**
 * Five minutes like an electrocardiogram: a small wave, a tall narrow one and a broad one a beat, a rate that rises and
 * falls, two beats that come early and broad, a baseline that drifts with the breath, noise and a little hum.
 */
export function electrocardiogram(seed: number): Electrocardiogram {
  const random = seededRandom(seed);
  const sampleRateHz = 360;
  const length = 300 * sampleRateHz;
  const beats: number[] = [];
  const early = new Set([70 + Math.floor(20 * random.uniform()), 210 + Math.floor(20 * random.uniform())]);
  for (let t = 0.6; t < 299;) {
    beats.push(t);
    const usual = 0.85 + 0.2 * Math.sin(t / 40) + 0.02 * random.normal();
    t += early.has(beats.length) ? 0.62 * usual : usual;
  }
  const values = new Float64Array(length);
  const add = (at: number, width: number, height: number) => {
    const from = Math.max(0, Math.floor((at - 5 * width) * sampleRateHz));
    const to = Math.min(length, Math.ceil((at + 5 * width) * sampleRateHz));
    for (let i = from; i < to; i++)
      values[i]! += height * Math.exp(-(((i / sampleRateHz - at) / width) ** 2) / 2);
  };
  beats.forEach((t, k) => {
    const isEarly = early.has(k);
    const size = 1 + 0.08 * random.normal();
    add(t, isEarly ? 0.022 : 0.012, (isEarly ? 1.25 : 1.1) * size);
    add(t + 0.035, 0.012, -0.2 * size);
    add(t + 0.25, 0.05, 0.28 * size);
    if (!isEarly) add(t - 0.16, 0.03, 0.12 * size);
  });
  for (let i = 0; i < length; i++) {
    const t = i / sampleRateHz;
    values[i]! +=
      0.25 * Math.sin(2 * Math.PI * 0.25 * t) +
      0.15 * Math.sin(2 * Math.PI * 0.03 * t) +
      0.02 * Math.sin(2 * Math.PI * 50 * t) +
      0.025 * random.normal();
  }
  return { times: Float64Array.from({ length }, (_, i) => i / sampleRateHz), values, sampleRateHz, beats };
}
