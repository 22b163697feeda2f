import { compileLine } from '../line/compile.ts';
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

/**
 * What each raw channel should show at conditions a maker can make at home, from the line walked backwards: seen at first
 * power-up, a wrong figure tells of a wiring or unit slip.
 * @throws {LineError} when the line has a stage without inverse
 */
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
  const ohmAt = compiled.stages.findIndex((s) => s.outputs[0]!.unit === 'ohm') + 1;
  const adc = compiled.stages.find((s) => s.spec.kind === 'adc');
  return conditions.map(({ condition, celsius }) => {
    const reading = convertUnit(celsius, 'degC', unit);
    const values = invertLine(compiled, reading);
    const counts = values[0]!;
    const perCount = Math.abs(slopeAtRest(compiled, counts));
    return {
      condition,
      reading,
      ohm: ohmAt > 0 ? values[ohmAt]! : null,
      volt: adc
        ? (counts / fullScale(Number(adc.spec.params['bits']))) * Number(adc.spec.params['referenceV'])
        : null,
      counts,
      countsTolerance: convertDifference(brief.tolerance, brief.unit, unit) / perCount,
    };
  });
}

/** Whether a line can tell the table above: it ends in a temperature and every stage walks backwards. */
export function canExpectReadings(line: LineSpec): boolean {
  return (
    line.stages.some((s) => s.kind.startsWith('thermistor') || s.kind === 'steinhart-hart') &&
    line.stages.every((s) => stageKind(s.kind))
  );
}
