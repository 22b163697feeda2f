import { convertDifference, convertUnit, UNITS, type UnitId } from '../units/index.ts';

/** An instrument of known accuracy that stands beside the sensors. */
export interface InstrumentBeside {
  readonly title: string;
  readonly value: number;
  readonly unit: UnitId;
  /** Expanded uncertainty (k = 2). */
  readonly uncertainty: number;
  /** The raw column that it stands beside; none where it tells of all. */
  readonly column?: string | undefined;
}

/**
 * The instrument that tells what a channel should read, in the channel's unit: of its quantity, and beside its own column
 * where there is one for each.
 * @param columns raw columns that the channel reads
 * @returns null where none tells
 */
export function instrumentFor(
  instruments: readonly InstrumentBeside[],
  unit: UnitId,
  columns: readonly string[],
): InstrumentBeside | null {
  const alike = instruments.filter((i) => UNITS[i.unit].dimension === UNITS[unit].dimension);
  const own = alike.find(({ column }) => column !== undefined && columns.includes(column));
  const found = own ?? alike.find(({ column }) => column === undefined);
  return found
    ? {
        ...found,
        value: convertUnit(found.value, found.unit, unit),
        unit,
        uncertainty: convertDifference(found.uncertainty, found.unit, unit),
      }
    : null;
}
