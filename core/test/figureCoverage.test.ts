import { inverse } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { familyGadget } from './support/familyGadget.ts';
import type { StageSpec } from '../src/model/line.ts';
import { mean, seededRandom, shortWay } from '../src/numerics/index.ts';
import { readoutSpec } from '../src/plan/index.ts';
import { createWatchedReadout, type BudgetTable } from '../src/reading/index.ts';
import { OPEN } from '../src/simulate/cellBench.ts';
import { SWING } from '../src/simulate/windVane.ts';
import { HOIST_CHANGE_S, HOIST_RIDE } from '../src/simulate/threeAxes.ts';
import { createWorld, FAMILIES, type WorldTruth } from '../src/simulate/index.ts';

// Stated 95 % intervals of figures against what simulated worlds hide, over so many seeds. Lines are made of the true
// constants: what is left is what a figure itself states.

const SEEDS = 100;

/** The share of them that is looked at: all, but in a quick run, which may be off by chance. */
const PART = Number(process.env['FIGURE_SEEDS'] ?? SEEDS) / SEEDS;
const CHANCE = PART < 1 ? 3 * Math.sqrt((0.95 * 0.05) / (PART * SEEDS)) : 0;

const EXACT: BudgetTable = { readings: [0], systematic: [0], noise: [0] };

interface Trial {
  readonly family: number;
  readonly seeds?: number;
  /** Stages as they would be if the truth were known. */
  stages?(truth: never, stage: StageSpec, channelId: string): StageSpec;
  readonly budget?: (truth: never, channelId: string) => BudgetTable;
  readonly steps: readonly (readonly [condition: string, seconds: number])[];
  /** Parameters of figures other than those of the template, by their names. */
  readonly params?: Readonly<Record<string, Readonly<Record<string, number>>>>;
  /** Whether the conditions begin anywhere between two readings. */
  readonly anyPhase?: boolean;
  /** What the figures should say, by their names in the template. */
  readonly truth: Readonly<Record<string, (truth: never) => number>>;
}

/** The share of the seeds whose interval holds the truth, by figure; of a count, "right" where all are. */
function covered(trial: Trial): Record<string, number | 'right' | 'wrong'> {
  const { family, stages, budget, steps, params, truth: hidden, anyPhase = false } = trial;
  const seeds = Math.ceil(PART * (trial.seeds ?? SEEDS));
  const off: Record<string, number[]> = Object.fromEntries(Object.keys(hidden).map((name) => [name, []]));
  const counts = new Set<string>();
  for (let seed = 1; seed <= seeds; seed++) {
    const { draw, sampleRateHz } = FAMILIES.find((f) => f.family === family)!;
    const truth = draw(7000 + seed) as never;
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
        line: {
          ...c.line,
          stages: c.line.stages.map((s) => stages?.(truth, s, c.id) ?? s),
        },
        // The worlds keep perfect time: what a crystal may be off by is not in them.
        watch: c.watch && {
          ...c.watch,
          clockShare: 0,
          budget: known(c.id),
          otherBudgets: Object.fromEntries(spec.channels.map(({ id }) => [id, known(id)])),
        },
      })),
    });
    let t = 0;
    const phase = seededRandom(seed);
    for (const [condition, seconds] of steps) {
      world.setCondition(condition);
      if (anyPhase) {
        const share = phase.uniform() / sampleRateHz;
        world.step(share);
        t += share;
      }
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
    const figures = spec.channels.flatMap((c, k) =>
      readout.figures(k).map((f) => ({ ...f, name: `${c.id} ${f.id}` })),
    );
    for (const [name, of] of Object.entries(hidden)) {
      const figure = figures.find((f) => f.name === name || f.id === name)!;
      const away = figure.unit === 'deg' ? shortWay(of(truth), figure.value) : figure.value - of(truth);
      // A count is right or wrong.
      if (!(figure.u > 0)) counts.add(name);
      off[name]!.push(figure.u > 0 ? Math.abs(away) / (2 * figure.u) : Math.abs(away) < 1e-9 ? 0 : Infinity);
    }
  }
  return Object.fromEntries(
    Object.entries(off).map(([name, all]) => {
      const share = all.filter((o) => o <= 1).length / seeds;
      return [name, counts.has(name) ? (share === 1 ? 'right' : 'wrong') : share];
    }),
  );
}

/** A stage with the constants that the world hides. */
const told = (stage: StageSpec, params: StageSpec['params']): StageSpec => ({
  ...stage,
  params: { ...stage.params, ...params },
});

/** A 3 x 3 matrix that undoes another, row by row. */
const undoing = (rows: readonly number[]) =>
  inverse([rows.slice(0, 3), rows.slice(3, 6), rows.slice(6)]).to1DArray();

const of = <K extends WorldTruth['kind']>(truth: never) => truth as Extract<WorldTruth, { kind: K }>;

/** Metres after s seconds of a sprint, an exponential approach to its top speed. */
const along = ({ topSpeed, buildUpS }: { topSpeed: number; buildUpS: number }, s: number) =>
  topSpeed * (s - buildUpS * (1 - Math.exp(-s / buildUpS)));

/** Where a rising function meets a value, by halving. */
function whereIt(rises: (x: number) => number, to: number, high: number): number {
  let low = 0;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (rises(middle) < to) low = middle;
    else high = middle;
  }
  return low;
}

/** What a cell gives from 0.98 of its charge until it stands at 3 V under its load. */
function emptied(truth: never): { mAh: number; wh: number } {
  const { capacityMah, internalOhm, loadOhm } = of<'cell-bench'>(truth);
  const share = loadOhm / (internalOhm + loadOhm);
  const left = whereIt((charge) => OPEN.at(charge) * share, 3, 0.98);
  const n = 10_000;
  const volts = Array.from({ length: n }, (_, i) => OPEN.at(left + ((0.98 - left) * (i + 0.5)) / n) * share);
  const mAh = capacityMah * (0.98 - left);
  return { mAh, wh: (mAh * mean(volts)) / 1000 };
}

/** What the lamps take in eight seconds, two seconds after the world begins: power goes up and down twice a turn, Wh. */
function lampEnergy(truth: never): number {
  // The sensor tells of a current late, but of the switch at once: by its own time it was on that much earlier.
  const { volts, lampOhm, frequencyHz, currentDelayS } = of<'generator'>(truth);
  const rate = FAMILIES.find(({ family }) => family === 4)!.sampleRateHz;
  let [phase, squares] = [0, 0];
  for (let n = 1; n <= 10 * rate; n++) {
    phase += (2 * Math.PI * (frequencyHz + 0.4 * Math.sin(n / rate / 5))) / rate;
    const on = (sinceS: number) => Math.min(1, Math.max(0, n - (sinceS - currentDelayS) * rate));
    squares += (on(2) - on(10)) * (Math.sin(phase) + 0.06 * Math.sin(3 * phase + 0.3)) ** 2;
  }
  return ((2 * squares) / (1 + 0.06 ** 2) / rate / 3600) * (volts ** 2 / lampOhm);
}

/** How long a ride on the hoist is above a level, s. */
function hoistAbove(level: number): number {
  return HOIST_RIDE.slice(1).reduce((sum, [g], k) => {
    const [before, at] = HOIST_RIDE[k]!;
    if (before > level === g > level) return sum;
    const crossedS = at + HOIST_CHANGE_S * ((level - before) / (g - before) - 0.5);
    return sum + (g > level ? -crossedS : crossedS);
  }, 0);
}

/** Peaks of the blows of twenty seconds, N: two readings without noise tell a power of a half sine of known length. */
function blowsOf(truth: never): number[] {
  const { blowS, blowShape, zero, countsPerKg, gravity } = of<'blow-meter'>(truth);
  const world = createWorld({ ...of<'blow-meter'>(truth), noiseCounts: 0 });
  world.setCondition('blows');
  const force = Array.from(
    { length: 40_000 },
    () => ((world.step(1 / 2000)[0]! - zero) / countsPerKg) * gravity,
  );
  const angle = Math.PI / blowS / 2000;
  return force.flatMap((f, i) => {
    const [before, after] = [force[i - 1] ?? 0, force[i + 1] ?? 0];
    if (!(f > 100 && f > before && f >= after)) return [];
    const [a, b] = [f ** (1 / blowShape), after ** (1 / blowShape)];
    return [(Math.sqrt(a * a + b * b - 2 * a * b * Math.cos(angle)) / Math.sin(angle)) ** blowShape];
  });
}

/** Probes with their own three terms and series resistor. */
const probeStages = (t: never, stage: StageSpec, channelId: string): StageSpec => {
  const { a, b, c, seriesOhm } = of<'thermistor-bank'>(t).probes.find(({ column }) => column === channelId)!;
  if (stage.kind === 'divider') return told(stage, { seriesOhm });
  return stage.kind === 'thermistor-beta' ? { ...stage, kind: 'steinhart-hart', params: { a, b, c } } : stage;
};

/** What the first probe is at, read without noise and rounding and smoothed over a second, while the kiln is lit: s, degC. */
function firing(truth: never): { t: number[]; x: number[] } {
  const bank = of<'thermistor-bank'>(truth);
  const [{ a, b, c, seriesOhm }] = bank.probes as [(typeof bank.probes)[number]];
  const bits = 24;
  const world = createWorld({
    ...bank,
    adcBits: bits,
    probes: bank.probes.map((p) => ({ ...p, noiseCounts: 0 })),
  });
  const at: { t: number[]; x: number[] } = { t: [], x: [] };
  for (const [condition, seconds] of FIRING) {
    world.setCondition(condition);
    for (let i = 0; i < seconds * 10; i++) {
      const ratio = world.step(0.1)[0]! / (2 ** bits - 1);
      const ohm = bank.seriesSide === 'top' ? (seriesOhm * ratio) / (1 - ratio) : seriesOhm * (1 / ratio - 1);
      at.t.push((at.t.length + 1) / 10);
      const x = 1 / (a + b * Math.log(ohm) + c * Math.log(ohm) ** 3) - 273.15;
      const before = at.x.at(-1) ?? x;
      at.x.push(before + (x - before) * (1 - Math.exp(-0.1)));
    }
  }
  return at;
}

const FIRING = [
  ['room', 120],
  ['kiln', 500],
] as const;

/** Slope of a straight line through the last 300 s of true temperatures, K/s. */
function meanSlope(truth: never): number {
  const { t, x } = firing(truth);
  const [late, high] = [t.slice(-3000), x.slice(-3000)];
  const [mt, mx] = [mean(late), mean(high)];
  const sum = (f: (i: number) => number) => late.reduce((s, _, i) => s + f(i), 0);
  return sum((i) => (late[i]! - mt) * (high[i]! - mx)) / sum((i) => (late[i]! - mt) ** 2);
}

const TRIALS: Readonly<Record<string, Trial>> = {
  'a dose of ammonia: how long above its limit, and the highest': {
    family: 1,
    stages: (t, stage, channelId) => {
      const i = ['ferment', 'ammonia', 'solvent'].indexOf(channelId);
      const { loadOhm, cleanOhm, backgroundPpm, steepness } = of<'gas-watch'>(t).elements[i]!;
      if (stage.kind === 'load-resistor') return told(stage, { loadOhm });
      if (stage.kind === 'ratio-to-baseline') return told(stage, { baseline: cleanOhm });
      if (stage.kind === 'power-law') return told(stage, { factor: backgroundPpm, exponent: -1 / steepness });
      return stage;
    },
    // Noise of 1.2 codes and their steps, each worth 0.037 ppm at 20 ppm, and more above.
    budget: () => ({ readings: [20, 25], systematic: [0, 0], noise: [0.046, 0.0545] }),
    steps: [
      ['clean', 1200],
      ['ammonia', 120],
      ['clean', 120],
    ],
    truth: {
      'ammonia over': (t) => {
        const dose = of<'gas-watch'>(t).doses[1];
        const full = dose * (1 - Math.exp(-120 / 6));
        return (120 + 6 * Math.log(1 - 20 / dose) + 6 * Math.log(full / 20)) / 60;
      },
      'ammonia highest': (t) => of<'gas-watch'>(t).doses[1],
    },
  },
  'a race: a signal and a step, either anywhere between two readings': {
    family: 2,
    seeds: 100,
    steps: [
      ['empty', 5],
      ['race', 60],
    ],
    truth: { time: (t) => of<'finish-gate'>(t).courseM / of<'finish-gate'>(t).duckSpeed },
  },
  'strokes of the sieve': {
    family: 3,
    steps: [['shaking', 40]],
    truth: { cadence: (t) => of<'three-axes'>(t).strokesPerMin },
  },
  'energy of a lamp bank': {
    family: 4,
    stages: (t, stage) => {
      const { countsPerVolt, countsPerAmpere, voltageBias, currentBias, currentDelayS } = of<'generator'>(t);
      return stage.kind === 'ac-power'
        ? told(stage, {
            voltsPerUnit: 1 / countsPerVolt,
            amperesPerUnit: 1 / countsPerAmpere,
            voltageBias,
            currentBias,
            currentDelayUs: 1e6 * currentDelayS,
          })
        : stage;
    },
    // Ten turns of about 460 samples: what their noise leaves of a reading.
    budget: () => ({ readings: [0], systematic: [0], noise: [0.0068] }),
    steps: [
      ['no-load', 2],
      ['lamp', 8],
      ['no-load', 2],
    ],
    truth: { energy: lampEnergy },
  },
  'seconds a day of the clock: its beats, and the crystal': {
    family: 5,
    steps: [['running', 300]],
    truth: { gain: (t) => 86_400 * (2 / of<'pendulum'>(t).periodS - 1) },
  },
  'blows: the last, the highest, their impulse and how many': {
    family: 6,
    stages: (t, stage) => {
      const { zero, countsPerKg, gravity } = of<'blow-meter'>(t);
      if (stage.kind === 'weight-force') return told(stage, { gravity });
      // Counts a kilogram come from what the cell gives at its capacity.
      const { fullScaleCode, range, gain, ratedMvPerV } = stage.params as Record<string, number>;
      const share = (ratedMvPerV! / 1000) * gain! * (1 / range!) * fullScaleCode!;
      return stage.kind === 'bridge' ? told(stage, { zero, capacityKg: share / countsPerKg }) : stage;
    },
    budget: (t) => ({
      readings: [0],
      systematic: [0],
      noise: [
        (of<'blow-meter'>(t).noiseCounts / of<'blow-meter'>(t).countsPerKg) * of<'blow-meter'>(t).gravity,
      ],
    }),
    steps: [['blows', 20]],
    truth: {
      last: (t) => blowsOf(t).at(-1)!,
      highest: (t) => Math.max(...blowsOf(t)),
      impulse: (t) => {
        const { blowS, blowShape } = of<'blow-meter'>(t);
        const shares = Array.from(
          { length: 1000 },
          (_, i) => Math.sin((Math.PI * (i + 0.5)) / 1000) ** blowShape,
        );
        return blowsOf(t).at(-1)! * blowS * mean(shares);
      },
      count: () => 5,
    },
  },
  'the peak of the dye between five lamps': {
    family: 7,
    stages: (t, stage, channelId) => {
      const { dark, lamps } = of<'dye-checker'>(t);
      const lamp = lamps.find(({ column }) => column === channelId) ?? lamps[1]!;
      return stage.kind === 'absorbance' ? told(stage, { dark, blank: lamp.blank }) : stage;
    },
    steps: [['standard-10', 5]],
    truth: {
      peak: (t) => of<'dye-checker'>(t).peakNm,
    },
  },
  'a ride on the hoist: hardest, softest, drops, how long it was heavy': {
    family: 8,
    stages: (t, stage) =>
      stage.kind === 'vector-correction'
        ? told(stage, {
            matrix: undoing(of<'three-axes'>(t).scale),
            offset: [...of<'three-axes'>(t).offset],
          })
        : stage,
    budget: () => ({ readings: [0], systematic: [0], noise: [12 / 2048] }),
    anyPhase: true,
    steps: [
      ['z-up', 1],
      ['ride', 15],
    ],
    truth: { hardest: () => 3.2, softest: () => 0.05, drops: () => 2, heavy: () => hoistAbove(1.2) },
  },
  'a cell to its cut-off, and its inner resistance': {
    family: 9,
    stages: (t, stage, channelId) => {
      const { dividerRatio, liftV, shuntOhm, shuntGain, referenceV } = of<'cell-bench'>(t);
      const perAmpere = shuntOhm * shuntGain;
      if (stage.kind !== 'linear' || channelId === 't') return stage;
      return channelId === 'v'
        ? told(stage, { slope: dividerRatio, intercept: -liftV * dividerRatio })
        : told(stage, { slope: 1 / perAmpere, intercept: -referenceV / 2 / perAmpere });
    },
    // A code, and noise of another: 1.2 mV and 0.6 mA.
    budget: (_t, channelId) => ({
      readings: [0],
      systematic: [0],
      noise: [channelId === 'v' ? 0.0013 : 0.00064],
    }),
    steps: [
      ['rest', 30],
      ['discharge', 14_000],
    ],
    truth: {
      charge: (t) => emptied(t).mAh,
      given: (t) => emptied(t).wh,
      inner: (t) => 1000 * of<'cell-bench'>(t).internalOhm,
    },
  },
  'run-down time to standstill, from a mean over a turn': {
    family: 10,
    steps: [
      ['stopped', 30],
      ['running', 60],
      ['run-down', 90],
    ],
    truth: { down: (t) => 14 * Math.log((0.95 * of<'spindle'>(t).rpm) / 6) },
  },
  'a sprint: a start drawn back, a crossing by a curve, speed summed over time': {
    family: 11,
    budget: (t) => ({ readings: [0], systematic: [0], noise: [3.6 * of<'punt-sprint'>(t).speedNoise] }),
    anyPhase: true,
    steps: [
      ['still', 20],
      ['sprint', 40],
    ],
    // Some hardly get to 12 km/h: then it has no one moment.
    params: { quick: { level: 10 } },
    truth: {
      quick: (t) => -of<'punt-sprint'>(t).buildUpS * Math.log(1 - 10 / 3.6 / of<'punt-sprint'>(t).topSpeed),
      across: (t) => whereIt((s) => along(of<'punt-sprint'>(t), s), 40, 60),
    },
  },
  'a vane that swings about north': {
    family: 12,
    stages: (t, stage) => {
      const { soft, hard, declinationDeg } = of<'wind-vane'>(t);
      if (stage.kind === 'vector-correction')
        return told(stage, { matrix: undoing(soft), offset: [...hard] });
      return stage.kind === 'heading' ? told(stage, { declinationDeg }) : stage;
    },
    steps: [['swinging', 70]],
    // The acceleration's own offsets stay: about 0.35 degrees of tilt, at a dip of 64 degrees.
    budget: () => ({ readings: [0], systematic: [0.75], noise: [0.5] }),
    truth: {
      mean: () => 0,
      wander: () => SWING * (180 / Math.PI),
    },
  },
  'cloth along a rule of 300 mm': {
    family: 13,
    seeds: 600,
    stages: (t, stage) =>
      stage.kind === 'counts-to-length'
        ? told(stage, { perMmX: of<'cloth-roller'>(t).perMmX, perMmY: of<'cloth-roller'>(t).perMmY })
        : stage,
    // A whole step stands for whatever lies within it.
    budget: (t) => ({
      readings: [0],
      systematic: [0],
      noise: [0.001 / of<'cloth-roller'>(t).perMmX / Math.sqrt(12)],
    }),
    steps: [
      ['still', 5],
      ['drag-x', 8],
      ['drag-x-back', 8],
      ['drag-x', 8],
    ],
    truth: { net: () => 0.3, way: () => 0.9, piece: () => 0.3 },
  },
  'probes in the kiln: how far apart they are': {
    family: 14,
    stages: probeStages,
    // A code of ten bits is a tenth of a degree there, smoothed over a second; lags that differ leave as much.
    budget: () => ({ readings: [0], systematic: [0.012], noise: [0.017] }),
    steps: [['kiln', 600]],
    truth: {
      spread: (t) => {
        const offsets = of<'thermistor-bank'>(t).probes.map(({ kilnOffsetC }) => kilnOffsetC);
        return Math.max(...offsets) - Math.min(...offsets);
      },
    },
  },
  'a bath that cools by a hundredth of a degree a minute, and when it will be so cool': {
    family: 14,
    stages: probeStages,
    budget: () => ({ readings: [0], systematic: [0.005], noise: [0.02] }),
    steps: [
      ['kiln', 1],
      ['hot', 450],
    ],
    params: { ready: { target: 75.85 } },
    seeds: 200,
    truth: {
      rise: () => -60 * 3e-4,
      // The probe follows by its own lag.
      ready: (t) => ((76.1 - 75.85) / 3e-4 + of<'thermistor-bank'>(t).probes[0]!.timeConstantS - 450) / 60,
    },
  },
  'a kiln that is lit: how fast it rises on the whole': {
    family: 14,
    stages: probeStages,
    budget: () => ({ readings: [0], systematic: [0.02], noise: [0.02] }),
    steps: FIRING,
    truth: {
      rise: (t) => 60 * meanSlope(t),
    },
  },
};

describe('stated 95 % intervals hold in 93 to 97 of 100 seeds', () => {
  it.each(Object.entries(TRIALS))('%s', (_name, trial) => {
    for (const [figure, held] of Object.entries(covered(trial)))
      expect([
        figure,
        held === 'right' || (Number(held) >= 0.93 - CHANCE && Number(held) <= 0.97 + CHANCE) || held,
      ]).toEqual([figure, true]);
  });

  it('looks into all fourteen families', () => {
    expect(new Set(Object.values(TRIALS).map(({ family }) => family))).toEqual(
      new Set(FAMILIES.map(({ family }) => family)),
    );
  });
});
