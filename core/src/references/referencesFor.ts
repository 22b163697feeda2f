import type { ReferenceInput } from '../model/calibration.ts';
import type { Place } from '../model/gadget.ts';
import { UNITS, type DimensionName, type UnitId } from '../units/index.ts';
import { standardPressureHpa } from './atmosphere.ts';

/** The kinds that the bench offers; the maker's own come from the shelf. */
export type ReferenceKind = Exclude<ReferenceInput['kind'], 'own'>;

export interface OfferedReference {
  readonly kind: ReferenceKind;
  readonly title: string;
}

const BY_DIMENSION: Partial<Record<DimensionName, readonly (readonly [ReferenceKind, string])[]>> = {
  temperature: [
    ['ice-slurry', 'Ice slurry'],
    ['boiling-elevation', 'Boiling water, pressure from elevation'],
    ['boiling-pressure', 'Boiling water, pressure from barometer'],
  ],
  mass: [
    ['nothing', 'No load'],
    ['mass', 'Known mass'],
    ['water', 'Measured volume of water'],
  ],
  force: [
    ['nothing', 'No load'],
    ['weight-force', 'Weight of a known mass'],
  ],
  length: [['length', 'Ruler or tape measure']],
  time: [
    ['stopwatch', 'Stopwatch'],
    ['crystal', 'Crystal clock'],
  ],
  frequency: [['tally', 'Manual count over a measured time']],
  'turning rate': [['tally', 'Manual count over a measured time']],
  voltage: [
    ['nothing', 'Input shorted'],
    ['meter', 'Reference meter (datasheet accuracy)'],
  ],
  current: [
    ['nothing', 'Nothing connected'],
    ['meter', 'Reference meter (datasheet accuracy)'],
  ],
  ratio: [['clean-air', 'Clean air, after warm-up']],
  absorbance: [['nothing', 'Blank']],
  'mass concentration': [
    ['nothing', 'Blank'],
    ['dilution', 'Diluted stock solution'],
  ],
  angle: [['bearing', 'Landmark (map coordinates)']],
};

const INSTRUMENTS: Partial<Record<DimensionName, string>> = {
  temperature: 'Comparison thermometer',
  ratio: 'Known dose, or comparison instrument',
  force: 'Comparison scale',
  house: 'Your own value in house units',
};

/** The references that suit a reading, the handiest first; another instrument suits any. */
export function referencesFor(unit: UnitId): OfferedReference[] {
  const { dimension } = UNITS[unit];
  return [
    ...(BY_DIMENSION[dimension] ?? []).map(([kind, title]) => ({ kind, title })),
    { kind: 'instrument', title: INSTRUMENTS[dimension] ?? 'Comparison instrument' },
  ];
}

/** What a maker starts from for a reference of a kind: figures that are usual, to be put right. */
export function startReference(kind: ReferenceKind, unit: UnitId, place: Place): ReferenceInput {
  switch (kind) {
    case 'ice-slurry':
      return { kind };
    case 'boiling-elevation':
      return { kind, elevationM: place.elevationM };
    case 'boiling-pressure':
      return {
        kind,
        pressureHpa: place.pressureHpa ?? Math.round(standardPressureHpa(place.elevationM)),
        uncertaintyHpa: 2,
      };
    case 'instrument':
      return { kind, reading: UNITS[unit].dimension === 'temperature' ? 20 : 1, uncertainty: 0.5 };
    case 'meter':
      return { kind, reading: 1, percentOfReading: 0.5, digits: 2, resolution: 0.001 };
    case 'mass':
      return { kind, kilograms: 1, toleranceKg: 0.001 };
    case 'water':
      return { kind, litres: 1, toleranceLitres: 0.01, waterC: 20 };
    case 'weight-force':
      return {
        kind,
        kilograms: 10,
        toleranceKg: 0.01,
        latitudeDeg: 50,
        elevationM: Math.min(9000, Math.max(-430, place.elevationM)),
      };
    case 'length':
      return { kind, metres: 1, toleranceM: 0.0005, placementM: 0.0005 };
    case 'stopwatch':
      return { kind, seconds: 60, reactionS: 0.15 };
    case 'tally':
      return { kind, count: 100, doubt: 1, seconds: 60, reactionS: 0.15 };
    case 'crystal':
      return { kind, seconds: 60, ppm: 20 };
    case 'dilution':
      return {
        kind,
        stock: 100,
        stockPercent: 1,
        steps: [{ taken: 1, madeUpTo: 10, takenPercent: 1, madeUpPercent: 0.5 }],
      };
    case 'clean-air':
      return { kind, ppm: 1, within: 0.5 };
    case 'nothing':
      return {
        kind,
        within: 0.01,
        what: referencesFor(unit).find((r) => r.kind === 'nothing')?.title ?? 'No input',
      };
    case 'bearing':
      return {
        kind,
        from: { latitudeDeg: 50, longitudeDeg: 8 },
        to: { latitudeDeg: 50.02, longitudeDeg: 8 },
        positionM: 10,
      };
  }
}
