import type { ReferenceInput, ReferenceValue } from '../model/calibration.ts';
import { printNumber, UNITS, type UnitId } from '../units/index.ts';
import { bearingDeg, greatCircleM } from './bearing.ts';
import { dilutionReference } from './dilution.ts';
import { massReference, waterReference, weightReference } from './massReferences.ts';
import { meterReference } from './meterReference.ts';
import { boilingAtElevation, boilingAtPressure, iceSlurry } from './thermalReferences.ts';
import { crystalReference, stopwatchReference, tallyReference } from './timeReferences.ts';
import { dimensionWord } from '../words/index.ts';

/**
 * What a reference is worth: value, expanded uncertainty (k = 2) and the arithmetic in words.
 * @param unit unit of the reading it is compared with; used where the reference itself has none
 * @throws {RangeError} for inputs outside the range of the physics behind it, and for a reference of another quantity
 */
export function referenceValue(input: ReferenceInput, unit: UnitId): ReferenceValue {
  const worth = worthOf(input, unit);
  if (UNITS[worth.unit].dimension !== UNITS[unit].dimension)
    throw new RangeError(
      `${worth.title} is a reference for ${dimensionWord(UNITS[worth.unit].dimension)}, but this channel measures ${dimensionWord(UNITS[unit].dimension)}. Choose a reference for the same quantity.`,
    );
  return worth;
}

function worthOf(input: ReferenceInput, unit: UnitId): ReferenceValue {
  switch (input.kind) {
    case 'ice-slurry':
      return iceSlurry();
    case 'boiling-elevation':
      return boilingAtElevation(input.elevationM);
    case 'boiling-pressure':
      return boilingAtPressure(input.pressureHpa, input.uncertaintyHpa);
    case 'instrument':
      return {
        title: 'Comparison instrument',
        value: input.reading,
        unit,
        uncertainty: input.uncertainty,
        workings: [
          `Reading ${input.reading} ${UNITS[unit].symbol}, ±${input.uncertainty} ${UNITS[unit].symbol} (k = 2) from its certificate or datasheet.`,
        ],
      };
    case 'meter':
      return meterReference(input.reading, input.percentOfReading, input.digits, input.resolution, unit);
    case 'mass':
      return massReference(input.kilograms, input.toleranceKg);
    case 'water':
      return waterReference(input.litres, input.toleranceLitres, input.waterC);
    case 'weight-force':
      return weightReference(input.kilograms, input.toleranceKg, input.latitudeDeg, input.elevationM);
    case 'length':
      return lengthReference(input.metres, input.toleranceM, input.placementM);
    case 'stopwatch':
      return stopwatchReference(input.seconds, input.reactionS);
    case 'tally':
      return tallyReference(input.count, input.doubt, input.seconds, input.reactionS);
    case 'crystal':
      return crystalReference(input.seconds, input.ppm);
    case 'dilution':
      return dilutionReference(input.stock, input.stockPercent, input.steps, unit);
    case 'nothing':
      return {
        title: input.what,
        value: 0,
        unit,
        uncertainty: input.within,
        workings: [
          `${input.what}: zero by definition, within ±${input.within} ${UNITS[unit].symbol} (k = 2).`,
        ],
      };
    case 'clean-air':
      return {
        title: 'Clean air',
        value: input.ppm,
        unit: 'ppm',
        uncertainty: input.within,
        workings: [
          `The sensor’s datasheet curve starts at ${input.ppm} ppm in clean air; the air is assumed to be within ±${input.within} ppm of that (k = 2).`,
        ],
      };
    case 'own':
      return {
        title: input.title,
        value: input.value,
        unit: input.unit,
        uncertainty: input.uncertainty,
        workings: [`Your own reference, last checked on ${input.checkedOn}.`],
      };
    case 'bearing':
      return bearingReference(input.from, input.to, input.positionM);
  }
}

/** A length by rule or tape: its own tolerance, and setting the ends against it twice. */
function lengthReference(metres: number, toleranceM: number, placementM: number): ReferenceValue {
  const uncertainty = (2 / Math.sqrt(3)) * Math.hypot(toleranceM, placementM, placementM);
  return {
    title: `${metres} m by ruler or tape measure`,
    value: metres,
    unit: 'm',
    uncertainty,
    workings: [
      `Ruler tolerance ±${toleranceM} m, each end placed within ±${placementM} m; rectangular distributions added in quadrature, k = 2: ±${printNumber(uncertainty * 1000, 2)} mm.`,
    ],
  };
}

type Place = Extract<ReferenceInput, { kind: 'bearing' }>['from'];

function bearingReference(from: Place, to: Place, positionM: number): ReferenceValue {
  const distance = greatCircleM(from, to);
  if (distance < 2 * positionM)
    throw new RangeError(
      `The landmark is only ${printNumber(distance, 0)} m away and the positions are accurate to ±${positionM} m, so its bearing cannot be determined. Choose a more distant landmark.`,
    );
  const value = bearingDeg(from, to);
  // Both ends may be off sideways by the positions' uncertainty (k = 2).
  const uncertainty = (Math.atan2(Math.SQRT2 * positionM, distance) * 180) / Math.PI;
  return {
    title: 'Bearing to a landmark',
    value,
    unit: 'deg',
    uncertainty,
    workings: [
      `Great-circle distance ${printNumber(distance, 0)} m, bearing ${printNumber(value, 1)}° from true north.`,
      `Both positions accurate to ±${positionM} m (k = 2): ±${printNumber(uncertainty, 2)}°.`,
    ],
  };
}
