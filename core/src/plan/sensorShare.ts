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
import { convertUnit, UNITS } from '../units/index.ts';
import { rangeIn } from './rangeIn.ts';

/**
 * What a sensor is good to by itself, for the figures that are made of its readings; null where the shelf says nothing of
 * it in their quantity. What is the same at every reading goes out of a difference, but nobody says that it is the same: it
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
    return sensor && shareOf(sensor, compileLine(spec, { sampleRateHz }), brief, used);
  } catch (error) {
    // A line that does not run reads nothing either.
    if (error instanceof LineError || error instanceof RangeError) return null;
    throw error;
  }
}

function shareOf(
  sensor: SensorOwn,
  line: CompiledLine,
  brief: ChannelBrief | null,
  used: Calibration | null,
): SensorShare | null {
  const unit = line.outputs[0]!.unit;
  if (UNITS[sensor.unit].dimension !== UNITS[unit].dimension) return null;
  const zero = convertUnit(0, sensor.unit, unit);
  const half = used ? leftHalf(sensor, unit) : boughtHalf(sensor, zero, unit);
  const share = (used ? WARMER_BY_K * (sensor.temperatureShare ?? 0) : sensor.accuracyShare) / Math.sqrt(3);
  const fixed = Number.isFinite(half) ? half / Math.sqrt(3) : 0;
  if (fixed === 0 && share === 0) return null;
  const range = brief && rangeIn(brief, unit);
  const turn = range ? fixed / ((range.high - range.low) / 2) : 0;
  const noise = shelfNoise(sensor, unit) * filterTotals(line).noiseGain;
  return {
    fixed,
    share,
    zero,
    tilt: Math.hypot(share, turn),
    noiseAlone: givesNumbers(sensor) && !used ? noise || 0 : null,
  };
}
