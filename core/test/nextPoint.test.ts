import { describe, expect, it } from 'vitest';
import { FITS, fitCalibration, nextPoint, predictionBand, type FitPoint } from '../src/calibrate/index.ts';
import { compileLine, editLine, invertLine } from '../src/line/index.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { thermistorLine } from '../src/plan/index.ts';
import { CONTEXT, FIT_CASES, simulate, volts } from './support/intervals/fitCases.ts';

const kind = (id: string) => FITS.find((f) => f.id === id)!;
const GOAL = { low: 0, high: 100, goal: 0.3, uReference: 0.2, uRaw: 0.002 };
const truth = editLine(volts, [{ stageId: 'c', params: { gain: 0.97, offset: 2 } }]);
const at = (readings: readonly number[], seed = 1) => simulate(truth, readings, 0.2, 0.002, seed);

describe('the next best point', () => {
  it('of a straight line lies at an end, first at one and then at the other', () => {
    const none = nextPoint(kind('gain-offset'), volts, CONTEXT, [], null, GOAL)!;
    expect(none.worstNow).toBe(Infinity);
    expect(none.worstThen).toBe(Infinity);
    const one = nextPoint(kind('gain-offset'), volts, CONTEXT, at([0]), null, GOAL)!;
    expect([one.at, one.worstNow]).toEqual([100, Infinity]);
    expect(one.worstThen).toBeLessThan(1);
    const two = nextPoint(kind('gain-offset'), volts, CONTEXT, at([100]), null, GOAL)!;
    expect(two.at).toBe(0);
  });

  it('lies at the far end where a zero is known a thousand times better', () => {
    const zero = at([0]).map((p) => ({ ...p, uReference: 2e-4, uRaw: 1e-6 }));
    const told = nextPoint(kind('gain-offset'), volts, CONTEXT, zero, null, GOAL)!;
    expect(told.at).toBe(100);
    expect(told.worstThen).toBeCloseTo(1.96 * Math.hypot(0.2, 20 * 0.002), 2);
  });

  it('tells what it brings: as much as the band shows once it is kept', () => {
    const points = at([10, 40]);
    const told = nextPoint(kind('gain-offset'), volts, CONTEXT, points, null, GOAL)!;
    const worstOf = (kept: readonly FitPoint[]) => {
      const result = fitCalibration(kind('gain-offset'), volts, CONTEXT, kept);
      if (typeof result === 'string') throw new Error(result);
      const line = compileLine(editLine(volts, result.edits), CONTEXT);
      const raws = [0, 25, 50, 75, 100].map((v) => invertLine(line, v)[0]!);
      // Scatter is no part of it: the covariance as stated.
      const stated = {
        ...result,
        birge: 1,
        covariance: result.covariance.map((r) => r.map((v) => v / result.birge ** 2)),
      };
      const { uDegreesOfFreedom: _, ...plain } = stated;
      return Math.max(...predictionBand(volts, CONTEXT, plain, raws, 0).map((b) => b.confidence));
    };
    expect(told.worstNow / worstOf(points)).toBeCloseTo(1, 1);
    const next = simulate(truth, [told.at], 0.2, 0.002, 9).map((p) => ({ ...p, id: 'next' }));
    expect(told.worstThen / worstOf([...points, ...next])).toBeCloseTo(1, 1);
    expect(told.worstThen).toBeLessThan(told.worstNow);
  });

  it('says when there are enough, how many are left, and when many more would not do', () => {
    const goal = (goalNow: number) =>
      nextPoint(kind('gain-offset'), volts, CONTEXT, at([0, 100]), null, { ...GOAL, goal: goalNow })!
        .pointsLeft;
    expect(goal(1)).toBe(0);
    // Two more at the ends make it √2 better.
    expect(goal(0.29)).toBe(2);
    expect(goal(1e-3)).toBeNull();
  });

  it('is none of a curve through points, nor where the range is nothing', () => {
    expect(nextPoint(kind('table-pchip'), volts, CONTEXT, at([0, 50, 100]), null, GOAL)).toBeNull();
    expect(nextPoint(kind('gain'), volts, CONTEXT, at([50]), null, { ...GOAL, high: 0 })).toBeNull();
  });

  it('is there for every fit of constants, from the first point on', () => {
    for (const c of FIT_CASES.filter((f) => !kind(f.fit).interpolates)) {
      const goal = {
        low: Math.min(...c.at),
        high: Math.max(...c.at),
        goal: 1e-9,
        uReference: c.uReference,
        uRaw: c.uRaw,
      };
      const points = simulate(editLine(c.as, c.edits), c.at, c.uReference, c.uRaw, 3);
      for (const kept of [[], points.slice(0, 1), points]) {
        const told = nextPoint(kind(c.fit), c.as, CONTEXT, kept, null, goal);
        expect(told, `${c.fit}, ${kept.length} points`).not.toBeNull();
        expect(told!.at).toBeGreaterThanOrEqual(goal.low);
        expect(told!.at).toBeLessThanOrEqual(goal.high);
        expect(told!.worstThen).toBeLessThanOrEqual(told!.worstNow);
      }
    }
  });

  it('followed three times reaches what even spacing needs more points for, in 200 true-ups', () => {
    const line = thermistorLine('p');
    const wide = { low: 0, high: 110, goal: 0.35, uReference: 0.2, uRaw: 0.3 };
    let sooner = 0;
    let later = 0;
    for (let seed = 1; seed <= 200; seed++) {
      const random = seededRandom(seed);
      const hidden = editLine(line, [
        { stageId: 'correction', params: { gain: 0.96 + 0.08 * random.uniform() } },
      ]);
      const spec = hidden;
      const fit = kind('gain-offset');
      const needed = (place: (k: number, kept: readonly FitPoint[]) => number) => {
        const kept: FitPoint[] = [];
        for (let k = 0; k < 12; k++) {
          const [p] = simulate(spec, [place(k, kept)], wide.uReference, wide.uRaw, 1000 * seed + k);
          kept.push({ ...p!, id: `k${k}` });
          const told = nextPoint(fit, line, CONTEXT, kept, null, wide);
          if (told && told.pointsLeft === 0) return kept.length;
        }
        return 12;
      };
      // Where a person goes who covers the range evenly: low, high, middle, quarters.
      const even = [0, 110, 55, 27.5, 82.5, 13.75, 41.25, 68.75, 96.25, 6.875, 20.6, 34.4];
      const advised = needed((_, kept) => nextPoint(fit, line, CONTEXT, kept, null, wide)?.at ?? 0);
      const evenly = needed((k) => even[k]!);
      if (advised < evenly) sooner++;
      if (advised > evenly) later++;
    }
    expect(later).toBe(0);
    expect(sooner).toBeGreaterThan(190);
  });
});
