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
      sentence: `It is a USB device and wants a host; the ${board.title} is none.`,
      arithmetic: 'A device answers only to a host; two devices on one cable are silent.',
      change: 'A board that is a USB host.',
    });
  if (missing.length > 0)
    return yesOrNo({
      ...base,
      state: 'fail',
      sentence: `No pins left for it on the ${board.title}: ${missing[0]}`,
      arithmetic: missing.join(' '),
      change: 'Another board, a pin expander, a converter of its own or a display with fewer wires.',
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
      sentence: `Pins are there; it takes ${p(100 * load, 2)} % of the two-wire bus, 60 % at most is wise.`,
      arithmetic: `${bits} bits × ${p(rate, 2)}/s${channels > 1 ? ` × ${channels} channels${part.perPart > 1 ? ` / ${part.perPart} a piece` : ''}` : ''} / ${p(plan.hookup.busClockHz / 1e3)} kHz.`,
      change: 'A quicker bus clock, or fewer readings a second.',
    });
  }
  return yesOrNo({
    ...base,
    state: 'pass',
    sentence: `The ${board.title} has the pins for it.`,
    arithmetic: `Beside the other picks of this gadget; wired by ${bus === 'edge' ? 'an interrupt pin' : bus}.`,
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
        arithmetic: `Board: ${p(board.logicV)} V out, bears ${p(board.bearsV)} V. Part: ${p(part.logicV)} V out, bears ${p(part.bearsV)} V.`,
        change: 'A level shifter or a divider between, or a board of the same voltage.',
      })
    : yesOrNo({
        ...base,
        state: 'pass',
        sentence: isAnalog(part)
          ? 'Its volts stay within the converter’s.'
          : part.logicV > 0
            ? `${p(part.logicV)} V logic suits the board.`
            : 'No logic levels to cross.',
        arithmetic: `Board: ${p(board.logicV)} V out, bears ${p(board.bearsV)} V.`,
      });
}
