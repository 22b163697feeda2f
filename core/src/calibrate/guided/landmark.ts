import type { GuidedFit } from './guidedFit.ts';
import { sharedMean } from './weightedMean.ts';

/** Difference of two courses the short way round, -180 to 180 degrees. */
export const turnBetween = (from: number, to: number): number => ((((to - from) % 360) + 540) % 360) - 180;

/** How far the gadget's own front lies off the sensor's, with the declination, from courses along known bearings. */
export const landmark: GuidedFit<'bearing'> = {
  id: 'landmark',
  title: 'Mounting angle from known bearings',
  assumes: 'Hard and soft iron are already corrected; what remains is the same rotation in every direction.',
  takes: 'bearing',
  stage: 'heading',
  solve(pieces, stage) {
    if (pieces.length === 0)
      return 'No bearing captured yet. Point the gadget along a known bearing and capture it.';
    const before = Number(stage.params['mountingDeg']);
    const each = pieces.map(({ evidence: e }) => ({
      turn: turnBetween(e.shownDeg, e.referenceDeg),
      uOwn: e.uShownDeg,
      uReference: e.uncertaintyDeg / 2,
    }));
    // As turns from the first one, so that a turn about 180 degrees has a mean as well.
    const first = each[0]!.turn;
    const mean = sharedMean(each.map((e) => ({ ...e, value: turnBetween(first, e.turn) })));
    const turn = first + mean.value;
    const left = each.map((e) => turnBetween(turn, e.turn));
    const value = turnBetween(0, before + turn);
    return {
      params: { mountingDeg: value },
      parameters: [{ param: 'mountingDeg', title: 'Mounting angle', unit: '°', value }],
      covariance: [[mean.u ** 2]],
      degreesOfFreedom: pieces.length - 1,
      birge: mean.birge,
      converged: true,
      reason: `weighted mean of ${pieces.length} bearing${pieces.length > 1 ? 's' : ''}`,
      residuals: pieces.map((p, i) => ({
        pointId: p.id,
        after: 0 - left[i]!,
        u: Math.hypot(each[i]!.uOwn, each[i]!.uReference),
      })),
      validRaw: [0, 0],
      validReading: [0, 360],
    };
  },
};
