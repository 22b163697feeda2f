import type { ReferenceValue } from '../model/calibration.ts';
import { decimalsFor, printNumber, UNITS, type UnitId } from '../units/index.ts';

/** A meter that states its accuracy as per cent of reading plus digits; the limits are taken as a rectangle, k = 2. */
export function meterReference(
  reading: number,
  percentOfReading: number,
  digits: number,
  resolution: number,
  unit: UnitId,
): ReferenceValue {
  const limit = (Math.abs(reading) * percentOfReading) / 100 + digits * resolution;
  // Half a step of the last digit comes on top: the meter rounds.
  const uncertainty = (2 / Math.sqrt(3)) * Math.hypot(limit, resolution / 2);
  const d = decimalsFor(uncertainty);
  const symbol = UNITS[unit].symbol;
  return {
    title: 'Reference meter',
    value: reading,
    unit,
    uncertainty,
    workings: [
      `Reading ${printNumber(reading, d)} ${symbol}; specified accuracy ${percentOfReading} % of reading + ${digits} digits of ${resolution} ${symbol}: ±${printNumber(limit, d)} ${symbol}.`,
      `Rectangular distribution (÷ √3), including rounding of the last digit, doubled for k = 2: ±${printNumber(uncertainty, d)} ${symbol}.`,
    ],
  };
}
