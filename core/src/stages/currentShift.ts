/** Samples kept on each side for the cubic through four of them. */
const GUARD = 2;

/** How a current that lags its voltage is brought to the same instant. */
export interface CurrentShift {
  /** Samples that are kept, newest last. */
  readonly depth: number;
  /** Which of them is the voltage's: late enough that the shifted current is known by then. */
  readonly at: number;
  /** The current then is that of the samples from here on, by four weights: the cubic through them (Lagrange). */
  readonly from: number;
  readonly weights: readonly number[];
}

/** @param delayUs of the current's sensor; negative when it leads */
export function currentShift(delayUs: number, sampleRateHz: number): CurrentShift {
  const shift = delayUs * 1e-6 * sampleRateHz;
  const back = Math.ceil(Math.max(0, shift)) + GUARD;
  const ahead = Math.ceil(Math.max(0, -shift)) + GUARD;
  const depth = back + ahead + 1;
  const at = depth - 1 - ahead;
  const k = Math.min(depth - 3, Math.max(1, Math.floor(at + shift)));
  const f = at + shift - k;
  return {
    depth,
    at,
    from: k - 1,
    weights: [
      (-f * (f - 1) * (f - 2)) / 6,
      ((f + 1) * (f - 1) * (f - 2)) / 2,
      (-(f + 1) * f * (f - 2)) / 2,
      ((f + 1) * f * (f - 1)) / 6,
    ],
  };
}
