import { boughtConstants, type BoughtConstant } from './boughtConstants.ts';
import type { CompiledLine } from './compile.ts';
import { compileLine } from './compile.ts';
import { valuesAtRest, type Raw } from './atRest.ts';
import { givesDirection } from './givesDirection.ts';
import { shortWay } from '../numerics/index.ts';
import { filterTraits, hasFilterTraits } from './filterTraits.ts';
import type { LeftOver } from '../model/calibration.ts';
import { largestLeftOver, leftOverAt, offAt } from './leftOver.ts';
import { paramAt, withLineParam } from './paramPath.ts';

/** Constants found by a calibration, with how they vary together. */
export interface CalibrationCovariance {
  readonly parameters: readonly { readonly stageId: string; readonly param: string }[];
  readonly covariance: readonly (readonly number[])[];
  /** Raw range of the calibration points (first source); outside it the as-bought uncertainties count as well. */
  readonly validRaw: readonly [number, number];
  /** What the fit leaves unexplained, in the unit that the calibrated stages end in; NaN where it is not known. */
  readonly leftOver: LeftOver;
  /** So many stages of the line were calibrated, where others go on from them; not given where all were. */
  readonly stages?: number;
}

export interface StageReading {
  readonly value: number;
  /** Standard uncertainty from noise and rounding to codes, after the stage. */
  readonly noise: number;
  /** Standard uncertainty from the constants of the line, after the stage. */
  readonly systematic: number;
  /** Standard uncertainty of both together. */
  readonly combined: number;
}

/**
 * Carries uncertainty along the first column of the line at raw values held still: index 0 is the raw value, index k after
 * stage k. Noise follows the slope by each source and is shrunk by filters; constants act through central differences of
 * the whole line up to the stage, with their covariance when they come from a calibration.
 * First order (JCGM 100:2008, 5.1.2, 5.2.2); where the line bends within the uncertainty, prove/bentConstants.ts draws instead.
 * @param noiseRaw standard deviation of single raw readings, one for all sources or one each
 */
export function lineUncertainty(
  line: CompiledLine,
  raw: Raw,
  noiseRaw: Raw,
  calibration?: CalibrationCovariance | null,
): StageReading[] {
  return uncertaintyAlong(line, calibration)(raw, noiseRaw);
}

/** The same for many raw values of one line: what is prepared for one serves all. */
export function uncertaintyAlong(
  line: CompiledLine,
  calibration: CalibrationCovariance | null = null,
): (raw: Raw, noiseRaw: Raw) => StageReading[] {
  const groupsAt = uncertainGroups(line, calibration);
  const leftAt = calibration ? leftThrough(line, calibration) : null;
  return (raw, noiseRaw) => {
    const raws = typeof raw === 'number' ? [raw] : raw;
    const values = valuesAtRest(line, raws);
    const groups = groupsAt(raws);
    const left = leftAt?.(raws, values);
    const slopes = raws.map((_, s) => slopesBy(line, raws, s));
    const noises = raws.map((_, s) =>
      rawNoise(line, s, typeof noiseRaw === 'number' ? noiseRaw : noiseRaw[s]!),
    );
    let smoothing = 1;
    return values.map((value, k) => {
      const stage = line.stages[k - 1];
      if (stage && hasFilterTraits(stage.kind)) {
        smoothing *= filterTraits(stage.kind, stage.spec.params, stage.context).noiseGain;
      }
      const noise = Math.hypot(...slopes.map((slope, s) => slope[k]! * noises[s]!)) * smoothing;
      let variance = 0;
      for (const group of groups) {
        const j = group.sensitivities.map((s) => s[k]!);
        j.forEach((a, p) => j.forEach((b, q) => (variance += a * b * group.covariance[p]![q]!)));
      }
      if (left) variance += left[k]! ** 2;
      const systematic = Math.sqrt(Math.max(0, variance));
      return { value, noise, systematic, combined: Math.hypot(noise, systematic) };
    });
  };
}

/**
 * What a fit leaves, after each stage: nothing before the last one that was calibrated, and behind it by how those that go on
 * from it turn it into something else.
 */
function leftThrough(
  line: CompiledLine,
  { leftOver, stages = Infinity }: CalibrationCovariance,
): (raws: readonly number[], values: readonly number[]) => number[] {
  const n = line.stages.length;
  const place = Math.min(stages, n);
  const most = largestLeftOver(leftOver);
  if (Number.isNaN(most)) return (_, values) => values.map((_v, k) => (k < place ? 0 : Number.NaN));
  if (place === n || most === 0)
    return (_, values) => values.map((value, k) => (k === n ? leftOverAt(leftOver, value) : 0));
  const step = most / 10;
  const [high, low] = [step, -step].map((offset) =>
    compileLine(offAt(line.spec, place, offset), line.context),
  );
  return (raws, values) => {
    const here = leftOverAt(leftOver, values[place]!);
    const moved = changes(high!, valuesAtRest(low!, raws), valuesAtRest(high!, raws));
    // The stage that moves it stands between.
    return values.map((_, k) => (k < place ? 0 : (here * moved[k + 1]!) / (2 * step)));
  };
}

/** A raw column of whole codes has at least the noise of rounding, one code over root twelve. */
function rawNoise(line: CompiledLine, source: number, sd: number): number {
  return line.sources[source]!.unit === 'count' ? Math.hypot(sd, 1 / Math.sqrt(12)) : sd;
}

/** Derivative of the first column after each stage by one source. */
function slopesBy(line: CompiledLine, raws: readonly number[], source: number): number[] {
  const h = Math.max(line.sources[source]!.unit === 'count' ? 1e-3 : 1e-9, Math.abs(raws[source]!) * 1e-4);
  const moved = (by: number) =>
    valuesAtRest(
      line,
      raws.map((v, i) => (i === source ? v + by : v)),
    );
  const up = moved(h);
  const down = moved(-h);
  return changes(line, down, up).map((change) => change / (2 * h));
}

/** What the value after each stage has changed by; of a direction the short way round, also across north. */
function changes({ spec, stages }: CompiledLine, from: readonly number[], to: readonly number[]): number[] {
  return to.map((v, k) =>
    givesDirection({ ...spec, stages: stages.slice(0, k).map((s) => s.spec) })
      ? shortWay(from[k]!, v)
      : v - from[k]!,
  );
}

interface Group {
  /** For each parameter, the derivative of the value after each stage. */
  readonly sensitivities: number[][];
  readonly covariance: readonly (readonly number[])[];
}

/** By raw values: the constants of a calibration together; as bought by their causes, where no calibration reaches. */
function uncertainGroups(
  line: CompiledLine,
  calibration: CalibrationCovariance | null,
): (raws: readonly number[]) => Group[] {
  const fitted = calibration?.parameters.map((p, i) =>
    sensitivity(line, p.stageId, p.param, Math.sqrt(calibration.covariance[i]![i]!)),
  );
  const isFitted = (c: BoughtConstant) =>
    calibration?.parameters.some((p) => p.stageId === c.stageId && p.param === c.param) ?? false;
  const groupsBehind = (reached: number) =>
    boughtConstants(line.spec, reached)
      .map((group) => group.filter((c) => !isFitted(c)))
      .filter((group) => group.length > 0)
      .map((group) => ({
        at: group.map((c) => sensitivity(line, c.stageId, c.param, c.u)),
        covariance: group.map((a) => group.map((b) => a.u * b.u)),
      }));
  // Inside the points the fit tells all of the stages that it reaches; beyond them nobody has seen those as they are.
  const inside = calibration ? groupsBehind(calibration.stages ?? Infinity) : [];
  let outside: ReturnType<typeof groupsBehind> | null = null;
  return (raws) => {
    const isInside =
      calibration !== null && raws[0]! >= calibration.validRaw[0] && raws[0]! <= calibration.validRaw[1];
    return [
      ...(calibration && fitted
        ? [{ sensitivities: fitted.map((at) => at(raws)), covariance: calibration.covariance }]
        : []),
      ...(isInside ? inside : (outside ??= groupsBehind(0))).map(({ at, covariance }) => ({
        sensitivities: at.map((by) => by(raws)),
        covariance,
      })),
    ];
  };
}

/** Derivative of the value after each stage by one constant, at raw values. */
type Sensitivity = (raws: readonly number[]) => number[];

function sensitivity(line: CompiledLine, stageId: string, param: string, u: number): Sensitivity {
  const stage = line.stages.find((s) => s.spec.id === stageId);
  const nominal = stage ? paramAt(stage.spec.params, param) : Number.NaN;
  if (!Number.isFinite(nominal) || !(u > 0)) return () => Array<number>(line.stages.length + 1).fill(0);
  // A step of a tenth of the uncertainty: small enough to be straight, large enough not to drown in rounding.
  const step = u / 10;
  const shifted = (value: number) =>
    compileLine(withLineParam(line.spec, stageId, param, value), line.context);
  const [high, low] = [shifted(nominal + step), shifted(nominal - step)];
  return (raws) =>
    changes(line, valuesAtRest(low, raws), valuesAtRest(high, raws)).map((change) => change / (2 * step));
}
