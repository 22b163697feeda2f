import { coverageFactor, fitGuided, GUIDED_FITS } from '../../../src/calibrate/index.ts';
import type { FitResult } from '../../../src/model/calibration.ts';
import type { Evidence } from '../../../src/model/evidence.ts';
import type { LineSpec } from '../../../src/model/line.ts';
import { seededRandom } from '../../../src/numerics/index.ts';
import { TEMPLATES } from '../../../src/plan/index.ts';

type Random = ReturnType<typeof seededRandom>;

export const lineOf = (template: string): LineSpec =>
  TEMPLATES.find((t) => t.id === template)!.make().channels[0]!.line;

export interface GuidedCase {
  readonly fit: string;
  /** What the evidence is like. */
  readonly when: string;
  /** Which found constants have which hidden values. */
  readonly truths: Readonly<Record<string, number>>;
  readonly template: string;
  evidence(random: Random): Evidence[];
}

const even = (random: Random) => 2 * random.uniform() - 1;

/** Two columns of alternating current, the current late by a third of a thousandth. */
function wave(random: Random, samples = 4000) {
  const phase = 6 * random.uniform();
  const column = (middle: number, size: number, lagS: number) =>
    Array.from(
      { length: samples },
      (_, i) =>
        middle + size * Math.sin(2 * Math.PI * 43.7 * (i / 2000 - lagS) + phase) + 2 * random.normal(),
    );
  return { voltage: column(2060.4, 800, 0), current: column(2048.2, 90, 0.0003) };
}

const COUNTS_PER_G = 256;
const OFFSET = [18, -7, 25];

/** Rests on six sides that lie off level by so much, each side the same whenever it is laid down. */
function rests(random: Random, times: number, tiltDeg: number): Evidence[] {
  const u = 0.3;
  const tilt = (tiltDeg * Math.PI) / 180;
  return [0, 1, 2, 3, 4, 5].flatMap((side) => {
    const axis = side >> 1;
    const g = [tilt * random.normal(), tilt * random.normal(), tilt * random.normal()];
    g[axis] = 0;
    g[axis] = (side % 2 === 0 ? 1 : -1) * Math.sqrt(1 - Math.hypot(...g) ** 2);
    return Array.from({ length: times }, () => ({
      kind: 'rest' as const,
      raw: g.map((v, k) => COUNTS_PER_G * v + OFFSET[k]! + u * random.normal()) as [number, number, number],
      u,
    }));
  });
}

const restTruths = Object.fromEntries([
  ...OFFSET.map((v, k) => [`offset.${k}`, v]),
  ...[0, 1, 2, 3, 4, 5, 6, 7, 8].map((k) => [`matrix.${k}`, k % 4 === 0 ? 1 / COUNTS_PER_G : 0]),
]) as Record<string, number>;

const sixRests = (times: number, tiltDeg: number): GuidedCase => ({
  fit: 'six-rests',
  when: `${6 * times} positions, sides ${tiltDeg} deg off level`,
  truths: restTruths,
  template: 'motion-counter',
  evidence: (random) => rests(random, times, tiltDeg),
});

export const GUIDED_CASES: readonly GuidedCase[] = [
  sixRests(1, 0),
  sixRests(1, 0.5),
  sixRests(2, 0.5),
  sixRests(3, 0.5),
  {
    fit: 'turned',
    when: '300 readings in all directions',
    truths: { 'offset.0': 120, 'offset.1': -80, 'offset.2': 35 },
    template: 'heading',
    evidence: (random) => [
      {
        kind: 'cloud',
        rows: Array.from({ length: 300 }, () => {
          const v = [random.normal(), random.normal(), random.normal()];
          const size = 500 / Math.hypot(...v);
          return [120, -80, 35].map((o, k) => o + size * v[k]! + 4 * random.normal()) as [
            number,
            number,
            number,
          ];
        }),
      },
    ],
  },
  {
    fit: 'landmark',
    when: 'four bearings, one map',
    truths: { mountingDeg: -34 },
    template: 'heading',
    evidence: (random) => {
      const map = 0.5 * random.normal();
      return [0, 90, 180, 270].map((course) => ({
        kind: 'bearing',
        title: 'Along the weir',
        shownDeg: course + 34 + 0.2 * random.normal() + map,
        uShownDeg: 0.2,
        referenceDeg: course,
        uncertaintyDeg: 1,
      }));
    },
  },
  {
    fit: 'ac-middle',
    when: 'one section of two seconds',
    truths: { voltageBias: 2060.4, currentBias: 2048.2 },
    template: 'ac-power',
    evidence: (random) => [{ kind: 'ac-middle', ...wave(random) }],
  },
  ...[4000, 700].map((samples): GuidedCase => ({
    fit: 'ac-lag',
    when: `${samples / 2000} s`,
    truths: { currentDelayUs: 300 },
    template: 'ac-power',
    evidence: (random) => [{ kind: 'ac-lag', ...wave(random, samples) }],
  })),
  {
    fit: 'ac-scale',
    when: 'one section with a meter',
    truths: { voltsPerUnit: 0.0424, amperesPerUnit: 0.0071 },
    template: 'ac-power',
    evidence: (random) => {
      // Noise of 2 counts is part of the effective value.
      const shown = (size: number, scale: number, uncertainty: number) => ({
        value: Math.hypot(size / Math.SQRT2, 2) * scale + (uncertainty / 2) * random.normal(),
        uncertainty,
      });
      return [
        {
          kind: 'ac-scale',
          ...wave(random),
          volts: shown(800, 0.0424, 0.1),
          amperes: shown(90, 0.0071, 0.002),
        },
      ];
    },
  },
  {
    fit: 'drags',
    when: 'three and two drags along one ruler',
    truths: { perMmX: 19.7, perMmY: 20.4 },
    template: 'displacement',
    evidence: (random) => {
      const rule = 300 + 0.2 * even(random);
      const length = () => rule + 0.3 * even(random) + 0.3 * even(random);
      const drag = (x: number, y: number): Evidence => ({
        kind: 'drag',
        counts: [x, y],
        lengthMm: 300,
        toleranceMm: 0.2,
        placementMm: 0.3,
      });
      const x = () => Math.round(19.7 * length());
      const y = () => Math.round(20.4 * length());
      return [drag(x(), 0), drag(-x(), 0), drag(x(), 0), drag(0, y()), drag(0, -y())];
    },
  },
  {
    fit: 'time-base',
    when: 'three tallies with one stopwatch',
    truths: { gain: 1.013 },
    template: 'rotation',
    evidence: (random) => {
      const stopwatch = 0.005 * random.normal();
      return [1, 2, 3].map(() => ({
        kind: 'rate',
        title: 'Stopwatch tally',
        referenceHz: 10,
        uncertaintyHz: 0.01,
        readingHz: (10 + stopwatch) / 1.013 + 0.004 * random.normal(),
        uReadingHz: 0.004,
        seconds: 60,
      }));
    },
  },
];

function guidedFitOf(fit: string, template: string, evidence: readonly Evidence[]): FitResult | string {
  return fitGuided(
    GUIDED_FITS.find((f) => f.id === fit)!,
    lineOf(template),
    evidence.map((e, i) => ({ id: `e${i}`, evidence: e, excluded: null })),
    { sampleRateHz: 2000 },
  );
}

/** Share of hidden constants that lie inside their stated 95 %. */
export function guidedCoverage({ fit, truths, template, evidence }: GuidedCase, trials: number): number {
  let inside = 0;
  let judged = 0;
  for (let seed = 1; seed <= trials; seed++) {
    const result = guidedFitOf(fit, template, evidence(seededRandom(seed)));
    if (typeof result === 'string') throw new Error(result);
    const k = coverageFactor(result);
    for (const [param, hidden] of Object.entries(truths)) {
      const found = result.parameters.find((p) => p.param === param);
      if (!found) throw new Error(`${fit} finds no ${param}.`);
      judged++;
      if (Math.abs(found.value - hidden) <= k * found.u) inside++;
    }
  }
  return inside / judged;
}
