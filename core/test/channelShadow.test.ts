import { describe, expect, it } from 'vitest';
import { compileLine, MOVED_BY, valuesAtRest } from '../src/line/index.ts';
import type { Calibration, Channel, FitResult, Gadget, StageSpec } from '../src/model/index.ts';
import { channelShadow } from '../src/plan/channelShadow.ts';
import { wholeLine } from '../src/plan/index.ts';
import { familyGadget } from './support/familyGadget.ts';
import { stage } from './support/intervals/fitCases.ts';

const TO_MM = stage('l', 'linear', { slope: 20, intercept: 0, to: 'mm' });
const CORRECTED = stage('c', 'gain-offset', { gain: 1, offset: 0 });
const TO_CM = stage('cm', 'linear', { slope: 0.1, intercept: 0, to: 'cm' });
const TO_UM = stage('u', 'linear', { slope: 1000, intercept: 0, to: 'um' });
const CHANGE = stage('r', 'rate-of-change', { width: 5 });

const channel = (
  id: string,
  stages: readonly StageSpec[],
  feed: Channel['feed'] = null,
  unit: 'V' | 'um' = 'V',
): Channel =>
  ({
    id,
    askId: id,
    name: id,
    line: { sources: [{ column: id, unit }], stages: [...stages] },
    feed,
  }) as Channel;

/**
 * By how much the fit of a trued-up channel moves, um, what a channel that goes on from it gives to a third, which takes it off
 * its own reading; null where nothing is known of the third.
 */
function movedBy(owner: readonly StageSpec[], stageId: string | null, behind: readonly StageSpec[]) {
  const own = { ...CORRECTED, id: 'own', uncertainty: { offset: 1 } };
  const less = stage('less', 'less-others', { channels: 'further', own: 1, weights: [-1] });
  const taking = channel('taking', [own, less], null, 'um');
  const gadget: Gadget = {
    ...familyGadget(1),
    brief: null,
    picks: [],
    hookup: null,
    sampleRateHz: 10,
    channels: [taking, channel('owner', owner), channel('further', behind, { channelId: 'owner', stageId })],
  };
  const result = {
    edits: [],
    parameters: [{ stageId: 'c', param: 'offset', value: 0, u: 0 }],
    covariance: [[0]],
    validRaw: [1, 3],
    residuals: [],
    misfit: 0.02,
  } as unknown as FitResult;
  const used = { id: 'k', channelId: 'owner', state: 'in use', result } as unknown as Calibration;
  const spec = wholeLine(gadget, taking, [used]);
  const shadow = channelShadow(gadget, taking, spec, [used]);
  if (!shadow) return null;
  const felt = (of: typeof spec) => {
    const { sources, stages } = of.beside![0]!;
    return valuesAtRest(compileLine({ sources, stages }, { sampleRateHz: 10 }), 2).at(-1)!;
  };
  return Math.hypot(...shadow.lines.map((line) => (felt(line) - felt(spec)) / MOVED_BY));
}

describe('what the fit of another channel leaves, where a stage takes that channel off', () => {
  it('stands where it goes on from a third, and goes through what comes behind', () => {
    // 0.02 cm are 200 um, at the end of the owner's line and in its middle.
    expect(movedBy([TO_MM, CORRECTED, TO_CM], 'c', [TO_UM])).toBeCloseTo(200, 6);
    const fromCm = stage('um', 'linear', { slope: 10_000, intercept: 0, to: 'um' });
    expect(movedBy([TO_MM, CORRECTED, TO_CM], null, [fromCm])).toBeCloseTo(200, 6);
    expect(movedBy([TO_MM, CORRECTED], null, [TO_UM])).toBeCloseTo(20, 6);
  });

  it('makes what is read unknown where nothing tells what it is there', () => {
    expect(movedBy([TO_MM, CORRECTED, CHANGE], 'c', [TO_UM])).toBeNull();
  });
});
