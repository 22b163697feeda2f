import type { ReferenceValue } from '../model/calibration.ts';
import { decimalsFor, printNumber } from '../units/index.ts';

/** Starting and stopping by hand: the scatter of two reactions; their common delay cancels. */
const twoPresses = (reactionS: number) => 2 * Math.SQRT2 * reactionS;

export function stopwatchReference(seconds: number, reactionS: number): ReferenceValue {
  const uncertainty = twoPresses(reactionS);
  return {
    title: 'Stopwatch by hand',
    value: seconds,
    unit: 's',
    uncertainty,
    workings: [
      `Each press scatters by ${reactionS} s (standard); start and stop together: √2 × ${reactionS} s, doubled for k = 2: ±${printNumber(uncertainty, 2)} s.`,
      'The common part of the reaction cancels as long as both are pressed on the same kind of sight or sound.',
    ],
  };
}

export function tallyReference(
  count: number,
  doubt: number,
  seconds: number,
  reactionS: number,
): ReferenceValue {
  const value = count / seconds;
  const uncertainty = value * Math.hypot((2 * doubt) / Math.sqrt(3) / count, twoPresses(reactionS) / seconds);
  const d = decimalsFor(60 * uncertainty);
  return {
    title: `Counted by hand: ${count} in ${seconds} s`,
    value,
    unit: 'Hz',
    uncertainty,
    workings: [
      `${count} / ${seconds} s = ${printNumber(60 * value, d)} a minute.`,
      `Miscounting by ${doubt} and pressing within ${printNumber(twoPresses(reactionS), 2)} s (k = 2): ±${printNumber(60 * uncertainty, d)} a minute.`,
    ],
  };
}

export function crystalReference(seconds: number, ppm: number): ReferenceValue {
  const uncertainty = ((2 / Math.sqrt(3)) * seconds * ppm) / 1e6;
  return {
    title: `Clock with a crystal of ±${ppm} ppm`,
    value: seconds,
    unit: 's',
    uncertainty,
    workings: [
      `±${ppm} ppm of ${seconds} s, evenly spread (÷ √3), doubled for k = 2: ±${printNumber(uncertainty, Math.min(9, decimalsFor(uncertainty)))} s, or ${printNumber((86400 * ppm) / 1e6, 2)} s a day at the limit.`,
    ],
  };
}
