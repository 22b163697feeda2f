import { serialCorrelation, studentTQuantile } from '../numerics/index.ts';

export interface Slope {
  readonly slope: number;
  /** Standard error, by what the line leaves; what hangs together counts as fewer readings. */
  readonly u: number;
  /**
   * Standard error of this slope as that of a straight line through what truly was there, however that bends: by what readings
   * scatter about parabolas through short stretches of them.
   */
  readonly uOfMean: number;
  /** The line at the last reading. */
  readonly last: number;
  /** Standard error of the line at some time, as far as the readings tell. */
  uAt(t: number): number;
  /** Where it goes at the end, if the readings bend for sure; null where what they scatter by may be all of the bend. */
  readonly tangent: Tangent | null;
}

/** The tangent to a parabola at its last reading. */
export interface Tangent {
  readonly slope: number;
  readonly last: number;
  /** Standard error of the tangent at some time, as far as the readings tell. */
  uAt(t: number): number;
  /** How far the parabola leaves it until some time. */
  bendAt(t: number): number;
}

/**
 * Straight line through points; null with fewer than three.
 * @param weights inverse variances up to a factor; all alike when not given
 */
export function slopeOf(
  t: readonly number[],
  x: readonly number[],
  weights: readonly number[] = t.map(() => 1),
): Slope | null {
  const n = t.length;
  if (n < 3) return null;
  const total = weights.reduce((a, b) => a + b, 0);
  const of = (values: readonly number[]) => values.reduce((sum, v, i) => sum + weights[i]! * v, 0) / total;
  const [mt, mx] = [of(t), of(x)];
  const sxx = total * of(t.map((v) => (v - mt) ** 2));
  if (!(sxx > 0)) return null;
  const slope = (total * of(t.map((v, i) => (v - mt) * (x[i]! - mx)))) / sxx;
  const left = x.map((v, i) => Math.sqrt(weights[i]!) * (v - mx - slope * (t[i]! - mt)));
  const widened = scatterOf(left, 2);
  const u = widened / Math.sqrt(sxx);
  const bend = bendOf(t, left, weights, mt);
  const aboutWhole = bend?.scatter ?? widened;
  const aboutParts = scatterInStretches(t, left, weights);
  const aboutMean = aboutParts < SURELY_LESS * aboutWhole ? aboutParts : aboutWhole;
  const end = t[n - 1]!;
  const tangentOf = ({ height, steepness, scatter, error }: Bend): Tangent => {
    const at = (time: number) => height(end) + steepness(end) * (time - end);
    return {
      slope: slope + steepness(end),
      last: mx + slope * (end - mt) + height(end),
      uAt: (time) =>
        Math.hypot(scatter / Math.sqrt(total), (scatter / Math.sqrt(sxx)) * (time - mt), error * at(time)),
      bendAt: (time) => height(time) - at(time),
    };
  };
  return {
    slope,
    u,
    uOfMean: aboutMean / Math.sqrt(sxx),
    tangent: bend && Math.abs(bend.size) > SURE * bend.scatter ? tangentOf(bend) : null,
    last: mx + slope * (end - mt),
    uAt: (at) => Math.hypot(widened / Math.sqrt(total), u * (at - mt)),
  };
}

/** A bend that is so many standard deviations is one; of straight lines one in a thousand has it by chance. */
const SURE = 4;

interface Bend {
  /** How much of it there is, in standard deviations of a reading of weight 1. */
  readonly size: number;
  /** What the parabola leaves, as a standard deviation of a reading of weight 1. */
  readonly scatter: number;
  /** Standard error of its size, as a share of it. */
  readonly error: number;
  /** How far the parabola lies from the line at some time. */
  height(t: number): number;
  /** Its slope beside that of the line. */
  steepness(t: number): number;
}

/** The parabola in what a line leaves; null with too few points for one. */
function bendOf(
  t: readonly number[],
  left: readonly number[],
  weights: readonly number[],
  mt: number,
): Bend | null {
  if (t.length < 5) return null;
  const total = weights.reduce((a, b) => a + b, 0);
  const of = (f: (d: number) => number) => t.reduce((sum, v, i) => sum + weights[i]! * f(v - mt), 0) / total;
  // At right angles to a mean and to a slope.
  const square = of((d) => d * d);
  const lean = of((d) => d ** 3) / square;
  const curve = (at: number) => (at - mt) ** 2 - lean * (at - mt) - square;
  const length = Math.sqrt(total * of((d) => curve(d + mt) ** 2));
  if (!(length > 0)) return null;
  const unit = t.map((v, i) => (Math.sqrt(weights[i]!) * curve(v)) / length);
  const size = unit.reduce((sum, b, i) => sum + b * left[i]!, 0);
  const scatter = scatterOf(
    left.map((d, i) => d - size * unit[i]!),
    3,
  );
  return {
    size,
    scatter,
    error: scatter / Math.abs(size),
    height: (at) => (size / length) * curve(at),
    steepness: (at) => (size / length) * (2 * (at - mt) - lean),
  };
}

/** By chance the scatter about many parabolas comes out less than about one, but hardly so much less. */
const SURELY_LESS = 0.7;

/** So many stretches, each with so many readings at least. */
const STRETCHES = 8;
const LEAST = 20;

/** The same scatter about a parabola of its own through each of a few stretches; infinite with too few readings for that. */
function scatterInStretches(
  t: readonly number[],
  left: readonly number[],
  weights: readonly number[],
): number {
  const n = t.length;
  if (n < STRETCHES * LEAST) return Infinity;
  const about: number[] = [];
  for (let k = 0; k < STRETCHES; k++) {
    const [from, to] = [Math.floor((k * n) / STRETCHES), Math.floor(((k + 1) * n) / STRETCHES)];
    const root = weights.slice(from, to).map(Math.sqrt);
    const at = t.slice(from, to);
    const [middle, half] = [(at[0]! + at.at(-1)!) / 2, (at.at(-1)! - at[0]!) / 2 || 1];
    let own = left.slice(from, to);
    const taken: number[][] = [];
    for (const degree of [0, 1, 2]) {
      let shape = at.map((v, i) => root[i]! * ((v - middle) / half) ** degree);
      for (const other of taken) shape = without(shape, other);
      own = without(own, shape);
      taken.push(shape);
    }
    about.push(...own);
  }
  return scatterOf(about, 3 * STRETCHES);
}

/** What lies at right angles to another. */
function without(of: readonly number[], other: readonly number[]): number[] {
  let [share, size] = [0, 0];
  for (let i = 0; i < of.length; i++) {
    share += of[i]! * other[i]!;
    size += other[i]! ** 2;
  }
  return size > 0 ? of.map((v, i) => v - (share / size) * other[i]!) : [...of];
}

/**
 * Standard deviation of what a curve leaves, widened for what hangs together and so that twice it holds 95 % with few readings.
 * @param taken constants of the curve, or of all curves
 */
function scatterOf(left: readonly number[], taken: number): number {
  const n = left.length;
  const variance = left.reduce((sum, d) => sum + d * d, 0) / (n - taken);
  const count = countOf(left, taken);
  // Twice it holds 95 in 100.
  const few = studentTQuantile(0.975, Math.max(1, count - taken)) / 2;
  return few * Math.sqrt(variance * (n / count));
}

/** Readings that count among those that a curve was taken from: it takes some of what they have in common with it. */
function countOf(left: readonly number[], taken: number): number {
  const n = left.length;
  const common = serialCorrelation(left);
  if (common === 0) return n;
  // Kendall's bias of a serial correlation, once for the mean and once more for each further constant, and half its own deviation.
  const mended = common + (taken * (1 + 2 * common)) / n + 0.5 * Math.sqrt((1 - common ** 2) / n);
  const held = Math.min(0.99, mended);
  return Math.max(1, (n * (1 - held)) / (1 + held));
}
