import type { ChannelBrief } from '../../model/gadget.ts';
import type { BoardPart, ConverterPart, SensorPart } from '../../model/part.ts';
import { edgeRateHz, neededRateHz, peakLossAllowed } from '../../prove/neededRate.ts';
import { aliasHz, worstPeakFraction } from '../../numerics/samplingRate.ts';
import { convertUnit, UNITS } from '../../units/index.ts';
import { trackingTopSpeed } from '../demands.ts';
import { digitiserOf } from '../sensorLine.ts';
import { atLeast, p, type FitState, type PartVerdict } from '../verdict.ts';
import { counted } from '../../words/index.ts';

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
    title: edges ? 'Edges per second' : 'Reading rate',
    value: rateHz,
    limit: needed,
    unit: '/s',
  };
  const state: FitState = rateHz >= needed ? 'pass' : 'fail';
  const able = edges
    ? `Follows ${p(rateHz, 2)} edges per second; three times the expected ${p(needed / 3, 2)} required.`
    : `${p(rateHz, 2)} readings per second; at least ${least(needed)} required.`;
  const change = edges
    ? `Use at most ${counted(Math.max(1, Math.floor((fastest.marks * rateHz) / needed)), 'mark')} per turn, or a faster sensor.`
    : by === 'the sensor'
      ? `Choose a part with at least ${least(needed)} readings per second.`
      : `Use a converter with at least ${least(needed)} readings per second instead of ${by}.`;
  switch (fastest.kind) {
    case 'pulse': {
      const kept = worstPeakFraction(fastest.widthS, rateHz);
      const lost =
        state === 'pass'
          ? `keeps at least ${p(100 * kept, 2)} % of its peak`
          : kept === 0
            ? 'may be missed altogether'
            : `may lose ${p(100 * (1 - kept), 2)} % of its peak`;
      return atLeast({
        ...base,
        state,
        sentence: `${p(rateHz, 2)} readings per second: a ${p(fastest.widthS * 1e3)} ms pulse ${lost}. At least ${least(needed)} required.`,
        arithmetic: `Set by ${by}. The highest half-sine pulse may lose no more than ±${p(brief.tolerance)} ${UNITS[brief.unit].symbol}, ${p(100 * peakLossAllowed(brief), 2)} % of its peak: π / (2 × ${p(fastest.widthS * 1e3)} ms × acos ${p(1 - peakLossAllowed(brief), 4)}) = ${p(needed)}/s. Worst-case captured share: cos(π / (2 × rate × width)), or 0 when the samples are as far apart as the pulse is wide.`,
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
        arithmetic: `Set by ${by}. Ten samples per period preserve the shape of a ${p(fastest.frequencyHz)} Hz signal; 2.56 would only avoid aliasing (${p(apart)}/s). Mains hum would appear as: ${mains}.`,
        change,
      });
    }
    case 'crossing':
      return atLeast({
        ...base,
        state,
        sentence: able,
        arithmetic: `Set by ${by}. Start and stop are each late by up to one reading; together they have a standard uncertainty of √2 / (rate × √12) = ${p(1 / (rateHz * Math.sqrt(6)), 2)} s; ${p(fastest.timingS, 2)} s required.`,
        change,
      });
    case 'edges': {
      const turns = convertUnit(brief.high, brief.unit, 'rpm');
      return atLeast({
        ...base,
        state,
        sentence: able,
        arithmetic: `${p(turns)} rpm × ${fastest.marks} marks / 60 = ${p(needed / 3)} edges per second. With a gate time of 1 s, one edge is ${p(60 / fastest.marks, 2)} rpm; timing the period with a 1 µs clock resolves ${p(turns * 1e-6 * (needed / 3), 1)} rpm at top speed.`,
        change,
      });
    }
    case 'ramp':
      return atLeast({
        ...base,
        state,
        sentence: able,
        arithmetic: `Set by ${by}. At ${p(fastest.ratePerS)} ${UNITS[brief.unit].symbol}/s, the value may change by a fifth of the tolerance between readings.`,
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
    sentence: `Tracks up to ${p(top, 2)} m/s; ${p(needed, 2)} m/s expected.`,
    arithmetic: `${p(part.frameRateHz)} frames per second × ${p(part.shiftM * 1e3)} mm usable shift; the target is a margin of one half. Steps add up between readings, so the reading rate does not matter.`,
    change: `Move at ${p(top / 1.5, 2)} m/s at most, or use a sensor with a higher frame rate.`,
  });
}
