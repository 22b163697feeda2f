import { slopeAtRest, valuesAtRest } from '../../line/atRest.ts';
import { compileLine } from '../../line/compile.ts';
import { lineWithBothErrors } from '../../numerics/index.ts';
import { CORRECTION, correctionOf } from './correction.ts';
import type { FitKind } from './fitKind.ts';

/** A straight line that counts the uncertainty of the reading as well as of the reference. */
export const lineBothAxes: FitKind = {
  id: 'line-both-axes',
  title: 'Line, errors in both axes',
  assumes:
    'Like gain and offset, but allows for uncertain readings too. Choose it when the readings scatter as much as the references.',
  parameterCount: 2,
  needs: CORRECTION,
  setUp(line, context, points) {
    if (points.length < 3) return `Needs 3 points; capture ${3 - points.length} more.`;
    const correction = correctionOf(line, context, points);
    return typeof correction === 'string'
      ? correction
      : { line, targets: [correction.gain, correction.offset] };
  },
  solve({ line, targets }, context, points) {
    const compiled = compileLine(line, context);
    const at = compiled.stages.findIndex((s) => s.spec.id === targets[0]!.stageId);
    const before = compileLine({ ...line, stages: compiled.stages.slice(0, at).map((s) => s.spec) }, context);
    const shown = points.map((p) => valuesAtRest(before, p.raw).at(-1)!);
    const uShown = points.map((p) => Math.abs(slopeAtRest(before, p.raw)) * p.uRaw);
    const fit = lineWithBothErrors(
      shown,
      points.map((p) => p.reference),
      uShown,
      points.map((p) => p.uReference),
    );
    return {
      parameters: [fit.slope, fit.intercept],
      covariance: [
        [fit.slopeSd ** 2, fit.covariance],
        [fit.covariance, fit.interceptSd ** 2],
      ],
      chiSquare: fit.chiSquareReduced * (points.length - 2),
      converged: fit.converged,
      iterations: fit.iterations,
      reason: fit.converged ? `converged in ${fit.iterations} steps` : 'the slope did not converge',
    };
  },
};
