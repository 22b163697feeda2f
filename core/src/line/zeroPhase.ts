import {
  REASON,
  type LaneData,
  type PrepareContext,
  type StageKind,
  type StageParams,
} from '../stage/contract.ts';

/**
 * The smoothing of a filter stage without its delay, on a recorded column. Each run of good samples is filtered by itself;
 * one too short for the filter is left bad, with the reason "waiting for enough readings".
 * @throws {RangeError} when the kind has no form without delay
 */
export function zeroPhaseLane(
  kind: StageKind,
  params: StageParams,
  context: PrepareContext,
  lane: LaneData,
): LaneData {
  const { zeroPhase } = kind;
  if (!zeroPhase)
    throw new RangeError(
      `${kind.title} has no zero-delay form. Use a Butterworth, moving mean, median or smoothing polynomial filter.`,
    );
  const n = lane.values.length;
  const values = new Float64Array(n).fill(Number.NaN);
  const reasons = lane.reasons.slice();
  let i = 0;
  while (i < n) {
    const start = i;
    while (i < n && reasons[i] === REASON.ok) i++;
    if (i > start) {
      try {
        values.set(zeroPhase(params, context, lane.values.slice(start, i)), start);
      } catch (error) {
        if (!(error instanceof RangeError) || i - start === n) throw error;
        reasons.fill(REASON.waiting, start, i);
      }
    }
    while (i < n && reasons[i] !== REASON.ok) i++;
  }
  return { values, reasons };
}
