import type { GuidedFit } from './guidedFit.ts';

/** Difference of two courses the short way round, -180 to 180 degrees. */
export const turnBetween = (from: number, to: number): number => ((((to - from) % 360) + 540) % 360) - 180;

/** How far the gadget's own front lies off the sensor's, with the declination, from courses along known bearings. */
export const landmark: GuidedFit<'bearing'> = {
  id: 'landmark',
  title: 'Mounting by a landmark',
  assumes: 'The iron is taken out already; what is left is the same turn in every direction.',
  takes: 'bearing',
  stage: 'heading',
  solve(pieces, stage) {
    if (pieces.length === 0) return 'No bearing kept yet. Point it along a known course, and keep that.';
    const before = Number(stage.params['mountingDeg']);
    const each = pieces.map(({ evidence: e }) => ({
      turn: turnBetween(e.shownDeg, e.referenceDeg),
      u: Math.hypot(e.uShownDeg, e.uncertaintyDeg / 2),
    }));
    const weights = each.map((e) => 1 / e.u ** 2);
    const total = weights.reduce((a, b) => a + b, 0);
    // As turns from the first one, so that a turn about 180 degrees has a mean as well.
    const off = each.map((e) => turnBetween(each[0]!.turn, e.turn));
    const turn = each[0]!.turn + off.reduce((s, v, i) => s + v * weights[i]!, 0) / total;
    const left = each.map((e) => turnBetween(turn, e.turn));
    const dof = pieces.length - 1;
    const chi = each.reduce((s, e, i) => s + (left[i]! / e.u) ** 2, 0);
    const birge = dof > 0 ? Math.max(1, Math.sqrt(chi / dof)) : 1;
    const value = turnBetween(0, before + turn);
    return {
      params: { mountingDeg: value },
      parameters: [{ param: 'mountingDeg', title: 'Mounting', unit: '°', value }],
      covariance: [[birge ** 2 / total]],
      degreesOfFreedom: dof,
      birge,
      converged: true,
      reason: `is the weighted mean of ${pieces.length} bearing${pieces.length > 1 ? 's' : ''}`,
      residuals: pieces.map((p, i) => ({ pointId: p.id, after: 0 - left[i]!, u: each[i]!.u })),
      validRaw: [0, 0],
      validReading: [0, 360],
    };
  },
};
