import type { GuidedFit, Piece } from './guidedFit.ts';
import { weightedMean } from './weightedMean.ts';

type Drag = Piece<'drag'>['evidence'];

export interface DragMean {
  /** Counts a millimetre. */
  readonly value: number;
  /** Standard uncertainty with the rule's own share. */
  readonly u: number;
  readonly birge: number;
  readonly n: number;
  /** Forwards less backwards in per cent, with its expanded uncertainty; null without drags both ways. */
  readonly directions: { readonly percent: number; readonly uncertainty: number } | null;
}

/** The axis that a drag went along, by the larger count: 0 for x, 1 for y. */
export const dragAxis = ({ counts: [x, y] }: Drag): 0 | 1 => (Math.abs(x) >= Math.abs(y) ? 0 : 1);
export const dragSign = (drag: Drag): 1 | -1 => (drag.counts[dragAxis(drag)] < 0 ? -1 : 1);

/**
 * Counts a millimetre along an axis from drags along a rule: the mean weighted by 1/u^2, where setting the ends and rounding
 * to codes are new each time; the rule's own error is the same in all and joins once. Widened by the Birge ratio.
 * @returns null without a drag along that axis
 */
export function dragMean(drags: readonly Drag[], axis: 0 | 1): DragMean | null {
  const own = drags.filter((d) => dragAxis(d) === axis);
  if (own.length === 0) return null;
  const each = own.map((d) => {
    const value = Math.abs(d.counts[axis]) / d.lengthMm;
    // Limits to standard uncertainties: rectangles. Two ends are set; both ends are rounded to a code.
    const ends = (Math.SQRT2 * d.placementMm) / Math.sqrt(3) / d.lengthMm;
    const codes = 1 / Math.sqrt(6) / Math.max(1, Math.abs(d.counts[axis]));
    return { value, u: value * Math.hypot(ends, codes), sign: dragSign(d) };
  });
  const all = weightedMean(each);
  const rule = Math.max(...own.map((d) => d.toleranceMm / Math.sqrt(3) / d.lengthMm)) * all.value;
  const ways = [1, -1].map((sign) => each.filter((e) => e.sign === sign));
  const both = ways.every((w) => w.length > 0);
  const [there, back] = ways.map((w) => (both ? weightedMean(w) : all));
  return {
    value: all.value,
    u: Math.hypot(all.u, rule),
    birge: all.birge,
    n: own.length,
    directions: both
      ? {
          percent: (100 * (there!.value - back!.value)) / all.value,
          uncertainty: (200 * Math.hypot(there!.u, back!.u)) / all.value,
        }
      : null,
  };
}

/**
 * Which drags lost counts: slipping cloth and speeds beyond what it can see only ever take counts away, so each is held
 * against the best of its axis and direction. True where it lacks more than setting the ends of both can explain.
 */
export function shortDrags(drags: readonly Drag[]): boolean[] {
  const perMm = (d: Drag) => Math.abs(d.counts[dragAxis(d)]) / d.lengthMm;
  return drags.map((d) => {
    const best = drags
      .filter((o) => dragAxis(o) === dragAxis(d) && dragSign(o) === dragSign(d))
      .reduce((a, b) => (perMm(b) > perMm(a) ? b : a));
    // Two ends each, and a code at each end, as limits.
    const allowed = [d, best].reduce((s, o) => s + (2 * o.placementMm + 1 / perMm(best)) / o.lengthMm, 0);
    return 1 - perMm(d) / perMm(best) > allowed;
  });
}

/** Counts a millimetre of an image-shift sensor from drags along a steel rule. */
export const drags: GuidedFit<'drag'> = {
  id: 'drags',
  title: 'Counts per millimetre, from drags',
  assumes: 'The surface did not slip under the sensor, and no drag was too fast for it to track.',
  takes: 'drag',
  stage: 'counts-to-length',
  solve(pieces, stage) {
    const all = pieces.map((p) => p.evidence);
    const mode = String(stage.params['mode']);
    const means = [dragMean(all, 0), dragMean(all, 1)] as const;
    const needed = mode === 'along x' ? [0] : mode === 'along y' ? [1] : [0, 1];
    const missing = needed.filter((k) => means[k as 0 | 1] === null).map((k) => 'xy'[k]);
    if (missing.length > 0)
      return `Needs a drag along ${missing.join(' and ')}: the line measures ${mode === 'path' || mode === 'net' ? 'in both directions' : mode}.`;
    const found = means.flatMap((m, k) =>
      m === null
        ? []
        : [
            {
              param: k === 0 ? 'perMmX' : 'perMmY',
              title: `Counts per millimetre, ${'xy'[k]}`,
              unit: '1/mm',
              ...m,
            },
          ],
    );
    const lengths = all.map((d) => d.lengthMm);
    return {
      params: Object.fromEntries(found.map((f) => [f.param, f.value])),
      parameters: found.map(({ param, title, unit, value }) => ({ param, title, unit, value })),
      covariance: found.map((f, i) => found.map((_, j) => (i === j ? f.u ** 2 : 0))),
      degreesOfFreedom: pieces.length - found.length,
      birge: Math.max(...found.map((f) => f.birge)),
      converged: true,
      reason: `weighted mean of ${pieces.length} drags`,
      residuals: pieces.map(({ id, evidence }) => {
        const mean = means[dragAxis(evidence)]!;
        return {
          pointId: id,
          after: Math.abs(evidence.counts[dragAxis(evidence)]) / mean.value - evidence.lengthMm,
          u: (evidence.lengthMm * mean.u) / mean.value,
        };
      }),
      validRaw: [0, 0],
      validReading: [0, Math.max(...lengths)],
    };
  },
};
