import { describe, expect, it } from 'vitest';
import { compileLine, leftOverAt, lineUncertainty } from '../src/line/index.ts';
import type { Calibration, Channel, FitResult, LeftOver, LineSpec, StageSpec } from '../src/model/index.ts';
import { covarianceOf, wholeLine } from '../src/plan/index.ts';

const stage = (id: string, kind: string, params: StageSpec['params'], off = false): StageSpec => ({
  id,
  kind,
  params,
  uncertainty: {},
  off,
});
const TO_MM = stage('l', 'linear', { slope: 20, intercept: 0, to: 'mm' });
const CORRECTED = stage('c', 'gain-offset', { gain: 1, offset: 0 });
const TO_CM = stage('cm', 'linear', { slope: 0.1, intercept: 0, to: 'cm' });
const AREA = stage('a', 'power-law', { factor: 0.01, exponent: 2, to: 'cm' });
const CHANGE = stage('r', 'rate-of-change', { width: 5 });
const TO_UM = stage('u', 'linear', { slope: 1000, intercept: 0, to: 'um' });

const channel = (id: string, stages: readonly StageSpec[], feed: Channel['feed'] = null): Channel =>
  ({ id, name: id, line: { sources: [{ column: 'v', unit: 'V' }], stages: [...stages] }, feed }) as Channel;

/** What a trued-up channel's fit leaves, as a channel that goes on from one of its stages has it. */
function reaching(stages: readonly StageSpec[], stageId: string | null, misfit: LeftOver, behind = [TO_UM]) {
  const owner = channel('owner', stages);
  const further = channel('further', behind, { channelId: 'owner', stageId });
  const gadget = { channels: [owner, further], sampleRateHz: 10 };
  const result = {
    parameters: [{ stageId: 'c', param: 'offset', value: 0, u: 0 }],
    covariance: [[0]],
    validRaw: [1, 3],
    residuals: [],
    misfit,
  } as unknown as FitResult;
  const calibration = {
    id: 'k',
    channelId: 'owner',
    edits: [],
    inUse: true,
    result,
  } as unknown as Calibration;
  const covariance = covarianceOf(gadget, further, [calibration], calibration);
  const line: LineSpec = wholeLine(gadget, further, []);
  const left = (raw: number) =>
    lineUncertainty(compileLine(line, { sampleRateHz: 10 }), raw, 0, covariance).at(-1)!.systematic;
  return { covariance, left, shown: covarianceOf(gadget, owner, [calibration], calibration) };
}

describe('what a fit leaves of a channel that goes on from a trued-up one', () => {
  it('goes through what comes behind, from its end', () => {
    const { covariance, left } = reaching([TO_MM, CORRECTED, TO_CM], null, 0.02, [
      stage('um', 'linear', { slope: 10_000, intercept: 0, to: 'um' }),
    ]);
    expect(covariance).toMatchObject({ stages: 3, leftOver: 0.02 });
    expect(left(2)).toBeCloseTo(200, 6);
  });

  it('is what it was in the middle: a fiftieth of a centimetre at the end is a fifth of a millimetre before', () => {
    const { covariance, left, shown } = reaching([TO_MM, CORRECTED, TO_CM], 'c', 0.02);
    expect(covariance.stages).toBe(2);
    expect(left(2)).toBeCloseTo(200, 6);
    expect(shown.leftOver).toBe(0.02);
  });

  it('is less where the stages behind make much of little', () => {
    const curve: LeftOver = { readings: [0, 36], u: [0.02, 0.02] };
    const { covariance, left } = reaching([TO_MM, CORRECTED, AREA], 'c', curve);
    // 0.01 x^2 rises by 0.02 x: at 40 mm by 0.8.
    expect(leftOverAt(covariance.leftOver, 40)).toBeCloseTo(0.025, 6);
    expect(left(2)).toBeCloseTo(25, 3);
    expect(left(1) / left(2)).toBeCloseTo(2, 3);
  });

  it('does not count stages that are switched off', () => {
    const off = stage('o', 'gain-offset', { gain: 3, offset: 1 }, true);
    for (const stages of [
      [TO_MM, off, CORRECTED, TO_CM],
      [off, TO_MM, CORRECTED, off, TO_CM],
    ]) {
      expect(reaching(stages, 'c', 0.02).left(2)).toBeCloseTo(200, 6);
      expect(
        reaching(stages, null, 0.02, [stage('um', 'linear', { slope: 10_000, intercept: 0, to: 'um' })]).left(
          2,
        ),
      ).toBeCloseTo(200, 6);
    }
  });

  it('stands beside what the stages behind are good to, which the fit says nothing of', () => {
    const good = { ...TO_UM, uncertainty: { slope: 1 } };
    const fitted = { ...CORRECTED, uncertainty: { gain: 1 } };
    // 40 mm by 1 um a mm, at a raw value between the points; beyond them also what the owner was bought with.
    const { left } = reaching([TO_MM, fitted], null, 0.02, [good]);
    expect(left(2)).toBeCloseTo(Math.hypot(20, 40), 6);
    expect(left(4)).toBeGreaterThan(1000);
  });

  it('is not known where the stages behind have no reading at rest; nothing left stays nothing', () => {
    expect(reaching([TO_MM, CORRECTED, CHANGE], 'c', 0.02).left(2)).toBeNaN();
    expect(reaching([TO_MM, CORRECTED, CHANGE], 'c', 0).left(2)).toBe(0);
  });
});
