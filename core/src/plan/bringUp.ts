import { compileLine, type CompiledLine } from '../line/compile.ts';
import { invertLine } from '../line/invert.ts';
import { stageKind } from '../line/registry.ts';
import { slopeAtRest } from '../line/atRest.ts';
import type { Brief, Place } from '../model/gadget.ts';
import type { LineSpec } from '../model/line.ts';
import { boilingPointC, standardPressureHpa } from '../references/index.ts';
import { fullScale } from '../stages/adc.ts';
import { convertDifference, convertUnit } from '../units/index.ts';

export interface ExpectedReading {
  readonly condition: string;
  /** In the line's reading unit. */
  readonly reading: number;
  readonly ohm: number | null;
  readonly volt: number | null;
  readonly counts: number;
  /** Counts either way that the brief's tolerance allows. */
  readonly countsTolerance: number;
}

export interface BringUpCondition {
  readonly condition: string;
  /** In the line's reading unit. */
  readonly reading: number;
}

/**
 * What a raw channel should show at given conditions, from the line walked backwards: seen at first power-up, a wrong figure
 * tells of a wiring or unit slip. For lines of one column with an inverse throughout.
 * @param tolerance in the line's reading unit
 * @throws {LineError} when the line has a stage without inverse
 */
export function expectedAt(
  compiled: CompiledLine,
  tolerance: number,
  conditions: readonly BringUpCondition[],
): ExpectedReading[] {
  const ohmAt = compiled.stages.findIndex((s) => s.outputs[0]!.unit === 'ohm') + 1;
  const adc = compiled.stages.find((s) => s.spec.kind === 'adc');
  return conditions.map(({ condition, reading }) => {
    const values = invertLine(compiled, reading);
    const counts = values[0]!;
    return {
      condition,
      reading,
      ohm: ohmAt > 0 ? values[ohmAt]! : null,
      volt: adc
        ? (counts / fullScale(Number(adc.spec.params['bits']))) * Number(adc.spec.params['referenceV'])
        : null,
      counts,
      countsTolerance: tolerance / Math.abs(slopeAtRest(compiled, counts)),
    };
  });
}

/** As expectedAt, for a temperature at conditions that a maker can make at home. */
export function expectedReadings(
  line: LineSpec,
  brief: Brief,
  place: Place,
  sampleRateHz: number,
): ExpectedReading[] {
  const compiled = compileLine(line, { sampleRateHz });
  const unit = compiled.outputs[0]!.unit;
  const boiling = boilingPointC(place.pressureHpa ?? standardPressureHpa(place.elevationM));
  const conditions = [
    { condition: 'Ice slurry', celsius: 0 },
    { condition: 'Room', celsius: 20 },
    { condition: 'Hot tap and kettle, 60 °C', celsius: 60 },
    { condition: `Boiling water at ${Math.round(place.elevationM)} m`, celsius: boiling },
  ];
  return expectedAt(
    compiled,
    convertDifference(brief.tolerance, brief.unit, unit),
    conditions.map(({ condition, celsius }) => ({ condition, reading: convertUnit(celsius, 'degC', unit) })),
  );
}

/** Whether a line can tell the table above: it ends in a temperature and every stage walks backwards. */
export function canExpectReadings(line: LineSpec): boolean {
  return (
    line.stages.some((s) => s.kind.startsWith('thermistor') || s.kind === 'steinhart-hart') &&
    line.stages.every((s) => stageKind(s.kind))
  );
}
