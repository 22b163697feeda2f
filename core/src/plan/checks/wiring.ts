import type { BoardPart, ConverterPart, SensorPart } from '../../model/part.ts';
import type { ChannelBrief } from '../../model/gadget.ts';
import type { GadgetPlan } from '../gadgetPlan.ts';
import { isAnalog } from '../sensorLine.ts';
import { levelCrossing, sensorCrossing } from '../levels.ts';
import { atMost, p, yesOrNo, type PartVerdict } from '../verdict.ts';
import { rateOf } from './rate.ts';

/**
 * Whether the board can be its host, has pins left for it beside the other picks, and its bus is not overrun.
 * @param missing what finds no pin with this part in its slot
 */
export function wiringCheck(
  part: SensorPart,
  board: BoardPart,
  converter: ConverterPart | null,
  brief: ChannelBrief,
  plan: GadgetPlan,
  channels: number,
  missing: readonly string[],
): PartVerdict {
  const base = { check: 'wiring' as const, title: 'Board and pins' };
  if (part.bus === 'USB device' && !board.usbHost)
    return yesOrNo({
      ...base,
      state: 'fail',
      sentence: `This is a USB device and needs a USB host; the ${board.title} is not one.`,
      arithmetic: 'A USB device only answers a host; two devices on one cable cannot talk to each other.',
      change: 'Choose a board that can be a USB host.',
    });
  if (missing.length > 0)
    return yesOrNo({
      ...base,
      state: 'fail',
      sentence: `No pins left for it on the ${board.title}: ${missing[0]}`,
      arithmetic: missing.join(' '),
      change: 'Choose another board, a pin expander, a separate converter or a display with fewer wires.',
    });
  const bus = converter?.digitises ? converter.bus : part.bus;
  const bits = converter?.digitises ? converter.bitsPerReading : part.bitsPerReading;
  if (bus === 'I2C' && bits > 0) {
    const { rateHz } = rateOf(part, board, converter, channels);
    const rate = Math.min(rateHz, plan.gadget.sampleRateHz);
    const load = (bits * rate * channels) / part.perPart / plan.hookup.busClockHz;
    return atMost({
      ...base,
      state: load <= 0.6 ? 'pass' : 'fail',
      value: 100 * load,
      limit: 60,
      unit: '%',
      sentence: `Pins are available; it takes ${p(100 * load, 2)} % of the I2C bus (at most 60 % recommended).`,
      arithmetic: `${bits} bits × ${p(rate, 2)}/s${channels > 1 ? ` × ${channels} channels${part.perPart > 1 ? ` / ${part.perPart} per part` : ''}` : ''} / ${p(plan.hookup.busClockHz / 1e3)} kHz.`,
      change: 'Use a faster bus clock, or fewer readings per second.',
    });
  }
  return yesOrNo({
    ...base,
    state: 'pass',
    sentence: `The ${board.title} has the pins for it.`,
    arithmetic: `Together with the other picks; connected via ${bus === 'edge' ? 'an interrupt pin' : bus}.`,
  });
}

/** 3.3 V and 5 V parts beside each other, and analog outputs beyond the converter. */
export function levelCheck(part: SensorPart, board: BoardPart, converter: ConverterPart | null): PartVerdict {
  const crossing =
    levelCrossing(board, converter?.digitises ? converter : part) ?? sensorCrossing(part, board, converter);
  const base = { check: 'level' as const, title: 'Voltage levels', hard: false };
  return crossing
    ? yesOrNo({
        ...base,
        state: crossing.kind === 'harm' ? 'fail' : 'tight',
        sentence: crossing.sentence,
        arithmetic: `Board: ${p(board.logicV)} V out, tolerates ${p(board.bearsV)} V. Part: ${p(part.logicV)} V out, tolerates ${p(part.bearsV)} V.`,
        change: 'Add a level shifter or a divider, or choose a board with the same voltage.',
      })
    : yesOrNo({
        ...base,
        state: 'pass',
        sentence: isAnalog(part)
          ? 'Its output stays within the ADC’s input range.'
          : part.logicV > 0
            ? `${p(part.logicV)} V logic matches the board.`
            : 'No logic levels to match.',
        arithmetic: `Board: ${p(board.logicV)} V out, tolerates ${p(board.bearsV)} V.`,
      });
}
