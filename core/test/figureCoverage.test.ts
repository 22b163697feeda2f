import { describe, expect, it } from 'vitest';
import { familyGadget } from './support/familyGadget.ts';
import type { StageSpec } from '../src/model/line.ts';
import { readoutSpec } from '../src/plan/index.ts';
import { createWatchedReadout, type BudgetTable } from '../src/reading/index.ts';
import { createWorld, FAMILIES, type WorldTruth } from '../src/simulate/index.ts';

// Stated 95 % intervals of figures against what simulated worlds hide, over a hundred seeds. Lines are made of the true
// constants: what is left is what a figure itself states.

const SEEDS = 100;

const EXACT: BudgetTable = { readings: [0], systematic: [0], noise: [0] };

interface Trial {
  readonly family: number;
  readonly figureId: string;
  /** Stages as they would be if the truth were known. */
  stages?(truth: never, stage: StageSpec): StageSpec;
  readonly budget?: (truth: never) => BudgetTable;
  readonly steps: readonly (readonly [condition: string, seconds: number])[];
  truth(truth: never): number;
}

function covered({ family, figureId, stages, budget, steps, truth: hidden }: Trial): number {
  let inside = 0;
  for (let seed = 1; seed <= SEEDS; seed++) {
    const { draw, sampleRateHz } = FAMILIES.find((f) => f.family === family)!;
    const truth = draw(7000 + seed) as never;
    const world = createWorld(truth as WorldTruth);
    const gadget = familyGadget(family);
    const spec = readoutSpec(gadget, [], [], sampleRateHz);
    const readout = createWatchedReadout({
      ...spec,
      columns: world.columns,
      channels: spec.channels.map((c) => ({
        ...c,
        line: { ...c.line, stages: c.line.stages.map((s) => stages?.(truth, s) ?? s) },
        // The worlds keep perfect time: what a crystal may be off by is not in them.
        watch: c.watch && { ...c.watch, clockShare: 0, budget: budget?.(truth) ?? EXACT },
      })),
    });
    let t = 0;
    for (const [condition, seconds] of steps) {
      world.setCondition(condition);
      const n = Math.round(seconds * sampleRateHz);
      const times = new Float64Array(n);
      const columns = world.columns.map(() => new Float64Array(n));
      for (let i = 0; i < n; i++) {
        world.step(1 / sampleRateHz).forEach((v, k) => (columns[k]![i] = v));
        times[i] = t += 1 / sampleRateHz;
      }
      readout.feed(
        { length: n, times, columns },
        () => undefined,
        () => undefined,
      );
    }
    const figure = spec.channels.flatMap((_c, k) => readout.figures(k)).find((f) => f.id === figureId)!;
    if (Math.abs(figure.value - hidden(truth)) <= 2 * figure.u) inside++;
  }
  return inside;
}

const of = <K extends WorldTruth['kind']>(truth: never) => truth as Extract<WorldTruth, { kind: K }>;

describe('stated 95 % intervals hold in 93 to 97 of 100 seeds, or in more where they are bounds', () => {
  it('race time: a signal and a step, either anywhere between two readings', () => {
    const inside = covered({
      family: 2,
      figureId: 'time',
      steps: [
        ['empty', 5],
        ['race', 60],
      ],
      truth: (t) => of<'finish-gate'>(t).courseM / of<'finish-gate'>(t).duckSpeed,
    });
    expect(inside).toBeGreaterThanOrEqual(93);
  });

  it('time to 12 km/h: a start drawn back, a crossing by a curve', () => {
    const inside = covered({
      family: 11,
      figureId: 'quick',
      steps: [
        ['still', 20],
        ['sprint', 40],
      ],
      truth: (t) => {
        const { buildUpS, topSpeed } = of<'punt-sprint'>(t);
        return -buildUpS * Math.log(1 - 12 / 3.6 / topSpeed);
      },
    });
    expect(inside).toBeGreaterThanOrEqual(91);
  });

  it('time to 40 m: a start drawn back, speed summed over time', () => {
    const inside = covered({
      family: 11,
      figureId: 'across',
      budget: (t) => ({ readings: [0], systematic: [0], noise: [3.6 * of<'punt-sprint'>(t).speedNoise] }),
      steps: [
        ['still', 20],
        ['sprint', 40],
      ],
      truth: (t) => {
        const { buildUpS, topSpeed } = of<'punt-sprint'>(t);
        // Metres after s seconds of an exponential approach, turned round by halving.
        const along = (s: number) => topSpeed * (s - buildUpS * (1 - Math.exp(-s / buildUpS)));
        let [low, high] = [0, 60];
        for (let i = 0; i < 60; i++) {
          const middle = (low + high) / 2;
          if (along(middle) < 40) low = middle;
          else high = middle;
        }
        return low;
      },
    });
    expect(inside).toBeGreaterThanOrEqual(91);
  });

  it('run-down time to standstill, from a mean over a turn', () => {
    const inside = covered({
      family: 10,
      figureId: 'down',
      steps: [
        ['stopped', 30],
        ['running', 60],
        ['run-down', 90],
      ],
      truth: (t) => 14 * Math.log((0.95 * of<'spindle'>(t).rpm) / 6),
    });
    expect(inside).toBeGreaterThanOrEqual(93);
  });

  it('seconds a day of the clock: its beats, and the crystal', () => {
    const inside = covered({
      family: 5,
      figureId: 'gain',
      steps: [['running', 300]],
      truth: (t) => 86_400 * (2 / of<'pendulum'>(t).periodS - 1),
    });
    expect(inside).toBeGreaterThanOrEqual(93);
  });

  it('cadence of the strokes', () => {
    const inside = covered({
      family: 3,
      figureId: 'cadence',
      steps: [['shaking', 40]],
      truth: (t) => of<'three-axes'>(t).strokesPerMin,
    });
    expect(inside).toBeGreaterThanOrEqual(93);
  });
});
