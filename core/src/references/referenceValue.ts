import type { ReferenceInput, ReferenceValue } from '../model/calibration.ts';
import { UNITS, printNumber, type UnitId } from '../units/index.ts';
import { standardPressureHpa } from './atmosphere.ts';
import { boilingPointC } from './boilingPoint.ts';

/** Standard uncertainty of station pressure worked out from elevation alone: weather moves it by some 8 hPa about the mean. */
const WEATHER_HPA = 8;
/** Depth below the surface, dissolved matter and superheating in a kitchen pot, degC, standard uncertainty. */
const POT_C = 0.05;

/**
 * What a reference is worth: value, expanded uncertainty (k = 2) and the arithmetic in words.
 * @param unit unit of the reading it is compared with; used for an instrument read by the maker
 * @throws {RangeError} for inputs outside the range of the physics behind it
 */
export function referenceValue(input: ReferenceInput, unit: UnitId): ReferenceValue {
  switch (input.kind) {
    case 'ice-slurry':
      return {
        title: 'Ice slurry',
        value: 0,
        unit: 'degC',
        uncertainty: 0.1,
        workings: [
          'Crushed ice and clean water, stirred, more ice than water: 0.00 °C by the melting point of ice.',
          'Impurities and uneven stirring: ±0.10 °C (k = 2).',
        ],
      };
    case 'boiling-elevation':
      return boiling(
        standardPressureHpa(input.elevationM),
        WEATHER_HPA,
        `Boiling water at ${printNumber(input.elevationM, 0)} m`,
        `Standard atmosphere at ${printNumber(input.elevationM, 0)} m: ${printNumber(standardPressureHpa(input.elevationM), 1)} hPa; weather moves it by about ±${2 * WEATHER_HPA} hPa (k = 2).`,
      );
    case 'boiling-pressure':
      return boiling(
        input.pressureHpa,
        input.uncertaintyHpa / 2,
        `Boiling water at ${printNumber(input.pressureHpa, 1)} hPa`,
        `Barometer: ${printNumber(input.pressureHpa, 1)} ± ${printNumber(input.uncertaintyHpa, 1)} hPa (k = 2), station pressure.`,
      );
    case 'instrument':
      return {
        title: 'Another instrument, side by side',
        value: input.reading,
        unit,
        uncertainty: input.uncertainty,
        workings: [
          `It reads ${input.reading} ${UNITS[unit].symbol}, ±${input.uncertainty} ${UNITS[unit].symbol} (k = 2) by its own certificate or data sheet.`,
        ],
      };
  }
}

function boiling(pressureHpa: number, uPressureHpa: number, title: string, source: string): ReferenceValue {
  const value = boilingPointC(pressureHpa);
  const perHpa = (boilingPointC(pressureHpa + 1) - boilingPointC(pressureHpa - 1)) / 2;
  const uncertainty = 2 * Math.hypot(perHpa * uPressureHpa, POT_C);
  return {
    title,
    value,
    unit: 'degC',
    uncertainty,
    workings: [
      source,
      `Saturation line of water (IAPWS-IF97): ${printNumber(value, 2)} °C, moving ${printNumber(perHpa, 4)} °C per hPa.`,
      `Depth, dissolved matter and superheating: ±${printNumber(2 * POT_C, 2)} °C (k = 2).`,
      `Together: ±${printNumber(uncertainty, 2)} °C (k = 2).`,
    ],
  };
}
