import type { SensorShare } from '../figures/index.ts';
import type { Calibration } from '../model/calibration.ts';
import type { ChannelBrief } from '../model/gadget.ts';
import { compileLine, filterTotals, type CompiledLine } from '../line/index.ts';
import type { LineSpec } from '../model/line.ts';
import {
  boughtHalf,
  givesNumbers,
  leftHalf,
  shelfNoise,
  WARMER_BY_K,
  type SensorOwn,
} from '../prove/sensorOwn.ts';
import { LineError } from '../stage/contract.ts';
import { convertDifference, convertUnit, UNITS, type UnitId } from '../units/index.ts';
import { rangeIn } from './rangeIn.ts';

/**
 * What a sensor is good to by itself, and the hysteresis that was seen in it, for the figures that are made of its readings;
 * null where neither the shelf nor the points say anything of it in their quantity. What is the same at every reading goes out of a difference, but nobody says that it is the same: it
 * is taken to turn from one sign to the other within half of the range.
 * @param spec the whole line with the calibration in use @param used that calibration; null as bought
 */
export function sensorShare(
  sensor: SensorOwn | null,
  spec: LineSpec,
  sampleRateHz: number,
  brief: ChannelBrief | null,
  used: Calibration | null,
): SensorShare | null {
  try {
    return shareOf(sensor, compileLine(spec, { sampleRateHz }), brief, used);
  } catch (error) {
    // A line that does not run reads nothing either.
    if (error instanceof LineError || error instanceof RangeError) return null;
    throw error;
  }
}

function shareOf(
  sensor: SensorOwn | null,
  line: CompiledLine,
  brief: ChannelBrief | null,
  used: Calibration | null,
): SensorShare | null {
  const unit = line.outputs[0]!.unit;
  const own = sensor && UNITS[sensor.unit].dimension === UNITS[unit].dimension ? sensor : null;
  const zero = own ? convertUnit(0, own.unit, unit) : 0;
  const stated = used ? leftHalf(own, unit) : boughtHalf(own, zero, unit);
  const half = Math.hypot(Number.isFinite(stated) ? stated : 0, hysteresisOf(used, unit));
  const fixed = half / Math.sqrt(3);
  const each = used ? WARMER_BY_K * (own?.temperatureShare ?? 0) : (own?.accuracyShare ?? 0);
  const share = each / Math.sqrt(3);
  if (fixed === 0 && share === 0) return null;
  const range = brief && rangeIn(brief, unit);
  const turn = range ? fixed / ((range.high - range.low) / 2) : 0;
  const noise = shelfNoise(own, unit) * filterTotals(line).noiseGain;
  return {
    fixed,
    share,
    zero,
    tilt: Math.hypot(share, turn),
    noiseAlone: own && givesNumbers(own) && !used ? noise || 0 : null,
  };
}

/** What readings were seen to differ by from the side they came from when it was made; none of a channel that goes on from it. */
function hysteresisOf(used: Calibration | null, unit: UnitId): number {
  const seen = used?.result.hysteresis;
  return seen && UNITS[seen.unit].dimension === UNITS[unit].dimension
    ? convertDifference(seen.half, seen.unit, unit)
    : 0;
}
