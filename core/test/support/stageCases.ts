import type { BesideLine, LineSpec, StageSpec } from '../../src/model/line.ts';
import type { PrepareContext } from '../../src/line/index.ts';
import type { UnitId } from '../../src/units/index.ts';

export interface StageCase {
  readonly kind: string;
  readonly params: StageSpec['params'];
  readonly units: readonly UnitId[];
  /** Value of column k at sample i. */
  signal(i: number, k: number): number;
  /** A second set of parameters or columns of the same kind. */
  readonly name?: string;
  /** Its readings belong to instants before the samples that bring them. */
  readonly late?: boolean;
  /** Slowest rate that the brief asks for, Hz. */
  readonly slowestHz?: number;
  /** Lines of other channels that it takes, from columns behind its own. */
  readonly beside?: readonly BesideLine[];
}

const wave = (middle: number, size: number) => (i: number, k: number) =>
  middle + size * Math.sin(i / 9 + k) * Math.cos(i / 41 + 2 * k);
const MAINS = {
  voltsPerUnit: 0.05,
  voltageBias: 512,
  amperesPerUnit: 0.01,
  currentBias: 510,
  currentDelayUs: 1500,
  cycles: 1,
  deadBandV: 1,
};
const codes = (middle: number, size: number) => (i: number, k: number) =>
  Math.round(wave(middle, size)(i, k));

/** Another channel of one stage over a column of its own. */
const other = (channelId: string, column: string, of: Pick<StageSpec, 'kind' | 'params'>): BesideLine => ({
  channelId,
  sources: [{ column, unit: 'ppm' }],
  stages: [{ id: 's', uncertainty: {}, off: false, ...of }],
});

/** One case or more for every stage kind, with values inside and outside its domain. */
export const STAGE_CASES: readonly StageCase[] = [
  {
    kind: 'adc',
    params: { bits: 10, referenceV: 5, gives: 'ratio' },
    units: ['count'],
    signal: codes(520, 560),
  },
  {
    kind: 'adc',
    name: 'signed, in volts',
    params: { bits: 12, referenceV: 2.5, gives: 'volt', coding: 'signed', fullScaleCode: 2048 },
    units: ['count', 'count'],
    signal: codes(100, 2500),
  },
  {
    kind: 'bridge',
    params: { zero: 1200, fullScaleCode: 8388607, range: 0.5, gain: 128, ratedMvPerV: 2, capacityKg: 50 },
    units: ['count'],
    signal: codes(3e6, 6e6),
  },
  {
    kind: 'absorbance',
    params: { dark: 120, blank: 52000, fullScale: 65535, gives: 'absorbance' },
    units: ['count'],
    signal: codes(30000, 40000),
  },
  {
    kind: 'absorbance',
    name: 'transmittance',
    params: { dark: 120, blank: 52000, fullScale: 65535, gives: 'transmittance' },
    units: ['count'],
    signal: codes(30000, 40000),
  },
  ...['along x', 'along y', 'path', 'net'].map((mode) => ({
    kind: 'counts-to-length',
    name: mode,
    params: { perMmX: 39.2, perMmY: 40.5, mode },
    units: ['count', 'count'] as const,
    signal: codes(4, 9),
  })),
  {
    kind: 'gate-rate',
    params: { marks: 4, gateS: 0.4, to: 'rpm' },
    units: ['count'],
    signal: (i) => Math.floor(i * 1.7),
  },
  {
    kind: 'period-rate',
    params: { marks: 3, over: 'one turn', deadTimeS: 0.002, from: 'us', to: 'rpm' },
    units: ['us'],
    signal: (i) => i * 20000 + 900 * Math.sin(i) - (i % 29 === 0 ? 19500 : 0),
  },
  {
    kind: 'period-rate',
    name: 'counted, with stops',
    params: { marks: 2, over: 'one turn', deadTimeS: 0.002, from: 'us', to: 'rpm' },
    units: ['count', 'us'],
    slowestHz: 0.5,
    // Two edges a row, then one in four rows, then none.
    signal: (i, k) => {
      const at = i % 200;
      const own = at < 60 ? 2 * at : at < 120 ? 120 + Math.floor((at - 60) / 4) : 135;
      const rows = at < 60 ? at : at < 120 ? 60 + 4 * Math.floor((at - 60) / 4) : 116;
      const turns = Math.floor(i / 200);
      return k === 0 ? 135 * turns + own : (200 * turns + rows) * 50000;
    },
  },
  {
    kind: 'beat-rate',
    name: 'stopped now and then',
    params: { over: 2, shortestS: 0.2, memoryS: 2, minHeight: 0.1, to: 'perMin' },
    units: ['V'],
    slowestHz: 1,
    signal: (i) => (i % 150 < 90 ? Math.sin(i * 1.4) : 0),
  },
  {
    kind: 'beat-rate',
    params: { over: 3, shortestS: 0.2, memoryS: 2, minHeight: 0.1, to: 'perMin' },
    units: ['V'],
    signal: (i) => Math.sin(i * 1.4) + 0.2 * Math.sin(i / 131),
  },
  {
    kind: 'time-of-flight',
    params: { airC: 17, path: 'there and back', offsetM: 0.01, from: 'us' },
    units: ['us'],
    signal: wave(5000, 6000),
  },
  { kind: 'divider', params: { seriesOhm: 3300, side: 'top' }, units: ['1'], signal: wave(0.5, 0.6) },
  {
    kind: 'divider',
    name: 'bottom',
    params: { seriesOhm: 3300, side: 'bottom' },
    units: ['1'],
    signal: wave(0.5, 0.6),
  },
  { kind: 'load-resistor', params: { loadOhm: 10000, supplyV: 5 }, units: ['V'], signal: wave(2, 3) },
  {
    kind: 'thermistor-beta',
    params: { r0Ohm: 10000, t0C: 25, betaK: 3950 },
    units: ['ohm'],
    signal: wave(9000, 12000),
  },
  {
    kind: 'steinhart-hart',
    params: { a: 1.12e-3, b: 2.37e-4, c: 6e-8 },
    units: ['ohm'],
    signal: wave(9000, 12000),
  },
  { kind: 'platinum-rtd', params: { r0Ohm: 100 }, units: ['ohm'], signal: wave(150, 170) },
  { kind: 'thermocouple', params: { type: 'K', coldC: 22 }, units: ['mV'], signal: wave(10, 20) },
  { kind: 'thermocouple', name: 'J', params: { type: 'J', coldC: 22 }, units: ['mV'], signal: wave(25, 40) },
  {
    kind: 'thermocouple',
    name: 'T with its own cold junction',
    params: { type: 'T', coldC: 22 },
    units: ['mV', 'degC'],
    signal: (i, k) => (k === 0 ? wave(3, 8)(i, 0) : wave(21, 2)(i, 1)),
  },
  {
    kind: 'ratio-to-baseline',
    params: { baseline: 8200, factor: 1.04 },
    units: ['ohm'],
    signal: wave(9000, 8000),
  },
  {
    kind: 'power-law',
    params: { factor: 102, exponent: -2.47, to: 'ppm' },
    units: ['1'],
    signal: wave(1, 1.2),
  },
  {
    kind: 'concentration',
    params: { slope: 0.021, intercept: 0.004, dilution: 5, to: 'mgL' },
    units: ['absorbance'],
    signal: wave(0.5, 0.4),
  },
  { kind: 'weight-force', params: { gravity: 9.8071 }, units: ['kg'], signal: wave(2, 30) },
  {
    kind: 'ac-power',
    late: true,
    params: MAINS,
    units: ['count', 'count'],
    // Now and then the mains fail for longer than a cycle may take.
    signal: (i, k) => (i % 150 > 124 ? 515 : 512 + 400 * Math.sin(i * 1.3 - 0.4 * k)),
  },
  {
    kind: 'ac-power',
    name: 'current ahead',
    late: true,
    params: { ...MAINS, currentDelayUs: -5000 },
    units: ['count', 'count'],
    signal: (i, k) => 510 + 400 * Math.sin(i * 1.3 - 0.4 * k) + 90 * Math.sin(i * 2.6),
  },
  {
    kind: 'heading',
    params: { declinationDeg: 2.5, mountingDeg: 90 },
    units: ['uT', 'uT', 'uT', 'gn', 'gn', 'gn'],
    signal: (i, k) => (k < 3 ? wave(5, 40)(i, k) : k === 5 ? 0.95 : wave(0, 0.3)(i, k)),
  },
  { kind: 'magnitude', params: {}, units: ['gn', 'gn', 'gn'], signal: wave(0.2, 1) },
  { kind: 'magnitude', name: 'two columns', params: {}, units: ['mm', 'mm'], signal: wave(0.2, 1) },
  { kind: 'gain-offset', params: { gain: 1.02, offset: -0.4 }, units: ['degC'], signal: wave(20, 30) },
  {
    kind: 'vector-correction',
    params: {
      offset: [12, -31, 7],
      matrix: [1.08, 0.03, -0.02, 0.03, 0.95, 0.05, -0.02, 0.05, 1.02],
      to: 'uT',
    },
    units: ['count', 'count', 'count'],
    signal: codes(10, 60),
  },
  {
    kind: 'vector-correction',
    name: 'beside three others',
    params: {
      offset: [12, -31, 7],
      matrix: [1.08, 0.03, -0.02, 0.03, 0.95, 0.05, -0.02, 0.05, 1.02],
      to: 'uT',
    },
    units: ['count', 'count', 'count', 'gn', 'gn', 'gn'],
    signal: codes(10, 60),
  },
  { kind: 'linear', params: { slope: -2.5, intercept: 100, to: 'mm' }, units: ['V'], signal: wave(1, 2) },
  {
    kind: 'polynomial',
    params: { coefficients: [1, 0.5, 0.02, 0.001], low: 0, high: 20, to: 'degC' },
    units: ['mV'],
    signal: wave(10, 14),
  },
  ...['linear', 'pchip', 'natural-cubic', 'not-a-knot-cubic'].map((method) => ({
    kind: 'table',
    name: method,
    params: {
      xs: [0, 1, 2.5, 4, 7],
      ys: [10, 12, 19, 22, 40],
      method,
      beyond: method === 'pchip' ? 'go on' : 'no number',
      to: 'mm',
    },
    units: ['V'] as const,
    signal: wave(3.5, 4),
  })),
  {
    kind: 'table',
    name: 'up to a bound',
    params: {
      xs: [0, 1, 2.5, 4, 7],
      ys: [10, 12, 19, 22, 40],
      method: 'linear',
      beyond: 'go on',
      low: -0.3,
      high: 7.2,
      to: 'mm',
    },
    units: ['V'],
    signal: wave(3.5, 4),
  },
  {
    kind: 'formula',
    params: { expression: '2.5 * x1^2 - sqrt(x2) / max(x1, 0.1) + ln(1 + abs(x2)) * pi', to: 'house' },
    units: ['V', 'V'],
    signal: wave(0.6, 1.5),
  },
  { kind: 'change-unit', params: { from: 'degC', to: 'degF' }, units: ['degC'], signal: wave(20, 30) },
  { kind: 'pick-column', params: { column: 2 }, units: ['V', 'A'], signal: wave(2, 3) },
  { kind: 'warm-up', params: { warmUpS: 5 }, units: ['V'], signal: wave(2, 3) },
  { kind: 'exponential', params: { timeConstantS: 0.7 }, units: ['V', 'V'], signal: wave(2, 3) },
  { kind: 'moving-mean', params: { width: 7 }, units: ['V'], signal: wave(2, 3) },
  { kind: 'moving-median', params: { width: 5 }, units: ['V'], signal: wave(2, 3) },
  {
    kind: 'hampel',
    params: { width: 9, limit: 3, floor: 0.01 },
    units: ['V'],
    signal: (i, k) => wave(2, 0.5)(i, k) + (i % 37 === 5 ? 8 : 0),
  },
  { kind: 'butterworth-lowpass', params: { order: 5, cutoffHz: 1.2 }, units: ['V'], signal: wave(2, 3) },
  { kind: 'butterworth-highpass', params: { order: 3, cutoffHz: 0.3 }, units: ['V'], signal: wave(2, 3) },
  {
    kind: 'butterworth-bandpass',
    params: { order: 2, lowHz: 0.4, highHz: 2 },
    units: ['V'],
    signal: wave(2, 3),
  },
  {
    kind: 'butterworth-bandstop',
    params: { order: 2, lowHz: 1, highHz: 2 },
    units: ['V'],
    signal: wave(2, 3),
  },
  { kind: 'notch', params: { notchHz: 2, q: 8 }, units: ['V'], signal: wave(2, 3) },
  { kind: 'fir', params: { taps: 21, cutoffHz: 1, window: 'hann' }, units: ['V'], signal: wave(2, 3) },
  {
    kind: 'fir-highpass',
    params: { taps: 21, cutoffHz: 1, window: 'blackman' },
    units: ['V'],
    signal: wave(2, 3),
  },
  {
    kind: 'smoothing-polynomial',
    params: { width: 9, degree: 2, place: 'centre' },
    units: ['V'],
    signal: wave(2, 3),
  },
  {
    kind: 'smoothing-polynomial',
    name: 'newest',
    params: { width: 9, degree: 2, place: 'newest' },
    units: ['V'],
    signal: wave(2, 3),
  },
  { kind: 'decimate', params: { factor: 4, keep: 'mean' }, units: ['V', 'A'], signal: wave(2, 3) },
  { kind: 'rate-of-change', params: { width: 5 }, units: ['degC'], signal: wave(20, 3) },
  { kind: 'integrate', params: { leakS: 30 }, units: ['W'], signal: wave(2, 3) },
  { kind: 'peak-hold', params: { holdS: 1, decayS: 0.5, of: 'size' }, units: ['N'], signal: wave(0, 3) },
  {
    kind: 'circular-mean',
    params: { timeConstantS: 0.5 },
    units: ['deg'],
    signal: (i) => (355 + 9 * Math.sin(i / 5)) % 360,
  },
  {
    kind: 'less-others',
    params: { channels: 'b c', own: 1.04, weights: [-0.1, 0.02] },
    units: ['ppm'],
    signal: wave(200, 180),
    beside: [
      other('c', 'c3', { kind: 'exponential', params: { timeConstantS: 1 } }),
      other('b', 'c2', { kind: 'linear', params: { slope: 0.5, intercept: 3, to: 'ppm' } }),
    ],
  },
  {
    kind: 'by-surroundings',
    params: { channels: 'b', share: 0.02, at: 20 },
    units: ['ppm'],
    signal: wave(-4, 40),
    beside: [other('b', 'c2', { kind: 'gain-offset', params: { gain: 1.5, offset: 0 } })],
  },
  { kind: 'dead-time', params: { deadTimeS: 0.25 }, units: ['us'], signal: (i) => i * 1e5 },
];

export const caseName = ({ kind, name }: StageCase) => (name ? `${kind}, ${name}` : kind);

/** What it is compiled with. */
export const contextOf = ({ slowestHz }: StageCase, sampleRateHz: number): PrepareContext => ({
  sampleRateHz,
  slowestHz,
});

/** A line of this one stage. */
export function lineOf({ kind, params, units, beside }: StageCase): LineSpec {
  return {
    sources: units.map((unit, k) => ({ column: `c${k + 1}`, unit })),
    stages: [{ id: 's', kind, params, uncertainty: {}, off: false }],
    ...(beside ? { beside: [...beside] } : {}),
  };
}

/** Every column that a case is run on. */
export const columnsOf = ({ units, beside = [] }: StageCase): string[] => [
  ...units.map((_, k) => `c${k + 1}`),
  ...beside.map((b) => b.sources[0]!.column).sort(),
];

/** n samples of every column; every `badEvery`-th instant is missing in one of them. */
export function samplesOf(c: StageCase, n: number, badEvery = 53): Float64Array[] {
  const { signal } = c;
  return columnsOf(c).map((_, k) =>
    Float64Array.from({ length: n }, (_v, i) =>
      (i + 7 * k) % badEvery === badEvery - 1 ? Number.NaN : signal(i, k),
    ),
  );
}
