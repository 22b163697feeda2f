import { FITS, fitCalibration, type FitPoint } from '../../../src/calibrate/index.ts';
import { compileLine, editLine, invertLine } from '../../../src/line/index.ts';
import type { FitResult } from '../../../src/model/calibration.ts';
import type { LineSpec, StageSpec } from '../../../src/model/line.ts';
import { seededRandom } from '../../../src/numerics/index.ts';
import { thermistorLine } from '../../../src/plan/index.ts';
import type { UnitId } from '../../../src/units/index.ts';

export const CONTEXT = { sampleRateHz: 10 };
export const stage = (id: string, kind: string, params: StageSpec['params']): StageSpec => ({
  id,
  kind,
  params,
  uncertainty: {},
  off: false,
});
export const line = (unit: UnitId, ...stages: StageSpec[]): LineSpec => ({
  sources: [{ column: 'a', unit }],
  stages,
});
const correction = stage('c', 'gain-offset', { gain: 1, offset: 0 });
export const fitOf = (id: string, spec: LineSpec, points: readonly FitPoint[]) =>
  fitCalibration(
    FITS.find((f) => f.id === id)!,
    spec,
    CONTEXT,
    points,
  );
export const good = (result: FitResult | string): FitResult => {
  if (typeof result === 'string') throw new Error(result);
  return result;
};

/** Points on the true line at given readings, with noise on reference and reading of the stated size. */
export function simulate(
  truth: LineSpec,
  readings: readonly number[],
  uReference: number,
  uRaw: number,
  seed: number,
): FitPoint[] {
  const compiled = compileLine(truth, CONTEXT);
  const random = seededRandom(seed);
  return readings.map((reading, i) => ({
    id: `p${i}`,
    raw: invertLine(compiled, reading)[0]! + uRaw * random.normal(),
    uRaw,
    reference: reading + uReference * random.normal(),
    uReference,
  }));
}

export const volts = line('V', stage('l', 'linear', { slope: 20, intercept: 0, to: 'mm' }), correction);
export const bridge = {
  zero: 900,
  fullScaleCode: 8388607,
  range: 0.5,
  gain: 128,
  ratedMvPerV: 2,
  capacityKg: 50,
};
export interface FitCase {
  readonly fit: string;
  readonly as: LineSpec;
  /** What makes the hidden truth of the line as bought. */
  readonly edits: Parameters<typeof editLine>[1];
  /** True values of the points. */
  readonly at: readonly number[];
  readonly uReference: number;
  readonly uRaw: number;
}

/** For each fit a line whose hidden constants are what the fit looks for. */
export const FIT_CASES: readonly FitCase[] = [
  {
    fit: 'offset',
    as: volts,
    edits: [{ stageId: 'c', params: { offset: 1.3 } }],
    at: [5, 20, 40, 60],
    uReference: 0.2,
    uRaw: 0.002,
  },
  {
    fit: 'gain',
    as: volts,
    edits: [{ stageId: 'c', params: { gain: 1.04 } }],
    at: [20, 40, 60],
    uReference: 0.2,
    uRaw: 0.002,
  },
  {
    fit: 'gain-offset',
    as: volts,
    edits: [{ stageId: 'c', params: { gain: 0.97, offset: 2 } }],
    at: [5, 20, 40, 60],
    uReference: 0.2,
    uRaw: 0.002,
  },
  {
    fit: 'line-both-axes',
    as: volts,
    edits: [{ stageId: 'c', params: { gain: 0.97, offset: 2 } }],
    at: [5, 15, 30, 45, 60],
    uReference: 0.2,
    uRaw: 0.02,
  },
  {
    fit: 'amplifier-gain',
    as: line('count', stage('b', 'bridge', bridge)),
    edits: [{ stageId: 'b', params: { gain: 121 } }],
    at: [5, 10, 20, 40],
    uReference: 0.01,
    uRaw: 20,
  },
  {
    fit: 'air-temperature',
    as: line(
      'us',
      stage('t', 'time-of-flight', { airC: 20, path: 'there and back', offsetM: 0, from: 'us' }),
    ),
    edits: [{ stageId: 't', params: { airC: 11 } }],
    at: [0.5, 1, 2, 3],
    uReference: 0.003,
    uRaw: 5,
  },
  {
    fit: 'load-resistor',
    as: line('V', stage('r', 'load-resistor', { loadOhm: 10000, supplyV: 5 })),
    edits: [{ stageId: 'r', params: { loadOhm: 9600 } }],
    at: [4000, 9000, 20000],
    uReference: 40,
    uRaw: 0.001,
  },
  {
    fit: 'thermistor-r0',
    as: line('ohm', stage('t', 'thermistor-beta', { r0Ohm: 10000, t0C: 25, betaK: 3950 })),
    edits: [{ stageId: 't', params: { r0Ohm: 10230 } }],
    at: [0, 30, 60],
    uReference: 0.05,
    uRaw: 2,
  },
  {
    fit: 'clean-air-baseline',
    as: line('ohm', stage('r', 'ratio-to-baseline', { baseline: 8000, factor: 1 })),
    edits: [{ stageId: 'r', params: { baseline: 9100 } }],
    at: [0.6, 1, 1.4],
    uReference: 0.01,
    uRaw: 20,
  },
  {
    fit: 'power-law',
    as: line('1', stage('p', 'power-law', { factor: 100, exponent: -2, to: 'ppm' })),
    edits: [{ stageId: 'p', params: { factor: 118, exponent: -2.3 } }],
    at: [50, 100, 200, 400],
    uReference: 3,
    uRaw: 0.002,
  },
  {
    fit: 'absorbance-line',
    as: line(
      'absorbance',
      stage('k', 'concentration', { slope: 0.02, intercept: 0, dilution: 1, to: 'mgL' }),
    ),
    edits: [{ stageId: 'k', params: { slope: 0.0233, intercept: 0.006 } }],
    at: [2, 5, 10, 20, 40],
    uReference: 0.1,
    uRaw: 0.002,
  },
  {
    fit: 'series-resistor',
    as: thermistorLine('p'),
    edits: [{ stageId: 'divider', params: { seriesOhm: 3432 } }],
    at: [0, 20, 50, 75, 98],
    uReference: 0.2,
    uRaw: 0.1,
  },
  {
    fit: 'steinhart-hart',
    as: thermistorLine('p'),
    edits: [],
    at: [0, 18, 35, 50, 75, 98],
    uReference: 0.2,
    uRaw: 0.1,
  },
  ...[2, 3, 4].map((degree) => ({
    fit: `polynomial-${degree}`,
    as: volts,
    edits: [
      {
        stageId: 'c',
        kind: 'polynomial',
        params: {
          coefficients: [1, 0.9, 0.002, 1e-6, 1e-8].slice(0, degree + 1),
          low: -10,
          high: 110,
          to: 'mm',
        },
      },
    ],
    at: [3, 12, 22, 35, 50, 65, 80, 95],
    uReference: 0.2,
    uRaw: 0.002,
  })),
  ...['linear', 'pchip', 'natural-cubic', 'lagrange'].map((method) => ({
    fit: `table-${method}`,
    as: volts,
    edits: [{ stageId: 'c', params: { gain: 0.97, offset: 2 } }],
    at: [5, 20, 35, 50, 65, 80],
    uReference: 0.2,
    uRaw: 0.002,
  })),
];
