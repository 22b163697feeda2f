import { FITS, nextPoint, type FitKind, type FitPoint, type NextPoint } from '@lucky-needle/core/calibrate';
import type { FitResult, LineSpec } from '@lucky-needle/core/model';

/** What the constants may leave open of the tolerance: the rest is for noise, references and drift. */
const SHARE = 0.5;
/** A reference that nobody has kept yet is taken to be good to a tenth of the tolerance, as is wanted of one. */
const USUAL_REFERENCE = 0.1;
/** Share of the range below which a reference is a zero. */
const NOTHING = 0.02;
/** Raw noise while nothing was captured yet. */
const USUAL_RAW = 0.3;

const middle = (values: readonly number[]) => values.toSorted((a, b) => a - b)[values.length >> 1];

/** The next best point of the fit in hand, or of the one that the maker is heading for; null where there is nothing to tell. */
export function nextPointOf(
  fitId: string,
  line: LineSpec,
  context: { readonly sampleRateHz: number },
  points: readonly FitPoint[],
  selected: FitResult | null,
  range: readonly [low: number, high: number] | null,
  tolerance: number | null,
): { readonly told: NextPoint; readonly goal: number; readonly kind: FitKind } | null {
  const kind = FITS.find((f) => f.id === fitId);
  if (!kind || !range || tolerance === null) return null;
  const goal = SHARE * tolerance;
  // A zero is known better than anything that is put there.
  const loaded = points.filter((p) => Math.abs(p.reference) > NOTHING * (range[1] - range[0]));
  const told = nextPoint(kind, line, context, points, selected?.parameters.map((p) => p.value) ?? null, {
    low: range[0],
    high: range[1],
    goal,
    uReference: middle(loaded.map((p) => p.uReference)) ?? (USUAL_REFERENCE * tolerance) / 2,
    uRaw: middle(points.map((p) => p.uRaw)) ?? USUAL_RAW,
    birge: selected?.birge ?? 1,
  });
  return told && { told, goal, kind };
}
