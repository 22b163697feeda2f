import type { ChannelBrief } from '../../model/gadget.ts';
import type { BoardPart, ConverterPart, SensorPart } from '../../model/part.ts';
import { edgeRateHz, neededRateHz, peakLossAllowed } from '../../prove/neededRate.ts';
import { aliasHz, worstPeakFraction } from '../../numerics/samplingRate.ts';
import { convertUnit, UNITS } from '../../units/index.ts';
import { trackingTopSpeed } from '../demands.ts';
import { digitiserOf } from '../sensorLine.ts';
import { atLeast, p, type FitState, type PartVerdict } from '../verdict.ts';

/** What is needed at least, to three digits and never less: a part bought by it must do. */
function least(needed: number): string {
  const step = 10 ** (Math.floor(Math.log10(needed)) - 2);
  return p(Math.ceil(needed / step - 1e-9) * step);
}

/** Readings a second of one channel, and what sets them. */
export function rateOf(
  part: SensorPart,
  board: BoardPart,
  converter: ConverterPart | null,
  channels: number,
): { rateHz: number; by: string } {
  const digitiser = digitiserOf(part, board, converter);
  if (!digitiser) return { rateHz: part.rateHz, by: 'the sensor' };
  const columns = Math.ceil(channels / part.perPart) * part.columns;
  const inputs = Math.max(1, converter?.digitises ? Math.min(converter.inputs, columns) : columns);
  const each = digitiser.rateHz / inputs;
  return each < part.rateHz
    ? { rateHz: each, by: digitiser.title }
    : { rateHz: part.rateHz, by: 'the sensor' };
}

/** Whether readings come often enough for the brief's fastest event, with what would be lost. */
export function rateCheck(
  part: SensorPart,
  board: BoardPart,
  converter: ConverterPart | null,
  brief: ChannelBrief,
  channels: number,
): PartVerdict {
  if (part.frameRateHz > 0) return trackingCheck(part, brief);
  const { rateHz, by } = rateOf(part, board, converter, channels);
  const { fastest } = brief;
  const edges = part.signal === 'edges' && fastest.kind === 'edges';
  // Edges that are counted or timed lose none between readings; what matters is that each is seen.
  const needed = edges ? 3 * edgeRateHz(brief.unit, brief.high, fastest.marks) : neededRateHz(brief);
  const base = {
    check: 'rate' as const,
    title: edges ? 'Edges a second' : 'Rate',
    value: rateHz,
    limit: needed,
    unit: '/s',
  };
  const state: FitState = rateHz >= needed ? 'pass' : 'fail';
  const able = edges
    ? `Follows ${p(rateHz, 2)} edges a second; three times the ${p(needed / 3, 2)} that come are wanted.`
    : `${p(rateHz, 2)} readings a second; ${least(needed)} are needed.`;
  const change = edges
    ? `At most ${Math.max(1, Math.floor((fastest.marks * rateHz) / needed))} marks a turn, or a quicker sensor.`
    : by === 'the sensor'
      ? `${least(needed)} readings a second from the part.`
      : `A converter of ${least(needed)} readings a second instead of ${by}.`;
  switch (fastest.kind) {
    case 'pulse': {
      const kept = worstPeakFraction(fastest.widthS, rateHz);
      const lost =
        state === 'pass'
          ? `it keeps at least ${p(100 * kept, 2)} % of the peak`
          : kept === 0
            ? 'it may miss the peak altogether'
            : `it may lose ${p(100 * (1 - kept), 2)} % of the peak`;
      return atLeast({
        ...base,
        state,
        sentence: `${p(rateHz, 2)} readings a second; of a ${p(fastest.widthS * 1e3)} ms pulse ${lost}. ${least(needed)} are needed.`,
        arithmetic: `Set by ${by}. Of the highest half-sine pulse no more than ±${p(brief.tolerance)} ${UNITS[brief.unit].symbol} may be lost, ${p(100 * peakLossAllowed(brief), 2)} %: π / (2 × ${p(fastest.widthS * 1e3)} ms × acos ${p(1 - peakLossAllowed(brief), 4)}) = ${p(needed)}/s. Worst captured share cos(π / (2 × rate × width)), 0 when the samples lie as far apart as the pulse is wide.`,
        change,
      });
    }
    case 'tone': {
      const apart = 2.56 * fastest.frequencyHz;
      const mains = [50, 60].map((f) => `${f} Hz at ${p(aliasHz(f, rateHz), 2)} Hz`).join(', ');
      return atLeast({
        ...base,
        state: state === 'fail' && rateHz >= apart ? 'tight' : state,
        sentence: able,
        arithmetic: `Set by ${by}. Ten samples a period keep the shape of ${p(fastest.frequencyHz)} Hz, 2.56 would only keep it apart (${p(apart)}/s). Mains hum would show up at: ${mains}.`,
        change,
      });
    }
    case 'crossing':
      return atLeast({
        ...base,
        state,
        sentence: able,
        arithmetic: `Set by ${by}. Each end is late by 0 to one reading; both together have a standard uncertainty of √2 / (rate × √12) = ${p(1 / (rateHz * Math.sqrt(6)), 2)} s, and ${p(fastest.timingS, 2)} s is asked.`,
        change,
      });
    case 'edges': {
      const turns = convertUnit(brief.high, brief.unit, 'rpm');
      return atLeast({
        ...base,
        state,
        sentence: able,
        arithmetic: `${p(turns)} rpm × ${fastest.marks} marks / 60 = ${p(needed / 3)} edges a second. In a gate of 1 s one edge is worth ${p(60 / fastest.marks, 2)} rpm; by period with a 1 µs clock ${p(turns * 1e-6 * (needed / 3), 1)} rpm at the top.`,
        change,
      });
    }
    case 'ramp':
      return atLeast({
        ...base,
        state,
        sentence: able,
        arithmetic: `Set by ${by}. At ${p(fastest.ratePerS)} ${UNITS[brief.unit].symbol}/s the reading may move a fifth of the tolerance between readings.`,
        change,
      });
  }
}

/** Tracking by image shift: top speed = frames a second x usable shift of a frame. */
function trackingCheck(part: SensorPart, brief: ChannelBrief): PartVerdict {
  const top = trackingTopSpeed(part.frameRateHz, part.shiftM);
  const needed = brief.fastest.kind === 'ramp' ? convertUnit(brief.fastest.ratePerS, brief.unit, 'm') : 0;
  const state: FitState = top >= 1.5 * needed ? 'pass' : top >= needed ? 'tight' : 'fail';
  return atLeast({
    check: 'rate',
    title: 'Top speed',
    state,
    value: top,
    limit: needed,
    unit: 'm/s',
    sentence: `Tracks up to ${p(top, 2)} m/s; ${p(needed, 2)} m/s come.`,
    arithmetic: `${p(part.frameRateHz)} frames a second × ${p(part.shiftM * 1e3)} mm usable shift; half as much again is wanted to spare. Steps add up between readings, so the rate of reading does not matter.`,
    change: `A pull of at most ${p(top / 1.5, 2)} m/s, or a chip with more frames a second.`,
  });
}
