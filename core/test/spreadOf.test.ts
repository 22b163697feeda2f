import { describe, expect, it } from 'vitest';
import { spreadOf } from '../src/figures/spreadOf.ts';
import { autocovariance, mean, sampleSd, seededRandom } from '../src/numerics/index.ts';
import type { Random } from '../src/numerics/index.ts';

const RATE = 20;

/** Readings of a minute that hang together over so long, like a vane that follows gusts. */
function gusts(random: Random, holdsS: number): number[] {
  const kept = Math.exp(-1 / RATE / holdsS);
  let [gust, vane] = [0, 0];
  const next = () => {
    gust = kept * gust + Math.SQRT2 * Math.sqrt(1 - kept ** 2) * random.normal();
    return (vane += (gust - vane) * (1 - kept));
  };
  // Long enough that it has forgotten how it began.
  for (let i = 0; i < 20 * holdsS * RATE; i++) next();
  return Array.from({ length: 60 * RATE }, next);
}

const around = (x: readonly number[]) => {
  const middle = mean(x);
  return x.map((v) => v - middle);
};

describe('a standard deviation of readings that hang together', () => {
  it.each([
    ['not at all', (random: Random) => Array.from({ length: 600 }, () => random.normal())],
    ['of them few', (random: Random) => Array.from({ length: 12 }, () => random.normal())],
    ['for half a second', (random: Random) => gusts(random, 0.5)],
    ['for two seconds, which are few in a minute', (random: Random) => gusts(random, 2)],
  ])('holds the true one: %s', (_name, draw) => {
    const seeds = 300;
    const random = seededRandom(3);
    let held = 0;
    for (let k = 0; k < seeds; k++) {
      const x = draw(random);
      const { whole, share } = spreadOf(around(x));
      const value = whole * sampleSd(x);
      if (Math.abs(value - 1) <= 2 * value * share) held++;
    }
    expect(held / seeds).toBeGreaterThan(0.95 - 3 * Math.sqrt((0.95 * 0.05) / seeds));
  });

  it('is known better of swings that are all alike than of gusts as slow', () => {
    const swing = Array.from({ length: 60 * RATE }, (_, i) => Math.sin((2 * Math.PI * i) / RATE));
    expect(spreadOf(around(swing)).share).toBeLessThan(0.012);
    expect(spreadOf(around(gusts(seededRandom(1), 0.25))).share).toBeGreaterThan(0.03);
  });

  it('is known less where a few stand far out', () => {
    const random = seededRandom(2);
    const plain = Array.from({ length: 600 }, () => random.normal());
    const far = plain.map((v, i) => (i % 50 === 0 ? 5 * Math.sign(v) : v));
    expect(spreadOf(around(far)).share).toBeGreaterThan(1.3 * spreadOf(around(plain)).share);
  });
});

describe('autocovariances', () => {
  it.each([1, 2, 7, 64, 101])('of %i readings are their plain sums', (n) => {
    const random = seededRandom(n);
    const x = around(Array.from({ length: n }, () => random.normal()));
    const plain = x.map((_, lag) => x.reduce((sum, v, i) => sum + (i >= lag ? v * x[i - lag]! : 0), 0) / n);
    const found = autocovariance(x);
    expect(found).toHaveLength(n);
    plain.forEach((c, lag) => expect(found[lag]).toBeCloseTo(c, 12));
  });
});
