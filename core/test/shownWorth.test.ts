import { describe, expect, it } from 'vitest';
import { calibrationCovariance } from '../src/calibrate/index.ts';
import { compileLine, lineUncertainty, readingAtRest } from '../src/line/index.ts';
import type { Calibration } from '../src/model/index.ts';
import { thermistorLine } from '../src/plan/index.ts';
import { shownWorth, type SensorOwn, type ShownInput } from '../src/prove/index.ts';

const line = compileLine(thermistorLine('p'), { sampleRateHz: 10 });
const digital = compileLine({ sources: [{ column: 'a', unit: 'degC' }], stages: [] }, { sampleRateHz: 10 });
const probe: SensorOwn = {
  title: 'Bead',
  unit: 'degC',
  signal: 'thermistor',
  accuracyFixed: 0.9,
  accuracyShare: 0,
  afterTrueUp: 0.3,
  responseS: 2,
  noise: 0.1,
};
const of = (more: Partial<ShownInput>) =>
  shownWorth({
    line,
    raw: [440],
    reading: 60,
    noiseRaw: 0.3,
    hysteresis: 0,
    calibration: null,
    covariance: more.calibration ? calibrationCovariance(more.calibration.result) : null,
    told: null,
    sensor: null,
    ...more,
  });
const exact = {
  result: {
    parameters: [],
    covariance: [],
    validRaw: [0, 1023],
    residuals: [],
    misfit: 0,
    leaveOneOutRms: 0,
  },
} as unknown as Calibration;

describe('what a shown reading is worth', () => {
  it('is what the constants of its line and its noise make, and what its sensor is good to by the shelf', () => {
    const alone = lineUncertainty(line, [440], 0.3).at(-1)!.combined;
    expect(of({})).toBeCloseTo(alone, 12);
    expect(of({ sensor: probe })).toBeCloseTo(Math.hypot(alone, 0.9 / Math.sqrt(3)), 12);
  });

  it('keeps of the sensor what a true-up leaves', () => {
    const trued = of({ calibration: exact, sensor: probe })!;
    expect(trued).toBeLessThan(of({ sensor: probe })!);
    expect(trued).toBeGreaterThan(0.3 / Math.sqrt(3));
    // And what it moves by when it gets ten kelvin warmer than it was then: 60 degrees by 0.1 % each.
    expect(of({ calibration: exact, sensor: { ...probe, temperatureShare: 0.001 } })).toBeCloseTo(
      Math.hypot(trued, 0.6 / Math.sqrt(3)),
      12,
    );
  });

  it('takes what a fit leaves through the stages that go on from the channel that was trued up', () => {
    const left = { ...exact, result: { ...exact.result, misfit: 0.2 } } as Calibration;
    const change = {
      id: 'f',
      kind: 'change-unit',
      params: { from: 'degC', to: 'degF' },
      uncertainty: {},
      off: false,
    };
    const spec = thermistorLine('p');
    const further = compileLine({ ...spec, stages: [...spec.stages, change] }, { sampleRateHz: 10 });
    const own = of({ calibration: left })! ** 2 - of({ calibration: exact })! ** 2;
    const behind = (calibration: Calibration) =>
      of({
        line: further,
        reading: 140,
        calibration,
        covariance: calibrationCovariance(calibration.result, spec.stages.length),
      })!;
    expect(Math.sqrt(own)).toBeCloseTo(0.2, 9);
    // A difference of 0.2 K is one of 0.36 of the other scale.
    expect(Math.sqrt(behind(left) ** 2 - behind(exact) ** 2)).toBeCloseTo(0.36, 6);
    const curved = { ...left, result: { ...left.result, misfit: { readings: [0, 100], u: [0.1, 0.3] } } };
    const reading = readingAtRest(line, 440);
    const here = 1.8 * (0.1 + (0.2 * reading) / 100);
    expect(Math.sqrt(behind(curved as Calibration) ** 2 - behind(exact) ** 2)).toBeCloseTo(here, 6);
  });

  it('is not known where nobody has stated or measured anything, and never nothing', () => {
    const numbers = { line: digital, raw: [60] };
    expect(of(numbers)).toBeNull();
    expect(of({ ...numbers, sensor: probe })).toBeNull();
    // A sensor that gives numbers stands for all of it, with its noise.
    expect(of({ ...numbers, sensor: { ...probe, signal: 'number' } })).toBeCloseTo(
      Math.hypot(0.9 / Math.sqrt(3), 0.1),
      12,
    );
    // One that feels another quantity says nothing of this one.
    expect(of({ ...numbers, sensor: { ...probe, signal: 'number', unit: 'V' } })).toBeNull();
  });

  it('takes what readings tell themselves where none stands still', () => {
    const numbers = { line: digital, raw: [60] };
    expect(of({ ...numbers, told: 0.4 })).toBeCloseTo(0.4, 12);
    expect(of({ ...numbers, told: Number.NaN })).toBeNull();
    expect(of({ raw: [Number.NaN], told: 0.4 })).toBeCloseTo(0.4, 12);
  });

  it('counts noise that was never measured as the shelf has it', () => {
    const trued = { calibration: exact, sensor: probe };
    expect(of({ ...trued, noiseRaw: null })).toBeGreaterThan(of({ ...trued, noiseRaw: 0 })!);
  });
});
