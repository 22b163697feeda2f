import { describe, expect, it } from 'vitest';
import { budgetWith } from '../src/figures/index.ts';
import type { Calibration } from '../src/model/calibration.ts';
import type { ChannelBrief } from '../src/model/gadget.ts';
import type { LineSpec } from '../src/model/line.ts';
import { sensorShare } from '../src/plan/sensorShare.ts';
import type { SensorOwn } from '../src/prove/index.ts';

const PROBE: SensorOwn = {
  title: 'probe',
  unit: 'degC',
  signal: 'number',
  accuracyFixed: 0.5,
  accuracyShare: 0.01,
  afterTrueUp: 0.1,
  responseS: 1,
  noise: 0.02,
};
const LINE: LineSpec = { sources: [{ column: 'c', unit: 'degC' }], stages: [] };
const BRIEF = { low: 0, high: 100, unit: 'degC', fastest: { kind: 'ramp', ratePerS: 0 } } as ChannelBrief;
const IN_USE = { state: 'in use', result: {} } as Calibration;
const NOTHING = () => ({ systematic: Number.NaN, noise: Number.NaN });
const inLine = () => ({ systematic: 0.3, noise: 0.05 });

describe('what a sensor adds to the figures made of it', () => {
  it('is its accuracy as bought, at the reading', () => {
    const budget = budgetWith(inLine, sensorShare(PROBE, LINE, 10, BRIEF, null));
    const own = Math.hypot(0.5, 0.01 * 80) / Math.sqrt(3);
    expect(budget(80).systematic).toBeCloseTo(Math.hypot(0.3, own), 12);
    expect(budget(80).noise).toBe(0.05);
  });

  it('is what a true-up leaves, once there is one', () => {
    const budget = budgetWith(inLine, sensorShare(PROBE, LINE, 10, BRIEF, IN_USE));
    expect(budget(80).systematic).toBeCloseTo(Math.hypot(0.3, 0.1 / Math.sqrt(3)), 12);
    const warm = sensorShare({ ...PROBE, temperatureShare: 0.001 }, LINE, 10, BRIEF, IN_USE);
    expect(budgetWith(inLine, warm)(80).systematic).toBeCloseTo(
      Math.hypot(0.3, Math.hypot(0.1, 80 * 0.01) / Math.sqrt(3)),
      12,
    );
  });

  it('has the hysteresis that points showed, also where no sensor is picked', () => {
    const seen = { state: 'in use', result: { hysteresis: { half: 0.4, unit: 'degC' } } } as Calibration;
    const budget = budgetWith(inLine, sensorShare(PROBE, LINE, 10, BRIEF, seen));
    expect(budget(80).systematic).toBeCloseTo(Math.hypot(0.3, Math.hypot(0.1, 0.4) / Math.sqrt(3)), 12);
    const alone = sensorShare(null, LINE, 10, BRIEF, seen);
    expect(budgetWith(inLine, alone)(80).systematic).toBeCloseTo(Math.hypot(0.3, 0.4 / Math.sqrt(3)), 12);
    // A degree of difference may be come to from both sides.
    expect(budgetWith(inLine, alone).apart(0, 50)).toBeCloseTo(0.4 / Math.sqrt(3), 12);
    const other = { state: 'in use', result: { hysteresis: { half: 0.4, unit: 'V' } } } as Calibration;
    expect(sensorShare(null, LINE, 10, BRIEF, other)).toBeNull();
  });

  it('lets a difference go free of what is the same in both readings, as far as that is known', () => {
    const budget = budgetWith(inLine, sensorShare(PROBE, LINE, 10, BRIEF, null));
    // 1 % of the difference, and half a degree that may turn its sign within 50 degrees.
    expect(budget.apart(20, 21)).toBeCloseTo(Math.hypot(0.01, 0.01) / Math.sqrt(3), 12);
    expect(budget.apart(21, 20)).toBeCloseTo(budget.apart(20, 21), 12);
    expect(budget.apart(20, 20)).toBe(0);
  });

  it('stands for all of it where the line states nothing and the sensor gives numbers, and only there', () => {
    const alone = budgetWith(NOTHING, sensorShare(PROBE, LINE, 10, BRIEF, null));
    expect(alone(0)).toEqual({ systematic: 0.5 / Math.sqrt(3), noise: 0.02 });
    expect(alone.apart(0, 1)).toBeGreaterThan(0);
    for (const share of [
      sensorShare({ ...PROBE, signal: 'voltage' }, LINE, 10, BRIEF, null),
      sensorShare(PROBE, LINE, 10, BRIEF, IN_USE),
      null,
    ]) {
      const budget = budgetWith(NOTHING, share);
      expect(budget(0).systematic).toBeNaN();
      expect(budget.apart(0, 1)).toBeNaN();
    }
  });

  it('is in the unit of the readings, from their own zero', () => {
    const kelvin: LineSpec = {
      sources: [{ column: 'k', unit: 'K' }],
      stages: [],
    };
    const share = sensorShare(PROBE, kelvin, 10, null, null)!;
    expect(share.zero).toBeCloseTo(273.15, 9);
    expect(budgetWith(inLine, share)(353.15).systematic).toBeCloseTo(
      budgetWith(inLine, sensorShare(PROBE, LINE, 10, BRIEF, null))(80).systematic,
      12,
    );
  });

  it('is not known of another quantity, of a sensor of which nothing is said, and of a line that does not run', () => {
    expect(sensorShare({ ...PROBE, unit: 'N' }, LINE, 10, BRIEF, null)).toBeNull();
    expect(sensorShare({ ...PROBE, accuracyFixed: 0, accuracyShare: 0 }, LINE, 10, BRIEF, null)).toBeNull();
    expect(sensorShare(null, LINE, 10, BRIEF, null)).toBeNull();
    const broken: LineSpec = {
      ...LINE,
      stages: [{ id: 's', kind: 'nonsense', params: {}, uncertainty: {}, off: false }],
    };
    expect(sensorShare(PROBE, broken, 10, BRIEF, null)).toBeNull();
  });
});
