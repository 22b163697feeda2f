import { isUncertaintyKnown } from '../calibrate/isUncertaintyKnown.ts';
import type { CompiledLine } from '../line/compile.ts';
import { filterTotals } from '../line/filterTraits.ts';
import { lineUncertainty, type CalibrationCovariance } from '../line/uncertainty.ts';
import type { Calibration } from '../model/calibration.ts';
import type { SeenInPoints } from './seenInPoints.ts';
import { boughtHalf, givesNumbers, leftHalf, shelfNoise, warmthHalf, type SensorOwn } from './sensorOwn.ts';

export interface ShownInput extends SeenInPoints {
  readonly line: CompiledLine;
  /** One value a source, as it came. */
  readonly raw: readonly number[];
  /** In the unit that the line ends in. */
  readonly reading: number;
  readonly calibration: Calibration | null;
  /** What the arithmetic needs of it; null as bought. */
  readonly covariance: CalibrationCovariance | null;
  /** Standard uncertainty as the readings tell it themselves, for lines without readings at rest; null for all others. */
  readonly told: number | null;
  /** The picked sensor, as the shelf has it; null where none is picked. */
  readonly sensor: SensorOwn | null;
}

/**
 * Standard uncertainty of a reading as it stands on the strip, the face and in the API: constants, rounding and noise, and
 * what the sensor is good to by itself. It holds for a reading that stands still; what the brief's fastest change adds to it
 * is in the error budget of Prove.
 * @returns null where nobody has stated or measured what readings are worth
 */
export function shownWorth(input: ShownInput): number | null {
  const { line, reading, calibration, sensor } = input;
  const unit = line.outputs[0]!.unit;
  const ofLine = workedOut(input);
  const half = calibration
    ? Math.hypot(leftHalf(sensor, unit), warmthHalf(sensor, reading, unit))
    : boughtHalf(sensor, reading, unit);
  const own = Number.isFinite(half) ? half / Math.sqrt(3) : null;
  if (ofLine !== null) return Math.hypot(ofLine, own ?? 0, input.hysteresis / Math.sqrt(3));
  // Where the line states nothing, what a sensor that gives numbers is good to stands for all of it.
  const isWhole = own !== null && sensor !== null && givesNumbers(sensor) && !calibration;
  return isWhole ? Math.hypot(own, orNothing(byShelf(input)), input.hysteresis / Math.sqrt(3)) : null;
}

function workedOut(input: ShownInput): number | null {
  const { line, raw, noiseRaw, calibration, covariance, told } = input;
  // Rounding to codes alone is no uncertainty: nobody has stated what the parts are worth. What others read is not in it.
  const isAlone = !line.stages.some((s) => s.kind.over);
  if (isAlone && raw.length > 0 && raw.every(Number.isFinite) && isUncertaintyKnown(line.spec, calibration)) {
    const atRest = lineUncertainty(line, raw, noiseRaw ?? 0, covariance).at(-1)!.combined;
    if (Number.isFinite(atRest))
      return noiseRaw === null ? Math.hypot(atRest, orNothing(byShelf(input))) : atRest;
  }
  // Whole cycles and rates have no value at rest.
  return told !== null && Number.isFinite(told) ? told : null;
}

const byShelf = ({ line, sensor }: ShownInput) =>
  shelfNoise(sensor, line.outputs[0]!.unit) * filterTotals(line).noiseGain;

/** Noise that nobody states is the least of what is not known of a reading. */
const orNothing = (u: number) => (Number.isFinite(u) ? u : 0);
