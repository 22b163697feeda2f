import type { Ask, Place } from '../../model/gadget.ts';
import type { SensorPart } from '../../model/part.ts';
import { boilingPointC, standardPressureHpa } from '../../references/index.ts';
import { convertUnit, printNominal, UNITS, type UnitId } from '../../units/index.ts';

/** Something a maker can do at home or at the place, and what the sensor then feels. */
export interface HomeCondition {
  readonly condition: string;
  readonly unit: UnitId;
  /** One value, or one for each axis. */
  readonly values: readonly number[];
}

/** Standard gravity: at a workbench the local one differs by less than 0.3 %. */
const G0 = 9.80665;

/** Conditions to try at first power-up, by what is measured, within the sensor's range. */
export function homeConditions(ask: Ask, place: Place, part: SensorPart | null): HomeCondition[] {
  const sensed = ask.sensed ?? ask;
  const one = (condition: string, unit: UnitId, value: number): HomeCondition => ({
    condition,
    unit,
    values: [value],
  });
  const p = (v: number) => `${printNominal(v)} ${UNITS[sensed.unit].symbol}`;
  const middle = one(
    `A reference of about ${p((sensed.low + sensed.high) / 2)}`,
    sensed.unit,
    (sensed.low + sensed.high) / 2,
  );
  switch (ask.measurand) {
    case 'temperature':
      return [
        one('Ice slurry', 'degC', 0),
        one('Room temperature', 'degC', 20),
        one('Hot tap and kettle water mixed to 60 °C', 'degC', 60),
        one(
          `Boiling water at an elevation of ${Math.round(place.elevationM)} m`,
          'degC',
          boilingPointC(place.pressureHpa ?? standardPressureHpa(place.elevationM)),
        ),
      ].filter((c) => c.values[0]! <= convertUnit(sensed.high, sensed.unit, 'degC') + 1e-9);
    case 'ferment vapour':
    case 'ammonia':
    case 'solvent vapour': {
      const background = part?.baseline ? part.baseline : sensed.low;
      return [
        one('Clean air, after warm-up', sensed.unit, background),
        one(`A known concentration of ${p(sensed.high / 4)}`, sensed.unit, sensed.high / 4),
      ];
    }
    case 'distance':
      return [0.5, 1, 2]
        .filter(
          (m) =>
            m >= convertUnit(sensed.low, sensed.unit, 'm') && m <= convertUnit(sensed.high, sensed.unit, 'm'),
        )
        .map((m) => one(`A flat board facing the sensor, ${m} m away by tape measure`, 'm', m));
    case 'acceleration':
      return [
        { condition: 'At rest, z up', unit: 'gn', values: [0, 0, 1] },
        { condition: 'At rest, z down', unit: 'gn', values: [0, 0, -1] },
        { condition: 'At rest, x up', unit: 'gn', values: [1, 0, 0] },
        { condition: 'At rest, y up', unit: 'gn', values: [0, 1, 0] },
      ];
    case 'voltage':
      return [
        one('Input shorted, nothing else connected', 'V', 0),
        one(`A cell that measures 1.5 V on a meter`, 'V', 1.5),
      ];
    case 'current':
      return [one('Nothing connected', 'A', 0), one('A load that draws 0.5 A by a meter', 'A', 0.5)];
    case 'reflected light':
      return [
        one('Sensor covered with a hand', sensed.unit, 0),
        one(
          `White paper in front of the sensor, about ${p(sensed.high * 0.7)}`,
          sensed.unit,
          sensed.high * 0.7,
        ),
      ];
    case 'force':
      return [
        one('No load', 'N', 0),
        ...[1, 2, 5, 10, 20, 50]
          .filter((kg) => kg * G0 <= convertUnit(sensed.high, sensed.unit, 'N') / 2)
          .slice(-2)
          .map((kg) => one(`A mass of ${kg} kg at rest`, 'N', kg * G0)),
      ];
    case 'light through a sample':
      return [
        one('Clear water in the cuvette', sensed.unit, 0),
        one('A neutral density filter that passes 10 % of the light', sensed.unit, 1),
      ];
    case 'rotation':
      return [one('Turned by hand, one turn per second', 'rpm', 60)];
    case 'speed over ground':
      return [one('Standing still under an open sky', sensed.unit, 0)];
    case 'heading':
      return [0, 90, 180, 270].map((deg, i) =>
        one(
          `Held level, pointing ${['north', 'east', 'south', 'west'][i]!} towards a known landmark`,
          'deg',
          deg,
        ),
      );
    case 'displacement':
      return [one('Moved 100 mm along a ruler, once', 'm', 0.1)];
    case 'worked out':
      return [];
    default:
      return [one(`Low end of the range, ${p(sensed.low)}`, sensed.unit, sensed.low), middle];
  }
}
