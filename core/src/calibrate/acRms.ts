import { risingCrossings } from './phaseTrim.ts';
import { mean, sampleSd } from '../numerics/index.ts';

export interface AcRms {
  /** Effective values about the middle, in counts, with the standard uncertainty from the scatter between cycles. */
  readonly voltage: { readonly rms: number; readonly u: number };
  readonly current: { readonly rms: number; readonly u: number };
  readonly cycles: number;
}

/**
 * Effective values of two columns of alternating current over whole cycles of the voltage, each about its own mean.
 * @param voltage n samples @param current n samples, both at an even rate
 * @returns the values, or a sentence that says why there are none
 */
export function acRms(voltage: Float64Array, current: Float64Array): AcRms | string {
  const crossings = risingCrossings(voltage);
  const cycles = crossings.length - 1;
  if (cycles < 5)
    return `Only ${Math.max(0, cycles)} whole cycles found; 5 are needed. Keep the generator running and wait a little.`;
  const from = Math.ceil(crossings[0]!);
  const to = Math.floor(crossings.at(-1)!);
  const effective = (x: Float64Array) => {
    const middle = mean(x.subarray(from, to));
    const squares = crossings.slice(1).map((end, k) => {
      const [a, b] = [Math.round(crossings[k]!), Math.round(end)];
      let sum = 0;
      for (let i = a; i < b; i++) sum += (x[i]! - middle) ** 2;
      return sum / (b - a);
    });
    const rms = Math.sqrt(mean(Float64Array.from(squares)));
    // d rms = d(rms^2) / (2 rms).
    return { rms, u: sampleSd(squares) / Math.sqrt(cycles) / (2 * rms || 1) };
  };
  const found = { voltage: effective(voltage), current: effective(current), cycles };
  if (!(found.current.rms > 0)) return 'The current does not change. Switch on a load.';
  return found;
}
