import { describe, expect, it } from 'vitest';
import { seededRandom } from '../src/numerics/index.ts';
import {
  addedUp,
  lessFloor,
  loadStepFinder,
  StepSums,
  steadyRule,
  type LoadStep,
} from '../src/trial/index.ts';

const RATE = 4;
/** Nothing, a lamp, a motor, nothing again; each for so long. */
const LOADS = [0.1, 60, 35, 0.1];
const EACH_S = 40;

function power(seed: number) {
  const random = seededRandom(seed);
  const n = LOADS.length * EACH_S * RATE;
  const times = Float64Array.from({ length: n }, (_, i) => i / RATE);
  const values = times.map((t) => LOADS[Math.floor(t / EACH_S)]! + 0.2 * random.normal());
  return { times, values };
}

function stepsOf({ times, values }: ReturnType<typeof power>) {
  const proposed = steadyRule(times, values, 'W');
  if (typeof proposed === 'string') throw new Error(proposed);
  const steps: LoadStep[] = [];
  const finder = loadStepFinder(proposed.rule, (step) => steps.push(step));
  times.forEach((t, i) => finder.push(t, values[i]!));
  finder.finish();
  return steps;
}

function sumsOf(steps: readonly LoadStep[], { times, values }: ReturnType<typeof power>) {
  const sums = new StepSums(steps);
  times.forEach((t, i) => sums.push(t, values[i]!));
  sums.finish();
  return sums.sums;
}

describe('steps of a load', () => {
  it('are found where the power stands still, and hold what it was there', () => {
    for (const seed of [1, 2, 3]) {
      const run = power(seed);
      const steps = stepsOf(run);
      expect(steps.length).toBeGreaterThanOrEqual(4);
      sumsOf(steps, run).forEach(({ mean, sd, n }, k) => {
        const load = LOADS[Math.floor((steps[k]!.fromS + steps[k]!.toS) / 2 / EACH_S)]!;
        expect(Math.abs(mean - load)).toBeLessThan((4 * 0.2) / Math.sqrt(n));
        expect(sd / 0.2).toBeGreaterThan(0.6);
        expect(sd / 0.2).toBeLessThan(1.4);
      });
      const together = steps.reduce((s, { fromS, toS }) => s + toS - fromS, 0);
      expect(together).toBeGreaterThan(0.75 * LOADS.length * EACH_S);
    }
  });

  it('weigh readings by the time that they stood, and leave out what is missing', () => {
    const [{ mean, n }] = sumsOf([{ fromS: 0, toS: 10 }], {
      // A reading each second, then one each tenth.
      times: Float64Array.of(0, 1, 2, 3, 4, 5, 5.1, 5.2, 5.3, 5.4, 12),
      values: Float64Array.of(2, 2, 2, 2, 2, 2, 9, 9, Number.NaN, 9, 100),
    }) as [ReturnType<typeof sumsOf>[number]];
    expect(n).toBe(9);
    expect(mean).toBeCloseTo((5 * 2 + 0.1 * 5.5 + 0.1 * 9) / 5.2, 12);
    const [none] = sumsOf([{ fromS: 1e4, toS: 2e4 }], power(1));
    expect(none).toEqual({ mean: Number.NaN, sd: Number.NaN, n: 0 });
  });

  it('add up to watt-hours and to charge, and to nothing else', () => {
    expect(addedUp('W')!.each * 3600).toBeCloseTo(1, 12);
    expect(addedUp('mA')!).toMatchObject({ title: 'Charge', to: 'mAh' });
    expect(addedUp('mA')!.each * 3600).toBeCloseTo(1, 12);
    expect(addedUp('degC')).toBeNull();
  });

  it('are less a floor only as it is said: of effective values in squares, never below nothing', () => {
    expect(lessFloor(60, 0.1, false)).toBeCloseTo(59.9, 12);
    expect(lessFloor(5, 3, true)).toBe(4);
    expect(lessFloor(2, 3, true)).toBe(0);
  });

  it('are refused a rule that cannot be', () => {
    expect(() => loadStepFinder({ windowS: 0, drift: 1, scatter: 1 }, () => undefined)).toThrow(/above 0/);
    expect(() => loadStepFinder({ windowS: 1, drift: -1, scatter: 1 }, () => undefined)).toThrow(
      /received -1/,
    );
    expect(steadyRule(Float64Array.of(1, 2), Float64Array.of(1, 2), 'W')).toMatch(/At least 20/);
  });
});
