import { fitEllipsoid } from '../ellipsoid.ts';
import { axesFound } from './axes.ts';
import type { GuidedFit } from './guidedFit.ts';

/** Which of the six entries of a symmetric matrix (xx, yy, zz, xy, xz, yz) stands at each of its nine places. */
const ENTRY = [0, 3, 4, 3, 1, 5, 4, 5, 2] as const;

/** Hard and soft iron from readings turned through all directions. */
export const turned: GuidedFit<'cloud'> = {
  id: 'turned',
  title: 'Hard- and soft-iron correction by rotation',
  assumes: 'The iron is fixed to the gadget, and the field around it was the same in every orientation.',
  takes: 'cloud',
  stage: 'vector-correction',
  solve(pieces, stage) {
    const cloud = pieces.flatMap((p) => p.evidence.rows);
    const fit = fitEllipsoid(cloud);
    if (typeof fit === 'string') return fit;
    const at = [0, 1, 2, ...ENTRY.map((e) => 3 + e)];
    const all = cloud.flat();
    const radius = cloud.reduce((s, p) => s + Math.hypot(...corrected(fit, p)), 0) / cloud.length;
    return axesFound(
      fit,
      at.map((i) => at.map((j) => fit.covariance[i]![j]!)),
      {
        degreesOfFreedom: cloud.length - 9,
        birge: 1,
        converged: fit.converged,
        reason: fit.reason,
        residuals: pieces.map((p) => ({ pointId: p.id, after: fit.residualSd, u: fit.residualSd })),
        validRaw: [Math.min(...all), Math.max(...all)],
        validReading: [-radius, radius],
      },
      String(stage.params['to'] ?? 'count'),
    );
  },
};

const corrected = (fit: { offset: number[]; matrix: number[] }, p: readonly number[]) =>
  [0, 1, 2].map((r) => [0, 1, 2].reduce((s, c) => s + fit.matrix[3 * r + c]! * (p[c]! - fit.offset[c]!), 0));
