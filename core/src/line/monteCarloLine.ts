import type { CompiledLine } from './compile.ts';
import { compileLine } from './compile.ts';
import { valuesAtRest, type Raw } from './atRest.ts';
import { paramAt, withParamAt } from './paramPath.ts';
import { rawNoise } from './uncertainty.ts';
import { seededRandom } from '../numerics/index.ts';

export interface StageSpread {
  readonly mean: number;
  readonly sd: number;
  /** Shortest-tailed interval that is symmetric in probability: 2.5 % of the draws lie on each side. */
  readonly low95: number;
  readonly high95: number;
  /** Draws that gave no number. */
  readonly bad: number;
}

/**
 * Uncertainty after each stage by drawing raw noise and the constants' as-bought uncertainties, all normal: right also
 * where the line bends (JCGM 101:2008, 7). Filters are at rest, so noise is that of single readings.
 * @param draws 1000 or more for intervals worth reading
 * @param seed the same seed gives the same result
 */
export function monteCarloLine(
  line: CompiledLine,
  raw: Raw,
  noiseRaw: number,
  draws: number,
  seed: number,
): StageSpread[] {
  if (!Number.isInteger(draws) || draws < 100)
    throw new RangeError(
      `A Monte Carlo estimate needs a whole number of at least 100 draws; received ${draws}.`,
    );
  const random = seededRandom(seed);
  const raws = typeof raw === 'number' ? [raw] : raw;
  const columns = Array.from({ length: line.stages.length + 1 }, () => [] as number[]);
  let bad = 0;
  for (let d = 0; d < draws; d++) {
    const spec = {
      ...line.spec,
      stages: line.spec.stages.map((stage) =>
        Object.entries(stage.uncertainty).reduce(
          (s, [param, u]) => ({
            ...s,
            params: withParamAt(s.params, param, paramAt(s.params, param) + u * random.normal()),
          }),
          stage,
        ),
      ),
    };
    const drawn = raws.map((v, s) => v + rawNoise(line, s, noiseRaw) * random.normal());
    try {
      valuesAtRest(compileLine(spec, line.context), drawn).forEach((v, k) => columns[k]!.push(v));
    } catch (error) {
      // A constant drawn outside its limits (a negative resistor): counted, not hidden.
      if (!(error instanceof RangeError)) throw error;
      bad++;
    }
  }
  return columns.map((column) => {
    const good = column.filter(Number.isFinite).sort((a, b) => a - b);
    const n = good.length;
    const mean = good.reduce((s, v) => s + v, 0) / n;
    return {
      mean,
      sd: Math.sqrt(good.reduce((s, v) => s + (v - mean) ** 2, 0) / (n - 1)),
      low95: good[Math.floor(0.025 * n)] ?? Number.NaN,
      high95: good[Math.min(n - 1, Math.ceil(0.975 * n) - 1)] ?? Number.NaN,
      bad: bad + column.length - n,
    };
  });
}
