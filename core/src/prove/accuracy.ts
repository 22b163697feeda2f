import { fitPolynomial, mean, normalQuantile, sampleSd, studentTQuantile } from '../numerics/index.ts';
import { groupsOf } from './groupsOf.ts';

export interface AccuracyReading {
  readonly reference: number;
  readonly shown: number;
  /** How the point was approached, for hysteresis. */
  readonly approach?: 'up' | 'down';
  /** Another day, another mounting, another person: for reproducibility. */
  readonly session?: string;
  /** When it was taken, s, for drift. */
  readonly timeS?: number;
}

export interface AccuracyResult {
  /**
   * Mean error with its 95 % interval, what the reference is good to in it: shared by all readings, it averages away in
   * none of them. NaN with fewer than two readings, or where nobody says what the reference is good to.
   */
  readonly bias: number;
  readonly biasHalfWidth95: number;
  /** Pooled standard deviation of repeats at the same reference; null without repeats. */
  readonly repeatabilitySd: number | null;
  /** Standard deviation of session means about the overall mean, within repeats taken off; null with one session. */
  readonly reproducibilitySd: number | null;
  /** Largest distance of the mean errors from the best straight line; null with fewer than three references. */
  readonly linearity: number | null;
  /** Largest difference between readings from above and below at one reference; null without both. */
  readonly hysteresis: number | null;
  /** Change of the error an hour with its standard uncertainty; null without times. */
  readonly driftPerHour: { readonly value: number; readonly u: number } | null;
  /** Smallest step seen between readings; null when all are alike. */
  readonly resolution: number | null;
  readonly n: number;
}

/**
 * The parts of accuracy from readings against a reference (terms of the VIM, JCGM 200:2012). Too few readings give null in
 * the part concerned, never a number made up.
 * @param referenceU standard uncertainty of the reference that all share; NaN when not known
 */
export function accuracy(readings: readonly AccuracyReading[], referenceU: number): AccuracyResult {
  const errors = readings.map((r) => r.shown - r.reference);
  const n = errors.length;
  const groups = groupsOf(readings, (r) => r.reference).map(([, group]) => group);
  return {
    bias: mean(errors),
    biasHalfWidth95: halfWidth95(errors, referenceU),
    repeatabilitySd: pooledSd(groups.map((g) => g.map((r) => r.shown))),
    reproducibilitySd: betweenSessions(readings),
    linearity: linearity(groups),
    hysteresis: hysteresis(groups),
    driftPerHour: drift(readings, errors),
    resolution: smallestStep(readings.map((r) => r.shown)),
    n,
  };
}

/** Half-width of the 95 % interval of a mean, of readings that all share one reference. */
function halfWidth95(errors: readonly number[], referenceU: number): number {
  const n = errors.length;
  if (n < 2) return Number.NaN;
  const own = (studentTQuantile(0.975, n - 1) * sampleSd(errors)) / Math.sqrt(n);
  return Math.hypot(own, normalQuantile(0.975) * referenceU);
}

function pooledSd(groups: readonly (readonly number[])[]): number | null {
  let freedom = 0;
  let sum = 0;
  for (const g of groups) {
    if (g.length < 2) continue;
    freedom += g.length - 1;
    sum += (g.length - 1) * sampleSd(g) ** 2;
  }
  return freedom > 0 ? Math.sqrt(sum / freedom) : null;
}

function betweenSessions(readings: readonly AccuracyReading[]): number | null {
  const sessions = groupsOf(
    readings.filter((r) => r.session !== undefined),
    (r) => r.session!,
  ).map(([, session]) => session);
  if (sessions.length < 2) return null;
  const errors = sessions.map((s) => s.map((r) => r.shown - r.reference));
  const within = pooledSd(errors) ?? 0;
  const each = errors.reduce((s, e) => s + 1 / e.length, 0) / errors.length;
  return Math.sqrt(Math.max(0, sampleSd(errors.map(mean)) ** 2 - within ** 2 * each));
}

function linearity(groups: readonly (readonly AccuracyReading[])[]): number | null {
  if (groups.length < 3) return null;
  const x = groups.map((g) => g[0]!.reference);
  const y = groups.map((g) => mean(g.map((r) => r.shown)));
  return Math.max(...fitPolynomial(x, y, 1).residuals.map(Math.abs));
}

function hysteresis(groups: readonly (readonly AccuracyReading[])[]): number | null {
  const differences = groups.flatMap((g) => {
    const up = g.filter((r) => r.approach === 'up').map((r) => r.shown);
    const down = g.filter((r) => r.approach === 'down').map((r) => r.shown);
    return up.length > 0 && down.length > 0 ? [Math.abs(mean(up) - mean(down))] : [];
  });
  return differences.length > 0 ? Math.max(...differences) : null;
}

function drift(
  readings: readonly AccuracyReading[],
  errors: readonly number[],
): AccuracyResult['driftPerHour'] {
  const timed = readings.flatMap((r, i) =>
    r.timeS === undefined ? [] : [{ t: r.timeS / 3600, e: errors[i]! }],
  );
  if (new Set(timed.map((p) => p.t)).size < 3) return null;
  const line = fitPolynomial(
    timed.map((p) => p.t),
    timed.map((p) => p.e),
    1,
  );
  return { value: line.coefficients[1]!, u: Math.sqrt(line.covariance[1]![1]!) };
}

function smallestStep(values: readonly number[]): number | null {
  const sorted = [...new Set(values)].sort((a, b) => a - b);
  const steps = sorted.slice(1).map((v, i) => v - sorted[i]!);
  return steps.length > 0 ? Math.min(...steps) : null;
}
