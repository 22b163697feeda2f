import { inverse } from 'ml-matrix';
import type { StageSpec } from '../../../src/model/line.ts';
import { mean } from '../../../src/numerics/index.ts';
import { OPEN } from '../../../src/simulate/cellBench.ts';
import { HOIST_CHANGE_S, HOIST_RIDE } from '../../../src/simulate/threeAxes.ts';
import { createWorld, FAMILIES, type WorldTruth } from '../../../src/simulate/index.ts';

/** A stage with the constants that the world hides. */
export const told = (stage: StageSpec, params: StageSpec['params']): StageSpec => ({
  ...stage,
  params: { ...stage.params, ...params },
});

/** A 3 x 3 matrix that undoes another, row by row. */
export const undoing = (rows: readonly number[]) =>
  inverse([rows.slice(0, 3), rows.slice(3, 6), rows.slice(6)]).to1DArray();

export const of = <K extends WorldTruth['kind']>(truth: never) => truth as Extract<WorldTruth, { kind: K }>;

/** Metres after s seconds of a sprint, an exponential approach to its top speed. */
export const along = ({ topSpeed, buildUpS }: { topSpeed: number; buildUpS: number }, s: number) =>
  topSpeed * (s - buildUpS * (1 - Math.exp(-s / buildUpS)));

/** Where a rising function meets a value, by halving. */
export function whereIt(rises: (x: number) => number, to: number, high: number): number {
  let low = 0;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (rises(middle) < to) low = middle;
    else high = middle;
  }
  return low;
}

/** What a cell gives from 0.98 of its charge until it stands at 3 V under its load. */
export function emptied(truth: never): { mAh: number; wh: number } {
  const { capacityMah, internalOhm, loadOhm } = of<'cell-bench'>(truth);
  const share = loadOhm / (internalOhm + loadOhm);
  const left = whereIt((charge) => OPEN.at(charge) * share, 3, 0.98);
  const n = 10_000;
  const volts = Array.from({ length: n }, (_, i) => OPEN.at(left + ((0.98 - left) * (i + 0.5)) / n) * share);
  const mAh = capacityMah * (0.98 - left);
  return { mAh, wh: (mAh * mean(volts)) / 1000 };
}

/** What the lamps take in eight seconds, two seconds after the world begins: power goes up and down twice a turn, Wh. */
export function lampEnergy(truth: never): number {
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
export function hoistAbove(level: number): number {
  return HOIST_RIDE.slice(1).reduce((sum, [g], k) => {
    const [before, at] = HOIST_RIDE[k]!;
    if (before > level === g > level) return sum;
    const crossedS = at + HOIST_CHANGE_S * ((level - before) / (g - before) - 0.5);
    return sum + (g > level ? -crossedS : crossedS);
  }, 0);
}

/** Peaks of the blows of twenty seconds, N: two readings without noise tell a power of a half sine of known length. */
export function blowsOf(truth: never): number[] {
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
export const probeStages = (t: never, stage: StageSpec, channelId: string): StageSpec => {
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

export const FIRING = [
  ['room', 120],
  ['kiln', 500],
] as const;

/** Slope of a straight line through the last 300 s of true temperatures, K/s. */
export function meanSlope(truth: never): number {
  const { t, x } = firing(truth);
  const [late, high] = [t.slice(-3000), x.slice(-3000)];
  const [mt, mx] = [mean(late), mean(high)];
  const sum = (f: (i: number) => number) => late.reduce((s, _, i) => s + f(i), 0);
  return sum((i) => (late[i]! - mt) * (high[i]! - mx)) / sum((i) => (late[i]! - mt) ** 2);
}
