import { fitSixPosition } from '../sixPosition.ts';
import { axesFound } from './axes.ts';
import type { GuidedFit } from './guidedFit.ts';

/** Offset, scale and crosstalk of three axes from gravity in six rests. */
export const sixRests: GuidedFit<'rest'> = {
  id: 'six-rests',
  title: 'Six positions',
  assumes:
    'Each side lies level and nothing moves, so gravity is 1 g along one axis and 0 along the other two.',
  takes: 'rest',
  stage: 'vector-correction',
  solve(pieces) {
    const fit = fitSixPosition(
      pieces.map((p) => ({ raw: p.evidence.raw, u: p.evidence.u })),
      1,
    );
    if (typeof fit === 'string') return fit;
    const u = pieces.map((p) => p.evidence.u * Math.hypot(...fit.matrix.slice(0, 3)));
    const all = pieces.flatMap((p) => p.evidence.raw);
    return axesFound(
      fit,
      fit.spread.covariance,
      {
        degreesOfFreedom: 3 * pieces.length - 12,
        birge: fit.spread.birge,
        ...(Number.isFinite(fit.spread.degreesOfFreedom) && {
          uDegreesOfFreedom: fit.spread.degreesOfFreedom,
        }),
        converged: fit.converged,
        reason: fit.reason,
        residuals: pieces.map((p, i) => ({ pointId: p.id, after: fit.residuals[i]!, u: u[i]! })),
        validRaw: [Math.min(...all), Math.max(...all)],
        validReading: [-1, 1],
      },
      'gn',
    );
  },
};
