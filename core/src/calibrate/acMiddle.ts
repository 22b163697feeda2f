import { sampleSd } from '../numerics/index.ts';
import { risingCrossings } from './phaseTrim.ts';

export interface AcMiddle {
  /** What each column reads in the middle of its swing, in its own counts. */
  readonly voltage: number;
  readonly current: number;
  /** Standard uncertainties, from the scatter between cycles. */
  readonly uVoltage: number;
  readonly uCurrent: number;
  /** Whole cycles of the voltage that it is the mean of. */
  readonly cycles: number;
}

/**
 * Where two columns of alternating current rest: their means over whole cycles of the voltage, so that no part of a swing
 * weighs twice.
 * @param voltage n samples @param current n samples, both at an even rate
 * @returns the middles, or a sentence that says why there are none
 */
export function acMiddle(voltage: Float64Array, current: Float64Array): AcMiddle | string {
  const crossings = risingCrossings(voltage);
  const cycles = crossings.length - 1;
  if (cycles < 5)
    return `Only ${Math.max(0, cycles)} whole cycles found; 5 are needed. Keep the generator running and wait a little.`;
  const [from, to] = [crossings[0]!, crossings.at(-1)!];
  const scatter = (x: Float64Array) =>
    sampleSd(crossings.slice(1).map((end, k) => meanBetween(x, crossings[k]!, end))) / Math.sqrt(cycles);
  return {
    voltage: meanBetween(voltage, from, to),
    current: meanBetween(current, from, to),
    uVoltage: scatter(voltage),
    uCurrent: scatter(current),
    cycles,
  };
}

/** Mean of the straight lines between samples over a stretch that begins and ends between samples. */
function meanBetween(x: Float64Array, from: number, to: number): number {
  const at = (t: number) => {
    const k = Math.min(x.length - 2, Math.floor(t));
    return x[k]! + (t - k) * (x[k + 1]! - x[k]!);
  };
  const [first, last] = [Math.ceil(from), Math.floor(to)];
  let area = ((first - from) * (at(from) + x[first]!)) / 2 + ((to - last) * (x[last]! + at(to))) / 2;
  for (let k = first; k < last; k++) area += (x[k]! + x[k + 1]!) / 2;
  return area / (to - from);
}
