import { describe, expect, it } from 'vitest';
import {
  compileLine,
  filterTraits,
  priceOfFilter,
  runLine,
  singleLane,
  stageKind,
} from '../src/line/index.ts';

const CONTEXT = { sampleRateHz: 10 };
const traits = (kind: string, params: Record<string, number>) =>
  filterTraits(stageKind(kind)!, params, CONTEXT);

describe('filterTraits', () => {
  it('measures the moving mean: delay (n-1)/2 samples, noise over root n', () => {
    const t = traits('moving-mean', { width: 9 });
    expect(t.delayS).toBeCloseTo(0.4, 9);
    expect(t.noiseGain).toBeCloseTo(1 / 3, 9);
    expect(t.settlingS).toBeCloseTo(0.8, 9);
    expect(t.step.values[0]).toBeCloseTo(1 / 9, 12);
  });

  it('measures exponential smoothing against its closed form', () => {
    const a = 1 - Math.exp(-1 / 10);
    const t = traits('exponential', { timeConstantS: 1 });
    expect(t.delayS).toBeCloseTo((0.1 * (1 - a)) / a, 6);
    expect(t.noiseGain).toBeCloseTo(Math.sqrt(a / (2 - a)), 9);
    // 1 - exp(-t) passes 0.99 at 4.605 time constants.
    expect(t.settlingS).toBeCloseTo(4.6, 1);
  });

  it('lets a width of one through unchanged', () => {
    expect(traits('moving-mean', { width: 1 })).toMatchObject({ delayS: 0, noiseGain: 1, settlingS: 0 });
  });

  it('refuses what is not a linear filter', () => {
    // The same parameters are measured anew for another rate and another kind.
    const params = { width: 9 };
    const at = (kind: string, sampleRateHz: number) =>
      filterTraits(stageKind(kind)!, params, { sampleRateHz });
    const [slow, fast] = [at('moving-mean', 10), at('moving-mean', 1000)];
    expect(slow.delayS).toBeCloseTo(100 * fast.delayS, 9);
    expect(at('moving-median', 10).noiseGain).not.toBe(slow.noiseGain);
    expect(at('moving-mean', 10)).toEqual(slow);
    expect(() => filterTraits(stageKind('divider')!, stageKind('divider')!.defaults, CONTEXT)).toThrow(
      /not a linear filter/,
    );
  });
});

describe('Butterworth low-pass', () => {
  it.each([1, 2, 3, 5, 8])('order %d is down 3 dB at the cut-off and flat at rest', (order) => {
    const price = priceOfFilter(stageKind('butterworth-lowpass')!, { order, cutoffHz: 1 }, CONTEXT, {
      kind: 'tone',
      frequencyHz: 1,
    });
    expect(1 - price!.amount).toBeCloseTo(Math.SQRT1_2, 6);
    const spec = {
      sources: [{ column: 'x', unit: 'count' as const }],
      stages: [
        { id: 'f', kind: 'butterworth-lowpass', params: { order, cutoffHz: 1 }, uncertainty: {}, off: false },
      ],
    };
    const still = new Float64Array(50).fill(7.25);
    const out = runLine(compileLine(spec, CONTEXT), singleLane(still, still))[0]!.lanes[0]!.values;
    expect(Math.max(...out.map((v) => Math.abs(v - 7.25)))).toBeLessThan(1e-12);
  });

  it('refuses a cut-off at or above half the rate', () => {
    expect(() => stageKind('butterworth-lowpass')!.prepare({ order: 2, cutoffHz: 5 }, CONTEXT)).toThrow(
      /below half the sampling rate \(5 Hz\); received 5 Hz/,
    );
  });
});

describe('priceOfFilter', () => {
  it('is rate times delay on a ramp', () => {
    const price = priceOfFilter(stageKind('moving-mean')!, { width: 11 }, CONTEXT, {
      kind: 'ramp',
      ratePerS: 0.3,
    });
    expect(price).toEqual({ amount: expect.closeTo(0.15, 9), relative: false });
  });

  it('takes the whole peak off a pulse shorter than the window allows, and little off a long one', () => {
    const short = priceOfFilter(stageKind('moving-mean')!, { width: 10 }, CONTEXT, {
      kind: 'pulse',
      widthS: 0.3,
    });
    const long = priceOfFilter(stageKind('moving-mean')!, { width: 10 }, CONTEXT, {
      kind: 'pulse',
      widthS: 20,
    });
    expect(short!.amount).toBeGreaterThan(0.75);
    expect(long!.amount).toBeLessThan(0.002);
    expect(long!.amount).toBeGreaterThan(0);
  });
});

describe('moving mean', () => {
  it('does not build up rounding over a long, large and then small signal', () => {
    const spec = {
      sources: [{ column: 'x', unit: 'count' as const }],
      stages: [{ id: 'f', kind: 'moving-mean', params: { width: 5 }, uncertainty: {}, off: false }],
    };
    const values = Float64Array.from({ length: 10_000 }, (_, i) => (i < 5000 ? 1e15 / 3 : 0.1));
    const out = runLine(compileLine(spec, CONTEXT), singleLane(values, values))[0]!.lanes[0]!.values;
    expect(out.at(-1)).toBeCloseTo(0.1, 12);
  });
});
