export interface FilterTraits {
  /** Mean delay of a slow signal, s: the centroid of the impulse response, or of its energy where the filter passes nothing at rest. */
  readonly delayS: number;
  /** Time until a step stays within 1 % of its end, s. */
  readonly settlingS: number;
  /** Standard deviation out over standard deviation in, for independent noise on each sample. */
  readonly noiseGain: number;
  /** Step response at each sample from the step on. */
  readonly step: { readonly timesS: Float64Array; readonly values: Float64Array };
}

/** Settling and the part of a step response worth drawing. */
export function stepTraits(step: Float64Array, dt: number): Pick<FilterTraits, 'settlingS' | 'step'> {
  const end = step[step.length - 1]!;
  const size = step.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  let settled = step.length - 1;
  while (settled > 0 && Math.abs(step[settled - 1]! - end) <= 0.01 * size) settled--;
  const shown = Math.min(step.length, Math.max(10, Math.ceil(settled * 1.3) + 2));
  return {
    settlingS: settled * dt,
    step: { timesS: Float64Array.from({ length: shown }, (_, k) => k * dt), values: step.slice(0, shown) },
  };
}
