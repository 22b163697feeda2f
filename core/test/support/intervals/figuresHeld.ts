import { seededRandom, shortWay } from '../../../src/numerics/index.ts';
import { readoutSpec } from '../../../src/plan/index.ts';
import { createWatchedReadout, type BudgetTable } from '../../../src/reading/index.ts';
import { createWorld, FAMILIES, type WorldTruth } from '../../../src/simulate/index.ts';
import type { UnitId } from '../../../src/units/index.ts';
import { familyGadget } from '../familyGadget.ts';
import type { FigureTrial } from './figureTrials.ts';

const EXACT: BudgetTable = { readings: [0], systematic: [0], noise: [0] };

export interface FigureHeld {
  /** Share of the seeds whose interval holds the truth; of a count, those that are right. */
  readonly share: number;
  /** What 95 of 100 are off by at most, over half of their interval: 1 where that is as wide as it should be. */
  readonly off95: number;
  /** Half of the last interval. */
  readonly half: number;
  readonly unit: UnitId;
  /** A count has no interval: it is right or wrong. */
  readonly isCount: boolean;
}

/** Stated intervals of the figures of a trial against what so many worlds hide, by the names of the figures. */
export function figuresHeld(trial: FigureTrial, seeds: number, from: number): Record<string, FigureHeld> {
  const off: Record<string, number[]> = {};
  const last: Record<string, { half: number; unit: UnitId }> = {};
  for (let seed = 1; seed <= seeds; seed++) {
    for (const { name, away, u, unit } of tried(trial, from + seed)) {
      (off[name] ??= []).push(u > 0 ? Math.abs(away) / (2 * u) : Math.abs(away) < 1e-9 ? 0 : Infinity);
      last[name] = { half: 2 * u, unit };
    }
  }
  return Object.fromEntries(
    Object.entries(off).map(([name, all]): [string, FigureHeld] => [
      name,
      {
        ...last[name]!,
        share: all.filter((o) => o <= 1).length / seeds,
        off95: all.toSorted((a, b) => a - b)[Math.ceil(0.95 * seeds) - 1]!,
        isCount: !(last[name]!.half > 0),
      },
    ]),
  );
}

/** How far off the figures of one world are, and their standard uncertainties. Lines are made of the true constants. */
function tried(
  { family, stages, budget, steps, params, truth: hidden, anyPhase = false }: FigureTrial,
  seed: number,
) {
  const { draw, sampleRateHz } = FAMILIES.find((f) => f.family === family)!;
  const truth = draw(seed) as never;
  const world = createWorld(truth as WorldTruth);
  const template = familyGadget(family);
  const gadget = {
    ...template,
    channels: template.channels.map((c) => ({
      ...c,
      figures: c.figures?.map((f) => ({ ...f, params: { ...f.params, ...params?.[f.id] } })) ?? [],
    })),
  };
  const spec = readoutSpec(gadget, [], [], sampleRateHz);
  const known = (channelId: string) => budget?.(truth, channelId) ?? EXACT;
  const readout = createWatchedReadout({
    ...spec,
    columns: world.columns,
    channels: spec.channels.map((c) => ({
      ...c,
      line: { ...c.line, stages: c.line.stages.map((s) => stages?.(truth, s, c.id) ?? s) },
      // The worlds keep perfect time: what a crystal may be off by is not in them.
      watch: c.watch && {
        ...c.watch,
        clockShare: 0,
        budget: known(c.id),
        otherBudgets: Object.fromEntries(spec.channels.map(({ id }) => [id, known(id)])),
      },
    })),
  });
  const nothing = () => undefined;
  const phase = seededRandom(seed);
  let t = 0;
  for (const [condition, seconds] of steps) {
    // So much of the step has gone by when the condition begins.
    const gone = anyPhase && t > 0 ? phase.uniform() / sampleRateHz : 0;
    if (gone > 0) world.step(gone);
    world.setCondition(condition);
    const n = Math.round(seconds * sampleRateHz);
    const times = new Float64Array(n);
    const columns = world.columns.map(() => new Float64Array(n));
    for (let i = 0; i < n; i++) {
      world.step(1 / sampleRateHz - (i === 0 ? gone : 0)).forEach((v, k) => (columns[k]![i] = v));
      times[i] = t += 1 / sampleRateHz;
    }
    readout.feed({ length: n, times, columns }, nothing, nothing);
  }
  const figures = spec.channels.flatMap((c, k) =>
    readout.figures(k).map((f) => ({ ...f, name: `${c.id} ${f.id}` })),
  );
  return Object.entries(hidden).map(([name, of]) => {
    const { value, u, unit } = figures.find((f) => f.name === name || f.id === name)!;
    const away = unit === 'deg' ? shortWay(of(truth), value) : value - of(truth);
    return { name, away, u, unit };
  });
}
