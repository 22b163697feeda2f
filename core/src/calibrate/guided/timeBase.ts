import type { GuidedFit, Piece } from './guidedFit.ts';
import { sharedMean } from './weightedMean.ts';

type Rate = Piece<'rate'>['evidence'];

/** Reference over reading at one comparison, with its standard uncertainty. */
export function rateRatio(e: Rate): { value: number; u: number } {
  const value = e.referenceHz / e.readingHz;
  return { value, u: value * Math.hypot(e.uncertaintyHz / 2 / e.referenceHz, e.uReadingHz / e.readingHz) };
}

/** A count that is off by a whole share tells of marks or double edges, not of a clock; null where nothing of the kind fits. */
export function miscount(e: Rate): string | null {
  const { value, u } = rateRatio(e);
  const shares: readonly (readonly [number, string])[] = [
    [
      1 / 2,
      'Everything is counted twice: the sensor triggers on both edges of a mark, or the number of marks is set to half the actual number.',
    ],
    [
      2,
      'Half of the marks are missed: the sensor misses every second mark, or the number of marks is set to twice the actual number.',
    ],
    [1 / 3, 'Everything is counted three times. Correct the number of marks.'],
    [3, 'Two out of three marks are missed. Correct the number of marks.'],
    [3 / 4, 'The number of marks is set too low: there are four for every three set.'],
    [4 / 3, 'One mark in four is missed, or the number of marks is set too high.'],
  ];
  const near = shares.find(([share]) => Math.abs(value - share) < Math.max(3 * u, 0.02 * share));
  return near ? near[1] : null;
}

/** The gain that brings a rate to a reference, from comparisons over a stretch: the gadget's time base, or its gate. */
export const timeBase: GuidedFit<'rate'> = {
  id: 'time-base',
  title: 'Time base',
  assumes: 'Nothing is missed or counted twice; only the gadget’s clock runs fast or slow.',
  takes: 'rate',
  stage: 'gain-offset',
  solve(pieces) {
    if (pieces.length === 0) return 'No comparison saved yet.';
    const wrong = pieces.map((p) => miscount(p.evidence)).find((m) => m !== null);
    if (wrong) return `${wrong} The time base cannot be corrected from this.`;
    const {
      value: gain,
      u,
      birge,
    } = sharedMean(
      pieces.map(({ evidence: e }) => {
        const { value } = rateRatio(e);
        return {
          value,
          uOwn: (value * e.uReadingHz) / e.readingHz,
          uReference: (value * e.uncertaintyHz) / 2 / e.referenceHz,
        };
      }),
    );
    const rates = pieces.map((p) => p.evidence.referenceHz);
    return {
      params: { gain, offset: 0 },
      parameters: [{ param: 'gain', title: 'Gain', unit: '', value: gain }],
      covariance: [[u ** 2]],
      degreesOfFreedom: pieces.length - 1,
      birge,
      converged: true,
      reason: `weighted mean of ${pieces.length} comparison${pieces.length > 1 ? 's' : ''}`,
      residuals: pieces.map((p) => ({
        pointId: p.id,
        after: p.evidence.readingHz * gain - p.evidence.referenceHz,
        u: p.evidence.uncertaintyHz / 2,
      })),
      validRaw: [0, 0],
      validReading: [Math.min(...rates), Math.max(...rates)],
    };
  },
};
