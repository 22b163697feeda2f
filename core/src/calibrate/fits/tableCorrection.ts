import { slopeAtRest, valuesAtRest } from '../../line/atRest.ts';
import { compileLine } from '../../line/compile.ts';
import type { InterpolantKind } from '../../numerics/index.ts';
import { BEYOND, CORRECTION, correctionOf } from './correction.ts';
import type { FitKind } from './fitKind.ts';

/** Replaces the straight correction by a curve through every point. */
function tableCorrection(method: InterpolantKind, title: string, assumes: string, least: number): FitKind {
  return {
    id: `table-${method}`,
    title,
    assumes,
    parameterCount: least,
    interpolates: true,
    // Twofold at a kink, fourfold at a smooth bend; one polynomial through all needs each of its points.
    missesGrow: method === 'lagrange' ? 8 : 3,
    needs: CORRECTION,
    setUp(line, context, points, reach) {
      const correction = correctionOf(line, context, points);
      if (typeof correction === 'string') return correction;
      const { stage, unit } = correction;
      const compiled = compileLine(line, context);
      const at = compiled.stages.findIndex((s) => s.spec.id === stage.id);
      const pairs = points
        .map((p) => ({ x: valuesAtRest(compiled, p.raw)[at]!, y: p.reference }))
        .sort((a, b) => a.x - b.x);
      if (pairs.some((p, i) => !Number.isFinite(p.x) || (i > 0 && p.x === pairs[i - 1]!.x)))
        return 'Two points have the same reading, and no curve can pass through both. Exclude one.';
      const wide = reach.map((p) => valuesAtRest(compiled, p.raw)[at]!).filter(Number.isFinite);
      const margin = BEYOND * (Math.max(...wide) - Math.min(...wide));
      const params = {
        xs: pairs.map((p) => p.x),
        ys: pairs.map((p) => p.y),
        method,
        beyond: 'go on',
        low: Math.min(...wide) - margin,
        high: Math.max(...wide) + margin,
        to: unit,
      };
      return {
        line: {
          ...line,
          stages: line.stages.map((s) =>
            s.id === stage.id ? { ...s, kind: 'table', params, uncertainty: {} } : s,
          ),
        },
        targets: pairs.map((p, k) => ({
          stageId: stage.id,
          param: `ys.${k}`,
          title: `Reference value at ${Number(p.x.toPrecision(4))}`,
          unit: '',
          before: null,
          start: p.y,
          scale: 1,
        })),
      };
    },
    solve({ line, targets }, context, points) {
      const compiled = compileLine(line, context);
      const u = points
        .map((p) => ({
          raw: p.raw,
          y: p.reference,
          u: Math.hypot(p.uReference, slopeAtRest(compiled, p.raw) * p.uRaw),
        }))
        .sort((a, b) => a.y - b.y || a.raw - b.raw);
      const ofTarget = targets.map((t) => u.find((p) => p.y === t.start)?.u ?? Number.NaN);
      return {
        parameters: targets.map((t) => t.start),
        covariance: targets.map((_, i) => targets.map((__, j) => (i === j ? ofTarget[i]! ** 2 : 0))),
        chiSquare: 0,
        converged: true,
        iterations: 0,
        reason: 'passes through every point',
      };
    },
  };
}

export const tableLinear = tableCorrection(
  'linear',
  'Table, linear segments',
  'The error changes linearly between neighbouring points. Every point is taken as exact.',
  2,
);
export const tablePchip = tableCorrection(
  'pchip',
  'Table, shape-preserving (PCHIP)',
  'A smooth curve through every point that never overshoots. Every point is taken as exact.',
  3,
);
export const tableNatural = tableCorrection(
  'natural-cubic',
  'Table, natural cubic spline',
  'The smoothest curve through every point; it may overshoot a little between them.',
  3,
);
export const tableLagrange = tableCorrection(
  'lagrange',
  'Table, single polynomial',
  'One polynomial through every point. With more than a few points it swings wildly between them: for comparison only, do not use it.',
  3,
);
