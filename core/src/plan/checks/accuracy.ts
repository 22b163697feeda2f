import { compileLine } from '../../line/compile.ts';
import { invertLine } from '../../line/invert.ts';
import { lineUncertainty } from '../../line/uncertainty.ts';
import type { BoardPart, ConverterPart, SensorPart } from '../../model/part.ts';
import type { ChannelBrief } from '../../model/gadget.ts';
import { convertDifference, UNITS } from '../../units/index.ts';
import { asBought } from '../../prove/sensorOwn.ts';
import { lineForSensor } from '../sensorLine.ts';
import { atMost, p, type FitState, type PartVerdict } from '../verdict.ts';
import { endsIn } from './range.ts';

/** As bought, worst end; a failure here can be mended by a true-up. */
export function accuracyCheck(
  part: SensorPart,
  board: BoardPart,
  converter: ConverterPart | null,
  brief: ChannelBrief,
): PartVerdict {
  const symbol = UNITS[part.unit].symbol;
  const limit = convertDifference(brief.tolerance, brief.unit, part.unit);
  const line =
    part.signal === 'thermistor'
      ? compileLine(lineForSensor(part, board, converter, 'raw'), { sampleRateHz: 1 })
      : null;
  const worst = endsIn(part, brief)
    .map((at) => Math.min(Math.max(at, part.low), part.high))
    .map((at) => {
      const constants = line ? 2 * lineUncertainty(line, invertLine(line, at)[0]!, 0).at(-1)!.systematic : 0;
      return { at, constants, half: Math.hypot(asBought(part, at), constants) };
    })
    .reduce((a, b) => (b.half > a.half ? b : a));
  const state: FitState = worst.half <= limit ? 'pass' : 'fail';
  return atMost({
    check: 'accuracy',
    title: 'Uncalibrated accuracy',
    state,
    value: worst.half,
    limit,
    unit: symbol,
    sentence: `±${p(worst.half, 2)} ${symbol} at ${p(worst.at)} ${symbol}; ±${p(limit, 2)} ${symbol} required.${state === 'fail' ? ' Needs calibration.' : ''}`,
    arithmetic: line
      ? `Tolerances of the resistor, R0 and beta, carried through the line: ±${p(worst.constants, 2)} ${symbol} (k = 2); combined in quadrature with ±${p(asBought(part, worst.at), 2)} ${symbol} of the sensor itself.`
      : `±${p(part.accuracyFixed, 2)} ${symbol} and ${p(part.accuracyShare * 100, 2)} % of ${p(worst.at)} ${symbol}, combined in quadrature.`,
    hard: false,
    change: 'Calibrate it against references, or choose a better part.',
  });
}

/** What a true-up leaves; half the tolerance is for the references. */
export function trueUpCheck(part: SensorPart, brief: ChannelBrief): PartVerdict {
  const symbol = UNITS[part.unit].symbol;
  const limit = convertDifference(brief.tolerance, brief.unit, part.unit);
  const state: FitState = part.afterTrueUp > limit ? 'fail' : part.afterTrueUp > limit / 2 ? 'tight' : 'pass';
  return atMost({
    check: 'true-up',
    title: 'Accuracy after calibration',
    state,
    value: part.afterTrueUp,
    limit,
    unit: symbol,
    sentence: `About ±${p(part.afterTrueUp, 2)} ${symbol} achievable; ±${p(limit, 2)} ${symbol} required.`,
    arithmetic:
      'Typical drift, hysteresis and noise of this kind of part, which calibration cannot remove. The target is half the tolerance, to leave room for the references.',
    change:
      state === 'fail'
        ? `Allow a tolerance of ±${p(convertDifference(part.afterTrueUp, part.unit, brief.unit), 2)} ${UNITS[brief.unit].symbol} or more.`
        : 'Use references accurate to a fifth of the tolerance.',
  });
}
