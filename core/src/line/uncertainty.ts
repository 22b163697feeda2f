import type { CompiledLine } from './compile.ts';
import { compileLine } from './compile.ts';
import { valuesAtRest } from './atRest.ts';
import { filterTraits } from './filterTraits.ts';

/** Constants found by a calibration, with how they vary together. */
export interface CalibrationCovariance {
  readonly parameters: readonly { readonly stageId: string; readonly param: string }[];
  readonly covariance: readonly (readonly number[])[];
  /** Raw range of the calibration points; outside it the as-bought uncertainties count as well. */
  readonly validRaw: readonly [number, number];
  /** What the fit leaves unexplained, in the reading's unit: the leave-one-out error. */
  readonly leftOver: number;
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
 * Carries uncertainty along the line at one raw value: index 0 is the raw value, index k after stage k.
 * Noise follows the slope of each stage and is shrunk by filters; constants act through central differences of the
 * whole line up to the stage, with their covariance when they come from a calibration. First order (JCGM 100:2008, 5.1.2, 5.2.2).
 * @param noiseRaw standard deviation of single raw readings
 */
export function lineUncertainty(
  line: CompiledLine,
  raw: number,
  noiseRaw: number,
  calibration?: CalibrationCovariance | null,
): StageReading[] {
  const values = valuesAtRest(line, raw);
  const h = Math.max(1e-3, Math.abs(raw) * 1e-4);
  const up = valuesAtRest(line, raw + h);
  const down = valuesAtRest(line, raw - h);
  const groups = uncertainGroups(line, raw, calibration ?? null);
  // A raw column of whole codes has at least the noise of rounding, one code over root twelve.
  const rawNoise = Math.hypot(noiseRaw, 1 / Math.sqrt(12));
  let smoothing = 1;
  return values.map((value, k) => {
    const stage = line.stages[k - 1];
    if (stage?.kind.linearFilter) {
      smoothing *= filterTraits(stage.kind, stage.spec.params, line.context).noiseGain;
    }
    const slope = k === 0 ? 1 : (up[k]! - down[k]!) / (2 * h);
    const noise = Math.abs(slope) * rawNoise * smoothing;
    let variance = 0;
    for (const group of groups) {
      const j = group.sensitivities.map((s) => s[k]!);
      j.forEach((a, p) => j.forEach((b, q) => (variance += a * b * group.covariance[p]![q]!)));
    }
    const isLast = k === line.stages.length;
    if (isLast && calibration) variance += calibration.leftOver ** 2;
    const systematic = Math.sqrt(Math.max(0, variance));
    return { value, noise, systematic, combined: Math.hypot(noise, systematic) };
  });
}

interface Group {
  /** For each parameter, the derivative of the value after each stage. */
  readonly sensitivities: number[][];
  readonly covariance: readonly (readonly number[])[];
}

function uncertainGroups(
  line: CompiledLine,
  raw: number,
  calibration: CalibrationCovariance | null,
): Group[] {
  const groups: Group[] = [];
  const inside = calibration !== null && raw >= calibration.validRaw[0] && raw <= calibration.validRaw[1];
  if (calibration) {
    groups.push({
      sensitivities: calibration.parameters.map((p, i) =>
        sensitivity(line, raw, p.stageId, p.param, Math.sqrt(calibration.covariance[i]![i]!)),
      ),
      covariance: calibration.covariance,
    });
  }
  if (!inside) {
    for (const stage of line.stages) {
      for (const [param, u] of Object.entries(stage.spec.uncertainty)) {
        const fitted = calibration?.parameters.some((p) => p.stageId === stage.spec.id && p.param === param);
        if (u === 0 || fitted) continue;
        groups.push({
          sensitivities: [sensitivity(line, raw, stage.spec.id, param, u)],
          covariance: [[u * u]],
        });
      }
    }
  }
  return groups;
}

function sensitivity(line: CompiledLine, raw: number, stageId: string, param: string, u: number): number[] {
  const nominal = line.stages.find((s) => s.spec.id === stageId)?.spec.params[param];
  if (typeof nominal !== 'number' || !(u > 0)) return Array<number>(line.stages.length + 1).fill(0);
  // A step of a tenth of the uncertainty: small enough to be straight, large enough not to drown in rounding.
  const step = u / 10;
  const shifted = (value: number) =>
    valuesAtRest(
      compileLine(
        {
          ...line.spec,
          stages: line.spec.stages.map((s) =>
            s.id === stageId ? { ...s, params: { ...s.params, [param]: value } } : s,
          ),
        },
        line.context,
      ),
      raw,
    );
  const high = shifted(nominal + step);
  const low = shifted(nominal - step);
  return high.map((v, i) => (v - low[i]!) / (2 * step));
}
