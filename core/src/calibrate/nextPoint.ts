import { compileLine, type CompiledLine } from '../line/compile.ts';
import { invertLine } from '../line/invert.ts';
import { readingAtRest, slopeAtRest } from '../line/atRest.ts';
import type { LineSpec } from '../model/line.ts';
import { LineError, type PrepareContext } from '../stage/contract.ts';
import type { FitKind, FitSetUp } from './fits/fitKind.ts';
import { withConstants } from './fits/withConstants.ts';
import type { FitPoint } from './points.ts';

export interface NextPoint {
  /** Where in the brief's range a further point tells most, in the reading's unit. */
  readonly at: number;
  /** The raw value to expect there. */
  readonly raw: number;
  /** Half-width at 95 % of where the line lies, at its worst in the range; Infinity where the points leave it open. */
  readonly worstNow: number;
  /** The same with that point kept. */
  readonly worstThen: number;
  /** Points, this one among them, until the worst is within the goal; 0 where it is now, null where many do not do. */
  readonly pointsLeft: number | null;
}

export interface NextPointGoal {
  /** Ends of the range that readings are asked for over, in the reading's unit. */
  readonly low: number;
  readonly high: number;
  /** What the constants may leave open, half-width at 95 %. */
  readonly goal: number;
  /** Standard uncertainty of a further reference; of the kept ones the median is usual. */
  readonly uReference: number;
  /** Standard uncertainty of its captured mean, in raw units. */
  readonly uRaw: number;
  /** Factor on the uncertainties of all points, where those that there are scatter more than was stated of them. */
  readonly birge?: number;
}

/** Places of the range that are looked at. */
const PLACES = 25;
const MOST_POINTS = 8;
/** As many as the fit of the most constants takes. */
const ALONG = [0, 0.25, 0.5, 0.75, 1];
/** Before any point a constant may move readings by so many times the range: as good as open, and no more, for the digits. */
const OPEN = 10;
/** From so many times the range on, nothing is known of the line. */
const STILL_OPEN = 1;
const K = 1.96;

/**
 * Where a further point of a fit tells most over the range: the place with which the greatest variance of the fitted line
 * is least, or the one where the line is known worst, whichever leads to the goal with fewer points (G-optimal design one
 * point at a time: Wynn, Ann. Math. Stat. 41 (1970) 1655). Also before there are points enough, for the fit that the maker is heading for.
 * @returns null for a curve through points, of which a place is known only once it has a point, and where no line can be made
 */
export function nextPoint(
  kind: FitKind,
  line: LineSpec,
  context: PrepareContext,
  points: readonly FitPoint[],
  found: readonly number[] | null,
  goal: NextPointGoal,
): NextPoint | null {
  if (kind.interpolates || !(goal.high > goal.low)) return null;
  try {
    // Places all along the range as if they were points: what a fit works with must reach over all of it.
    const bought = compileLine(line, context);
    const ends = ALONG.flatMap((share, i): FitPoint[] => {
      const reference = goal.low + share * (goal.high - goal.low);
      const raw = rawAt(bought, reference);
      const { uReference, uRaw } = goal;
      return Number.isFinite(raw) ? [{ id: `end ${i}`, raw, uRaw, reference, uReference }] : [];
    });
    const reach = [...points, ...ends];
    const setUp = kind.setUp(line, context, reach, reach);
    if (typeof setUp === 'string') return null;
    const constants = found?.length === setUp.targets.length ? found : setUp.targets.map((t) => t.start);
    return search(setUp, constants, context, points, goal);
  } catch (error) {
    // A line that does not run, or a constant at the end of what it may be.
    if (error instanceof RangeError || error instanceof LineError) return null;
    throw error;
  }
}

interface Place {
  readonly at: number;
  readonly raw: number;
  /** Change of the reading by each constant, in its scale. */
  readonly by: readonly number[];
  /** Variance that a point there would have. */
  readonly variance: number;
}

function search(
  setUp: FitSetUp,
  constants: readonly number[],
  context: PrepareContext,
  points: readonly FitPoint[],
  goal: NextPointGoal,
): NextPoint | null {
  const compiled = compileLine(withConstants(setUp, constants), context);
  const moved = setUp.targets.map((target, k) => {
    const step = target.scale * 1e-4;
    const [up, down] = [step, -step].map((by) =>
      compileLine(
        withConstants(
          setUp,
          constants.map((v, i) => (i === k ? v + by : v)),
        ),
        context,
      ),
    ) as [CompiledLine, CompiledLine];
    return (raw: number) => (readingAtRest(up, raw) - readingAtRest(down, raw)) / 2e-4;
  });
  const widened = goal.birge ?? 1;
  const placeOf = (at: number, raw: number, uReference: number, uRaw: number): Place => ({
    at,
    raw,
    by: moved.map((change) => change(raw)),
    variance: widened ** 2 * (uReference ** 2 + (slopeAtRest(compiled, raw) * uRaw) ** 2),
  });
  const places = Array.from(
    { length: PLACES },
    (_, i) => goal.low + ((goal.high - goal.low) * i) / (PLACES - 1),
  )
    .map((at) => placeOf(at, rawAt(compiled, at), goal.uReference, goal.uRaw))
    .filter((p) => Number.isFinite(p.raw) && p.variance > 0 && p.by.every(Number.isFinite));
  if (places.length < 2) return null;
  const span = goal.high - goal.low;
  const moves = setUp.targets.map((_, k) => Math.max(...places.map((p) => Math.abs(p.by[k]!))));
  if (!moves.every((m) => m > 0)) return null;
  let covariance = moves.map((m, i) => moves.map((_, j) => (i === j ? ((OPEN * span) / m) ** 2 : 0)));
  for (const p of points) {
    const kept = placeOf(p.reference, p.raw, p.uReference, p.uRaw);
    if (kept.variance > 0 && kept.by.every(Number.isFinite)) covariance = withPoint(covariance, kept);
  }
  const worst = (c: readonly (readonly number[])[]) => Math.max(...places.map((p) => varianceAt(c, p.by)));
  const told = (variance: number) =>
    variance > (STILL_OPEN * span) ** 2 ? Infinity : K * Math.sqrt(Math.max(0, variance));
  type Covariance = readonly (readonly number[])[];
  const least = (c: Covariance): Place =>
    places
      .map((place) => ({ place, variance: worst(withPoint(c, place)) }))
      .reduce((x, y) => (y.variance < x.variance * (1 - 1e-9) ? y : x)).place;
  const weakest = (c: Covariance): Place =>
    places.reduce((x, y) => (varianceAt(c, y.by) > varianceAt(c, x.by) * (1 + 1e-9) ? y : x));
  /** Points one after the other by a rule, until the goal is met or they are many. */
  const follow = (rule: (c: Covariance) => Place) => {
    const first = rule(covariance);
    let then: Covariance = withPoint(covariance, first);
    const worstThen = worst(then);
    let n = 1;
    for (; told(worst(then)) > goal.goal && n <= MOST_POINTS; n++) then = withPoint(then, rule(then));
    return { first, worstThen, n };
  };
  // The one is the best single step, the other the best design in the long run.
  const [step, run] = [follow(least), follow(weakest)];
  const chosen = run.n < step.n ? run : step;
  const worstNow = told(worst(covariance));
  return {
    at: chosen.first.at,
    raw: chosen.first.raw,
    worstNow,
    worstThen: told(chosen.worstThen),
    pointsLeft: worstNow <= goal.goal ? 0 : chosen.n > MOST_POINTS ? null : chosen.n,
  };
}

const varianceAt = (c: readonly (readonly number[])[], by: readonly number[]) =>
  by.reduce((s, a, i) => s + by.reduce((t, b, j) => t + a * c[i]![j]! * b, 0), 0);

/** The covariance with one point more: a step of recursive least squares. */
function withPoint(c: readonly (readonly number[])[], { by, variance }: Place): number[][] {
  const gain = c.map((row) => row.reduce((s, v, j) => s + v * by[j]!, 0));
  const whole = variance + by.reduce((s, v, i) => s + v * gain[i]!, 0);
  return c.map((row, i) => row.map((v, j) => v - (gain[i]! * gain[j]!) / whole));
}

function rawAt(line: CompiledLine, at: number): number {
  try {
    return invertLine(line, at)[0]!;
  } catch (error) {
    if (error instanceof LineError || error instanceof RangeError) return Number.NaN;
    throw error;
  }
}
