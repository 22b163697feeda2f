import type { ReferenceValue } from '../model/calibration.ts';
import { decimalsFor, printNumber } from '../units/index.ts';
import { GRAVITY_UNCERTAINTY, localGravity } from './localGravity.ts';
import { waterDensity } from './waterDensity.ts';

// Tolerances are taken as half-widths of a rectangle (JCGM 100:2008, 4.3.7): divided by root three, doubled for k = 2.
const K2 = 2 / Math.sqrt(3);
/** Buoyancy of air on a mass of metal against the conventional density: 0.015 %, taken as an uncertainty. */
const BUOYANCY = 1.5e-4;

export function massReference(kilograms: number, toleranceKg: number): ReferenceValue {
  const uncertainty = Math.hypot(K2 * toleranceKg, BUOYANCY * kilograms);
  const d = decimalsFor(uncertainty);
  return {
    title: `Mass of ${printNumber(kilograms, d)} kg`,
    value: kilograms,
    unit: 'kg',
    uncertainty,
    workings: [
      `Nominal ${printNumber(kilograms, d)} kg, tolerance ±${printNumber(toleranceKg, d)} kg: ±${printNumber(K2 * toleranceKg, d + 1)} kg (k = 2).`,
      `Air buoyancy, 0.015 %: ±${printNumber(BUOYANCY * kilograms, d + 1)} kg.`,
    ],
  };
}

export function waterReference(litres: number, toleranceLitres: number, waterC: number): ReferenceValue {
  const density = waterDensity(waterC) / 1000;
  // Weighed in air, water appears lighter by the air it pushes aside: 1.2 g a litre.
  const perLitre = density - 0.0012 * (1 - density / 8);
  const value = litres * perLitre;
  const uncertainty = Math.hypot(K2 * toleranceLitres * perLitre, 2 * 2e-4 * value);
  const d = decimalsFor(uncertainty);
  return {
    title: `${litres} L of water at ${printNumber(waterC, 0)} °C`,
    value,
    unit: 'kg',
    uncertainty,
    workings: [
      `Density of water at ${printNumber(waterC, 1)} °C: ${printNumber(density, 4)} kg per litre (Tanaka 2001); weighed in air: ${printNumber(perLitre, 4)}.`,
      `${litres} L, tolerance ±${toleranceLitres} L: ${printNumber(value, d)} kg ±${printNumber(uncertainty, d)} kg (k = 2).`,
    ],
  };
}

export function weightReference(
  kilograms: number,
  toleranceKg: number,
  latitudeDeg: number,
  elevationM: number,
): ReferenceValue {
  const g = localGravity(latitudeDeg, elevationM);
  const mass = massReference(kilograms, toleranceKg);
  const value = kilograms * g;
  const uncertainty = Math.hypot(mass.uncertainty * g, 2 * GRAVITY_UNCERTAINTY * kilograms);
  const d = decimalsFor(uncertainty);
  return {
    title: `Weight of ${kilograms} kg`,
    value,
    unit: 'N',
    uncertainty,
    workings: [
      ...mass.workings,
      `Gravity at latitude ${printNumber(latitudeDeg, 1)}° and elevation ${printNumber(elevationM, 0)} m: ${printNumber(g, 4)} ±${printNumber(2 * GRAVITY_UNCERTAINTY, 4)} m/s² (GRS 80 with free-air gradient).`,
      `${kilograms} kg × ${printNumber(g, 4)} m/s² = ${printNumber(value, d)} N ±${printNumber(uncertainty, d)} N (k = 2).`,
    ],
  };
}
