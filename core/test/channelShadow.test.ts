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

const gadgetOf = (channels: Channel[]): Gadget => ({
  ...familyGadget(1),
  brief: null,
  picks: [],
  hookup: null,
  sampleRateHz: 10,
  channels,
});

/**
 * By how much the fit of a trued-up channel moves, um, what a channel that goes on from it gives to a third, which takes it off
 * its own reading; null where nothing is known of the third.
 */
function movedBy(owner: readonly StageSpec[], stageId: string | null, behind: readonly StageSpec[]) {
  const own = { ...CORRECTED, id: 'own', uncertainty: { offset: 1 } };
  const less = stage('less', 'less-others', { channels: 'further', own: 1, weights: [-1] });
  const taking = channel('taking', [own, less], null, 'um');
  const gadget = gadgetOf([
    taking,
    channel('owner', owner),
    channel('further', behind, { channelId: 'owner', stageId }),
  ]);
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

/** What two channels that both go on from a third feel of each way in which numbers may be off: their difference, and their sum. */
function feltTogether(
  stages: Readonly<Record<'owner' | 'first' | 'second', readonly StageSpec[]>>,
  calibrations: readonly Calibration[] = [],
) {
  const less = stage('less', 'less-others', { channels: 'second', own: 1, weights: [-1] });
  const feed = { channelId: 'owner', stageId: null };
  const first = channel('first', [...stages.first, less], feed);
  const gadget = gadgetOf([channel('owner', stages.owner), first, channel('second', stages.second, feed)]);
  const spec = wholeLine(gadget, first, calibrations);
  const shadow = channelShadow(gadget, first, spec, calibrations);
  if (!shadow) return null;
  const reads = (of: Pick<typeof spec, 'sources' | 'stages'>) => {
    const felt = of.stages.filter((s) => s.kind !== 'less-others');
    return valuesAtRest(compileLine({ sources: of.sources, stages: felt }, { sampleRateHz: 10 }), 2).at(-1)!;
  };
  const by = (of: typeof spec, sign: number) => reads(of) + sign * reads(of.beside![0]!);
  const u = (sign: number) =>
    Math.hypot(...shadow.lines.map((line) => (by(line, sign) - by(spec, sign)) / MOVED_BY));
  return { difference: u(-1), sum: u(1) };
}

describe('two channels that both go on from a third', () => {
  const plain = stage('p', 'gain-offset', { gain: 1, offset: 0 });
  const result = {
    edits: [],
    parameters: [{ stageId: 'c', param: 'offset', value: 0, u: 0.3 }],
    covariance: [[0.09]],
    validRaw: [1, 3],
    residuals: [],
    misfit: 0.4,
  } as unknown as FitResult;
  const used = { id: 'k', channelId: 'owner', state: 'in use', result } as unknown as Calibration;

  it('are off together by its fit and what that leaves', () => {
    const felt = feltTogether({ owner: [CORRECTED], first: [plain], second: [plain] }, [used])!;
    expect(felt.difference).toBeCloseTo(0, 9);
    expect(felt.sum).toBeCloseTo(2 * 0.5, 9);
  });

  it('are off together by its constants as bought, and by a cause of their own that somebody named', () => {
    const bought = { ...CORRECTED, uncertainty: { offset: 0.3 } };
    const shared = feltTogether({ owner: [bought], first: [plain], second: [plain] })!;
    expect(shared.difference).toBeCloseTo(0, 9);
    expect(shared.sum).toBeCloseTo(0.6, 9);
    const own = { ...plain, uncertainty: { offset: 0.1 } };
    const apart = feltTogether({ owner: [CORRECTED], first: [own], second: [own] })!;
    expect(apart.difference).toBeCloseTo(0.1 * Math.SQRT2, 9);
    const caused = { ...own, cause: { offset: 'the supply' } };
    const together = feltTogether({ owner: [CORRECTED], first: [caused], second: [caused] })!;
    expect(together.difference).toBeCloseTo(0, 9);
    expect(together.sum).toBeCloseTo(0.2, 9);
  });

  it('count what their own stages are good to behind its fit, also of a stage that is called as one of its', () => {
    const own = { ...CORRECTED, uncertainty: { offset: 0.1 } };
    const felt = feltTogether({ owner: [CORRECTED], first: [own], second: [plain] }, [used])!;
    expect(felt.difference).toBeCloseTo(0.1, 9);
    expect(felt.sum).toBeCloseTo(Math.hypot(1, 0.1), 9);
  });
});
