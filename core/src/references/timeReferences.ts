import type { ReferenceValue } from '../model/calibration.ts';
import { decimalsFor, printNumber } from '../units/index.ts';

/** Starting and stopping by hand: the scatter of two reactions; their common delay cancels. */
const twoPresses = (reactionS: number) => 2 * Math.SQRT2 * reactionS;

export function stopwatchReference(seconds: number, reactionS: number): ReferenceValue {
  const uncertainty = twoPresses(reactionS);
  return {
    title: 'Stopwatch',
    value: seconds,
    unit: 's',
    uncertainty,
    workings: [
      `Standard deviation of one button press ${reactionS} s; start and stop together √2 × ${reactionS} s, doubled for k = 2: ±${printNumber(uncertainty, 2)} s.`,
      'The constant part of the reaction time cancels if you react to the same kind of sight or sound both times.',
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
    title: `Manual count: ${count} in ${seconds} s`,
    value,
    unit: 'Hz',
    uncertainty,
    workings: [
      `${count} / ${seconds} s = ${printNumber(60 * value, d)} per minute.`,
      `Miscount of ±${doubt} and stopwatch ±${printNumber(twoPresses(reactionS), 2)} s (k = 2): ±${printNumber(60 * uncertainty, d)} per minute.`,
    ],
  };
}

export function crystalReference(seconds: number, ppm: number): ReferenceValue {
  const uncertainty = ((2 / Math.sqrt(3)) * seconds * ppm) / 1e6;
  return {
    title: `Crystal clock, ±${ppm} ppm`,
    value: seconds,
    unit: 's',
    uncertainty,
    workings: [
      `±${ppm} ppm of ${seconds} s, rectangular distribution (÷ √3), doubled for k = 2: ±${printNumber(uncertainty, Math.min(9, decimalsFor(uncertainty)))} s; at most ${printNumber((86400 * ppm) / 1e6, 2)} s per day.`,
    ],
  };
}
