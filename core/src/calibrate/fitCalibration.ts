import { compileLine } from '../line/compile.ts';
import { readerAtRest, readingAtRest, slopeAtRest } from '../line/atRest.ts';
import { lineUncertainty } from '../line/uncertainty.ts';
import type { PrepareContext } from '../stage/contract.ts';
import type { FitResult } from '../model/calibration.ts';
import type { LineEdit, LineSpec } from '../model/line.ts';
import { gaussNewton, type GaussNewtonResult } from '../numerics/index.ts';
import type { FitKind, FitSetUp } from './fits/fitKind.ts';
import { withConstants } from './fits/withConstants.ts';
import type { FitPoint } from './points.ts';
import { gapMisfit } from './gapMisfit.ts';
import { shapeMisfit } from './shapeMisfit.ts';
import { sharingGroups } from './sharedReferences.ts';
import { printSignificant } from '../units/index.ts';
import { widening } from './widening.ts';

/**
 * Trues up a line against points: weighted least squares on the reading, through the line itself.
 * Weights are 1 / u^2 with u from the reference and the captured mean together. The covariance is that of the weights,
 * widened when the points scatter more than they should (Birge, Phys. Rev. 40 (1932) 207), never narrowed. What was stated
 * of the points counts for it too: a few that happen to scatter are no proof against it. And by what references that several points share are wrong by in common (JCGM 100:2008, 5.2.2): that averages away in none.
 * @param line the line as bought, before any calibration
 * @param points the points to fit; check points must be left out by the caller
 * @returns a result; one that did not converge says so. A string says why the fit cannot be tried.
 */
export function fitCalibration(
  kind: FitKind,
  line: LineSpec,
  context: PrepareContext,
  points: readonly FitPoint[],
): FitResult | string {
  const distinct = new Set(points.map((p) => p.raw)).size;
  if (distinct < kind.parameterCount) {
    const missing = kind.parameterCount - distinct;
    return `Needs ${kind.parameterCount} different points; capture ${missing} more.`;
  }
  const attempt = search(kind, line, context, points);
  if (typeof attempt === 'string') return attempt;
  const { setUp, found } = attempt;
  const edits = editsFor(line, setUp, found.parameters);
  const before = compileLine(line, context);
  const after = compileLine(withConstants(setUp, found.parameters), context);
  const n = points.length;
  const p = kind.interpolates ? n : kind.parameterCount;
  const dof = n - p;
  const { factor, degreesOfFreedom: uDegreesOfFreedom } = widening(found.chiSquare, dof);
  // What a reference is wrong by at all its points does not scatter: that they agree says nothing of it.
  const birge = sharingGroups(points).length > 0 ? Math.max(1, factor) : factor;
  const covariance = withShared(
    found.covariance.map((row) => row.map((v) => v * birge ** 2)),
    kind,
    line,
    context,
    points,
    found.parameters,
  );
  const foretold = points.map((point) => leaveOneOut(kind, line, context, points, point, found.parameters));
  const leftOut = foretold.map((f) => f?.error ?? null);
  const known = leftOut.filter((v): v is number => v !== null);
  const uAtPoints = points.map((point) => pointUncertainty(point, slopeAtRest(after, point.raw)));
  const raws = points.map((point) => point.raw);
  const references = points.map((point) => point.reference);
  return {
    fit: kind.id,
    title: kind.title,
    parameters: setUp.targets.map((target, i) => ({
      stageId: target.stageId,
      param: target.param,
      title: target.title,
      unit: target.unit,
      before: target.before,
      value: found.parameters[i]!,
      u: finiteOr(Math.sqrt(covariance[i]![i]!), 0),
    })),
    covariance: covariance.map((row) => row.map((v) => finiteOr(v, 0))),
    edits,
    residuals: points.map((point, i) => ({
      pointId: point.id,
      before: finiteOrNull(readingAtRest(before, point.raw) - point.reference),
      after: finiteOrNull(readingAtRest(after, point.raw) - point.reference),
      u: uAtPoints[i]!,
      leftOut: leftOut[i]!,
    })),
    // The outermost points of a curve through points cannot be foretold from the others.
    leaveOneOutRms:
      known.length >= (kind.interpolates ? Math.max(1, n - 2) : n)
        ? Math.sqrt(known.reduce((s, v) => s + v * v, 0) / known.length)
        : null,
    // Known variances: the likelihood is chi-square, so AICc = chi^2 + 2p + 2p(p+1)/(n-p-1) (Hurvich and Tsai 1989).
    aicc: n - p - 1 > 0 ? finiteOrNull(found.chiSquare + 2 * p + (2 * p * (p + 1)) / (n - p - 1)) : null,
    chiSquare: finiteOrNull(found.chiSquare),
    degreesOfFreedom: dof,
    birge,
    ...(birge > 1 && { uDegreesOfFreedom }),
    misfit: !found.converged
      ? null
      : kind.missesGrow !== undefined
        ? gapMisfit(
            foretold.map((f, i) => f && { error: f.error, u: Math.hypot(f.u, uAtPoints[i]!) }),
            kind.missesGrow,
          )
        : shapeMisfit(
            {
              lineWith: (parameters) => withConstants(setUp, parameters),
              parameters: found.parameters,
              scales: setUp.targets.map((target) => target.scale),
            },
            context,
            points,
            uAtPoints,
          ),
    converged: found.converged,
    reason:
      dof === 0 && found.converged
        ? `passes through all ${n} points, so there is no remaining error to judge it by`
        : found.reason,
    validRaw: [Math.min(...raws), Math.max(...raws)],
    validReading: [Math.min(...references), Math.max(...references)],
  };
}

function pointUncertainty(point: FitPoint, slope: number): number {
  return Math.hypot(point.uReference, (Number.isFinite(slope) ? slope : 0) * point.uRaw);
}

function search(
  kind: FitKind,
  line: LineSpec,
  context: PrepareContext,
  points: readonly FitPoint[],
  {
    reach = points,
    from,
  }: {
    reach?: readonly FitPoint[];
    /** Constants that nearly the same points were found to have, to begin at. */
    from?: readonly number[];
  } = {},
): { setUp: FitSetUp; found: GaussNewtonResult } | string {
  const setUp = kind.setUp(line, context, points, reach);
  if (typeof setUp === 'string') return setUp;
  const start = compileLine(setUp.line, context);
  const u = points.map((point) => pointUncertainty(point, slopeAtRest(start, point.raw)));
  if (u.some((v) => !(v > 0)))
    return 'A point has zero uncertainty, so it would override all others. Enter an uncertainty for its reference.';
  if (kind.solve) {
    const lost = points.find((p) => !Number.isFinite(readingAtRest(start, p.raw)));
    if (lost)
      return `The line gives no reading for raw ${printSignificant(lost.raw, 4)}. Exclude that point.`;
    return { setUp, found: kind.solve(setUp, context, points) };
  }
  const found = gaussNewton({
    start: from?.length === setUp.targets.length ? from : setUp.targets.map((t) => t.start),
    scale: setUp.targets.map((t) => t.scale),
    residuals(theta) {
      try {
        const trial = compileLine(withConstants(setUp, theta), context);
        const read = readerAtRest(trial);
        return points.map((point, i) => (point.reference - read(point.raw)) / u[i]!);
      } catch (error) {
        // A step outside a parameter's limits is no solution; the search halves it.
        if (error instanceof RangeError) return points.map(() => Number.POSITIVE_INFINITY);
        throw error;
      }
    },
  });
  return { setUp, found };
}

/**
 * Adds what shared references do in common: the constants found with all of a group moved together, less those with each of
 * it moved by itself, which the weights have counted as if they were independent.
 */
function withShared(
  covariance: number[][],
  kind: FitKind,
  line: LineSpec,
  context: PrepareContext,
  points: readonly FitPoint[],
  found: readonly number[],
): number[][] {
  /** Change of the constants when the references of some points are off by their standard uncertainty. */
  const moved = (some: readonly FitPoint[]): number[] | null => {
    const shifted = points.map((p) =>
      some.includes(p) ? { ...p, reference: p.reference + p.uReference } : p,
    );
    const attempt = search(kind, line, context, shifted, { from: found });
    if (typeof attempt === 'string' || attempt.found.parameters.length !== found.length) return null;
    return attempt.found.parameters.map((v, i) => v - found[i]!);
  };
  const add = (change: readonly number[], sign: number) =>
    change.forEach((a, i) => change.forEach((b, j) => (covariance[i]![j]! += sign * a * b)));
  for (const group of sharingGroups(points)) {
    const together = moved(group);
    const each = group.map((p) => moved([p]));
    if (!together || each.includes(null)) continue;
    const before = covariance.map((row) => [...row]);
    add(together, 1);
    each.forEach((change) => add(change!, -1));
    // Where they cancel in common, such as an offset in a gain, what the weights tell stays: nothing is known better by it.
    if (covariance.some((row, i) => !(row[i]! >= before[i]![i]!))) covariance = before;
  }
  return covariance;
}

interface Foretold {
  readonly error: number;
  /** Standard uncertainty of what the others foretell, without that of the point itself; of curves through points only. */
  readonly u: number;
}

/** A point as the fit to the others foretells it; null when too few others are left. */
function leaveOneOut(
  kind: FitKind,
  line: LineSpec,
  context: PrepareContext,
  points: readonly FitPoint[],
  point: FitPoint,
  /** Constants by all points. */
  whole: readonly number[],
): Foretold | null {
  const others = points.filter((p) => p !== point);
  if (new Set(others.map((p) => p.raw)).size < kind.parameterCount) return null;
  const attempt = search(kind, line, context, others, { reach: points, from: whole });
  if (typeof attempt === 'string' || !attempt.found.converged) return null;
  const { setUp, found } = attempt;
  const trial = compileLine(withConstants(setUp, found.parameters), context);
  const error = readingAtRest(trial, point.raw) - point.reference;
  if (!Number.isFinite(error)) return null;
  const constants = {
    parameters: setUp.targets,
    covariance: found.covariance,
    validRaw: [-Infinity, Infinity] as const,
    leftOver: 0,
  };
  return {
    error,
    u: kind.interpolates ? lineUncertainty(trial, point.raw, 0, constants).at(-1)!.systematic : 0,
  };
}

/** The changes to the given line: whole parameters of a stage that was replaced, only the fitted ones of another. */
function editsFor(line: LineSpec, setUp: FitSetUp, values: readonly number[]): LineEdit[] {
  const fitted = withConstants(setUp, values);
  return [...new Set(setUp.targets.map((target) => target.stageId))].map((stageId) => {
    const stage = fitted.stages.find((s) => s.id === stageId)!;
    const replaced = line.stages.find((s) => s.id === stageId)?.kind !== stage.kind;
    const names = setUp.targets.filter((t) => t.stageId === stageId).map((t) => t.param.split('.')[0]!);
    const params = replaced
      ? stage.params
      : Object.fromEntries(Object.entries(stage.params).filter(([name]) => names.includes(name)));
    return { stageId, kind: stage.kind, params: { ...params } };
  });
}

function finiteOr(value: number, fallback: number): number {
  return Number.isFinite(value) ? value : fallback;
}

function finiteOrNull(value: number): number | null {
  return Number.isFinite(value) ? value : null;
}
