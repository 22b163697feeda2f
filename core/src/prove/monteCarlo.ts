import { seededRandom, type Random } from '../numerics/index.ts';
import { DIVISORS, type Distribution } from './errorBudget.ts';

export interface MonteCarloInput {
  readonly title: string;
  readonly value: number;
  /** Half-width, or standard deviation for "normal". */
  readonly halfWidth: number;
  readonly distribution: Distribution;
}

export interface MonteCarloResult {
  readonly mean: number;
  readonly sd: number;
  /** Probabilistically symmetric 95 % interval. */
  readonly low95: number;
  readonly high95: number;
  /** The shortest interval that holds 95 %: of a skewed distribution it is shorter than the symmetric one. */
  readonly shortest95: readonly [number, number];
  /** Draws in which the model gave no number. */
  readonly bad: number;
}

/**
 * Propagates distributions through a model that may bend, by drawing (JCGM 101:2008, 7).
 * @param model takes the drawn inputs in order @param draws at least 1000 @param seed the same seed gives the same result
 * @throws {RangeError} for too few draws or a negative half-width
 */
export function monteCarlo(
  inputs: readonly MonteCarloInput[],
  model: (values: readonly number[]) => number,
  draws: number,
  seed: number,
): MonteCarloResult {
  if (!Number.isInteger(draws) || draws < 1000)
    throw new RangeError(`Enter a whole number of at least 1000 draws; received ${draws}.`);
  for (const input of inputs) {
    if (!(input.halfWidth >= 0))
      throw new RangeError(`${input.title}: enter a half-width of 0 or more; received ${input.halfWidth}.`);
  }
  const random = seededRandom(seed);
  const results = new Float64Array(draws);
  let good = 0;
  for (let d = 0; d < draws; d++) {
    const y = model(inputs.map((input) => input.value + draw(input, random)));
    if (Number.isFinite(y)) results[good++] = y;
  }
  const sorted = results.subarray(0, good).sort();
  const mean = sorted.reduce((s, v) => s + v, 0) / good;
  return {
    mean,
    sd: Math.sqrt(sorted.reduce((s, v) => s + (v - mean) ** 2, 0) / (good - 1)),
    low95: sorted[Math.floor(0.025 * good)] ?? Number.NaN,
    high95: sorted[Math.ceil(0.975 * good) - 1] ?? Number.NaN,
    shortest95: shortest(sorted),
    bad: draws - good,
  };
}

/** JCGM 101:2008, 7.7.4: of all intervals with so many draws in them the one that is shortest. */
function shortest(sorted: Float64Array): readonly [number, number] {
  const n = sorted.length;
  const inside = Math.round(0.95 * n);
  if (n < 2) return [Number.NaN, Number.NaN];
  let best = 0;
  for (let r = 1; r + inside < n; r++)
    if (sorted[r + inside]! - sorted[r]! < sorted[best + inside]! - sorted[best]!) best = r;
  return [sorted[best]!, sorted[Math.min(n - 1, best + inside)]!];
}

function draw({ halfWidth, distribution }: MonteCarloInput, random: Random): number {
  switch (distribution) {
    case 'normal':
    case 'normal, k = 2':
      return (halfWidth / DIVISORS[distribution]) * random.normal();
    case 'rectangular':
      return halfWidth * (2 * random.uniform() - 1);
    case 'triangular':
      return halfWidth * (random.uniform() - random.uniform());
    case 'u-shaped':
      return halfWidth * Math.cos(2 * Math.PI * random.uniform());
  }
}
