import { compileLine } from '../../line/compile.ts';
import { invertLine } from '../../line/invert.ts';
import { slopeAtRest } from '../../line/atRest.ts';
import type { BoardPart, ConverterPart, SensorPart } from '../../model/part.ts';
import type { ChannelBrief } from '../../model/gadget.ts';
import { convertDifference, UNITS } from '../../units/index.ts';
import { codeVolts, digitiserOf, lineForSensor } from '../sensorLine.ts';
import { atMost, p, yesOrNo, type FitState, type PartVerdict } from '../verdict.ts';
import { endsIn } from './range.ts';

/** The step of one code at the worst end of the range and the noise of single readings, in the part's unit. */
function stepOf(
  part: SensorPart,
  board: BoardPart,
  converter: ConverterPart | null,
  brief: ChannelBrief,
): { step: number; noise: number; how: string } {
  const symbol = UNITS[part.unit].symbol;
  const digitiser = digitiserOf(part, board, converter);
  if (!digitiser)
    return { step: part.step, noise: part.noise, how: `Output in steps of ${p(part.step)} ${symbol}.` };
  const [low, high] = endsIn(part, brief);
  const lsb = codeVolts(digitiser);
  let step: number;
  let where = '';
  switch (part.signal) {
    case 'thermistor':
    case 'heated element': {
      const line = compileLine(lineForSensor(part, board, converter, 'raw'), { sampleRateHz: 1 });
      const ends = [clamp(low, part), clamp(high, part)].map((at) => ({
        at,
        slope: Math.abs(slopeAtRest(line, invertLine(line, at)[0]!)),
      }));
      // Beyond the converter's last code no step can tell one reading from the next.
      const lost = ends.find((e) => !Number.isFinite(e.slope));
      const worst = lost
        ? { ...lost, slope: Number.POSITIVE_INFINITY }
        : ends[0]!.slope > ends[1]!.slope
          ? ends[0]!
          : ends[1]!;
      step = worst.slope;
      where = ` at ${p(worst.at)} ${symbol}`;
      break;
    }
    case 'light':
      // V = V0 10^-A, so that dA/dV = 1 / (V ln 10) is worst at the dark end.
      step = lsb / (part.zeroV * 10 ** -high * Math.LN10);
      where = ` at ${p(high)} ${symbol}`;
      break;
    default:
      step =
        (Math.abs(part.high - (part.signal === 'bridge' ? 0 : part.low)) /
          Math.abs(part.fullV - part.zeroV)) *
        lsb;
  }
  const noise = Math.hypot(part.noise, digitiser.noiseCounts * step);
  return {
    step,
    noise,
    how: Number.isFinite(step)
      ? `One ADC count of ${digitiser.title} (${p(lsb * 1e3)} mV) is ${p(step)} ${symbol}${where}${where && ', where it is worst'}.`
      : `The voltage${where} is beyond the input range of ${digitiser.title}.`,
  };
}

const clamp = (v: number, part: SensorPart) => Math.min(Math.max(v, part.low > 0 ? part.low : v), part.high);

/** Wants steps of a fifth of the tolerance; when noise exceeds one step, the effective step is twice its standard deviation. */
export function resolutionCheck(
  part: SensorPart,
  board: BoardPart,
  converter: ConverterPart | null,
  brief: ChannelBrief,
): PartVerdict {
  const symbol = UNITS[part.unit].symbol;
  const wanted = convertDifference(brief.tolerance, brief.unit, part.unit) / 5;
  const { step, noise, how } = stepOf(part, board, converter, brief);
  if (!Number.isFinite(step))
    return yesOrNo({
      check: 'resolution',
      title: 'Resolution',
      state: 'fail',
      sentence: 'Part of the range is beyond the end of the ADC’s range.',
      arithmetic: how,
      change:
        'Use a converter or a board whose input covers the whole voltage range, or a different divider.',
    });
  const noisy = noise > step;
  const effective = noisy ? 2 * noise : step;
  const state: FitState = effective <= wanted ? 'pass' : effective <= 2.5 * wanted ? 'tight' : 'fail';
  return atMost({
    check: 'resolution',
    title: 'Resolution',
    state,
    value: effective,
    limit: wanted,
    unit: symbol,
    sentence: `Steps of ${p(effective, 2)} ${symbol}; the target is a fifth of the tolerance, ${p(wanted, 2)} ${symbol}.`,
    arithmetic: `${how}${noisy ? ` Noise of ${p(noise, 2)} ${symbol} hides it: the effective step is 2 SD = ${p(2 * noise, 2)} ${symbol}.` : ''} The limit is half the tolerance.`,
    change: noisy
      ? `Average ${Math.ceil((effective / wanted) ** 2)} readings for each displayed value, or choose a part with less noise.`
      : digitiserOf(part, board, converter)
        ? `Use a converter with ${Math.max(1, Math.ceil(Math.log2(effective / wanted)))} more bit${effective / wanted > 2 ? 's' : ''}, or an input range that the signal fills better.`
        : `Allow a tolerance of ±${p(convertDifference(effective * 5, part.unit, brief.unit), 2)} ${UNITS[brief.unit].symbol}, or choose a part with finer resolution.`,
  });
}
