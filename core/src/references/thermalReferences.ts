import type { ReferenceValue } from '../model/calibration.ts';
import { printNumber } from '../units/index.ts';
import { standardPressureHpa } from './atmosphere.ts';
import { boilingPointC } from './boilingPoint.ts';

/** Standard uncertainty of station pressure worked out from elevation alone: weather moves it by some 8 hPa about the mean. */
const WEATHER_HPA = 8;
/** Depth below the surface, dissolved matter and superheating in a kitchen pot, degC, standard uncertainty. */
const POT_C = 0.05;

export function iceSlurry(): ReferenceValue {
  return {
    title: 'Ice slurry',
    value: 0,
    unit: 'degC',
    uncertainty: 0.1,
    workings: [
      'Crushed ice and clean water, stirred, more ice than water: 0.00 °C, the melting point of ice.',
      'Impurities and uneven stirring: ±0.10 °C (k = 2).',
    ],
  };
}

export function boilingAtElevation(elevationM: number): ReferenceValue {
  const pressure = standardPressureHpa(elevationM);
  return boiling(
    pressure,
    WEATHER_HPA,
    `Boiling water at ${printNumber(elevationM, 0)} m`,
    `Standard atmosphere at ${printNumber(elevationM, 0)} m: ${printNumber(pressure, 1)} hPa; weather changes it by about ±${2 * WEATHER_HPA} hPa (k = 2).`,
  );
}

export function boilingAtPressure(pressureHpa: number, uncertaintyHpa: number): ReferenceValue {
  return boiling(
    pressureHpa,
    uncertaintyHpa / 2,
    `Boiling water at ${printNumber(pressureHpa, 1)} hPa`,
    `Barometer: station pressure ${printNumber(pressureHpa, 1)} ±${printNumber(uncertaintyHpa, 1)} hPa (k = 2).`,
  );
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
      `Boiling point of water (IAPWS-IF97): ${printNumber(value, 2)} °C, changing by ${printNumber(perHpa, 4)} °C per hPa.`,
      `Depth, dissolved substances and superheating: ±${printNumber(2 * POT_C, 2)} °C (k = 2).`,
      `Combined: ±${printNumber(uncertainty, 2)} °C (k = 2).`,
    ],
  };
}
