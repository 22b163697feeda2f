/** Samples that the curve goes through on each side. */
const SIDE = 3;

/** How a current that lags its voltage is brought to the same instant. */
export interface CurrentShift {
  /** Samples that are kept, newest last. */
  readonly depth: number;
  /** Which of them is the voltage's: late enough that the shifted current is known by then. */
  readonly at: number;
  /** The current then is that of the samples from here on, by six weights: the polynomial through them (Lagrange). */
  readonly from: number;
  readonly weights: readonly number[];
}

/** @param delayUs of the current's sensor; negative when it leads */
export function currentShift(delayUs: number, sampleRateHz: number): CurrentShift {
  const shift = delayUs * 1e-6 * sampleRateHz;
  const back = Math.ceil(Math.max(0, shift)) + SIDE;
  const ahead = Math.ceil(Math.max(0, -shift)) + SIDE;
  const depth = back + ahead + 1;
  const at = depth - 1 - ahead;
  const k = Math.min(depth - 1 - SIDE, Math.max(SIDE - 1, Math.floor(at + shift)));
  const from = k + 1 - SIDE;
  const x = at + shift - from;
  const nodes = Array.from({ length: 2 * SIDE }, (_, j) => j);
  return {
    depth,
    at,
    from,
    weights: nodes.map((j) => nodes.reduce((w, n) => (n === j ? w : (w * (x - n)) / (j - n)), 1)),
  };
}
