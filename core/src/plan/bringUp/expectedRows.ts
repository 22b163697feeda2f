import { compileLine, type CompiledLine } from '../../line/compile.ts';
import { invertLanes } from '../../line/invert.ts';
import { LineError } from '../../stage/contract.ts';
import { lineUncertainty } from '../../line/uncertainty.ts';
import type { Ask, Channel, Place } from '../../model/gadget.ts';
import type { LineSpec } from '../../model/line.ts';
import type { SensorPart } from '../../model/part.ts';
import { convertDifference, convertUnit, UNITS, type UnitId } from '../../units/index.ts';
import { asBought } from '../../prove/sensorOwn.ts';
import { homeConditions, type HomeCondition } from './conditions.ts';

export interface ExpectedColumn {
  readonly column: string;
  readonly unit: UnitId;
  readonly value: number;
  /** Either way, in the same unit: what the part may be off as bought, and the brief's tolerance. */
  readonly tolerance: number;
}

export interface ExpectedRow {
  readonly condition: string;
  /** What the channel should show, in `unit`; one value, or one for each axis. */
  readonly reading: readonly number[];
  readonly readingTolerance: number;
  readonly unit: UnitId;
  /** Raw columns; empty where the line cannot be walked backwards and only the reading can be judged. */
  readonly raw: readonly ExpectedColumn[];
  readonly ohm: number | null;
  /** Volts at the pin; null without a converter. */
  readonly volt: number | null;
}

/**
 * What a channel should show at conditions that one can make, from its line walked backwards, as bought: seen at first
 * power-up, a wrong figure tells of a wiring or unit slip.
 * @param line the channel's line, without its calibration
 * @param tolerance the brief's, in the sensed unit; null without a brief
 */
export function expectedRows(
  channel: Pick<Channel, 'line'>,
  ask: Ask,
  place: Place,
  part: SensorPart | null,
  sampleRateHz: number,
): ExpectedRow[] {
  const sensed = ask.sensed ?? ask;
  return homeConditions(ask, place, part).flatMap((home): ExpectedRow[] => {
    // A part may be off as it is bought; without a part the brief's tolerance stands in.
    const half = (value: number) =>
      part && UNITS[part.unit].dimension === UNITS[home.unit].dimension
        ? convertDifference(asBought(part, convertUnit(value, home.unit, part.unit)), part.unit, home.unit)
        : convertDifference(sensed.tolerance, sensed.unit, home.unit);
    const row = rowFor(channel.line, home, half, sampleRateHz);
    return row ? [row] : [];
  });
}

function rowFor(
  spec: LineSpec,
  home: HomeCondition,
  half: (value: number) => number,
  sampleRateHz: number,
): ExpectedRow | null {
  const ac = spec.stages.find((s) => s.kind === 'ac-power' && !s.off);
  if (ac) return acRow(spec, home, half);
  const line = prefixGiving(spec, home, sampleRateHz);
  if (!line) return null;
  const unit = line.outputs[0]!.unit;
  const to = (v: number) => convertUnit(v, home.unit, unit);
  const reading = home.values.map(to);
  const readingTolerance = convertDifference(Math.max(...home.values.map(half)), home.unit, unit);
  const plain = { condition: home.condition, reading, readingTolerance, unit };
  try {
    const lanes = invertLanes(line, reading);
    const raw = lanes[0]!;
    const aside = [1, -1].map(
      (sign) =>
        invertLanes(
          line,
          reading.map((v) => v + sign * readingTolerance),
        )[0]!,
    );
    const constants = constantsIn(line, raw);
    const ohmAt = line.stages.findIndex((s) => s.outputs[0]!.unit === 'ohm') + 1;
    return {
      ...plain,
      raw: line.sources.map((source, i) => {
        // Beside the end of a curve only one of the two sides has a raw value.
        const sides = aside.map((a) => Math.abs(a[i]! - raw[i]!)).filter(Number.isFinite);
        const slopeHalf = sides.length > 0 ? sides.reduce((a, b) => a + b, 0) / sides.length : 0;
        return {
          column: source.name,
          unit: source.unit,
          value: raw[i]!,
          tolerance: Math.max(
            source.unit === 'count' ? 1 : 0,
            Number.isFinite(slopeHalf)
              ? Math.hypot(slopeHalf, (slopeHalf * constants) / readingTolerance)
              : 0,
          ),
        };
      }),
      ohm: ohmAt > 0 ? lanes[ohmAt]![0]! : null,
      volt: voltAt(line, raw[0]!),
    };
  } catch (error) {
    if (!(error instanceof LineError)) throw error;
    // Rates, headings and lengths come from how raw values change: only the reading can be told.
    return {
      ...plain,
      readingTolerance: Math.max(readingTolerance, 0.1 * Math.max(...reading.map(Math.abs))),
      raw: [],
      ohm: null,
      volt: null,
    };
  }
}

/** Expanded uncertainty of the reading by the line's constants as marked; 0 for lines of several columns. */
function constantsIn(line: CompiledLine, raw: readonly number[]): number {
  if (line.sources.length > 1 || line.stages.length === 0) return 0;
  const systematic = lineUncertainty(line, raw[0]!, 0).at(-1)!.systematic;
  return Number.isFinite(systematic) ? 2 * systematic : 0;
}

/** The line up to the stage that gives what the condition speaks of: three axes before their magnitude, volts before a rate. */
function prefixGiving(spec: LineSpec, home: HomeCondition, sampleRateHz: number): CompiledLine | null {
  for (let n = spec.stages.length; n >= 0; n--) {
    const line = compileLine({ ...spec, stages: spec.stages.slice(0, n) }, { sampleRateHz });
    const fits =
      line.outputs.length === home.values.length &&
      line.outputs.every((lane) => UNITS[lane.unit].dimension === UNITS[home.unit].dimension);
    if (fits) return line;
  }
  return null;
}

function voltAt(line: CompiledLine, code: number): number | null {
  const adc = line.stages.find((s) => s.spec.kind === 'adc');
  if (!adc) return null;
  const { bits, referenceV } = adc.spec.params;
  return (code / (2 ** Number(bits) - 1)) * Number(referenceV);
}

/** Alternating voltage and current swing about a middle: at rest both columns stand at their bias. */
function acRow(spec: LineSpec, home: HomeCondition, half: (value: number) => number): ExpectedRow | null {
  const params = spec.stages.find((s) => s.kind === 'ac-power')!.params;
  const [unitName, perUnit, bias, at] =
    home.unit === 'V'
      ? (['V', 'voltsPerUnit', 'voltageBias', 0] as const)
      : (['A', 'amperesPerUnit', 'currentBias', 1] as const);
  const source = spec.sources[at];
  const [value] = home.values;
  // Direct voltage on an alternating input stands off the middle by its counts.
  if (!source || home.unit !== unitName) return null;
  // A transformer on the current passes no direct current: only its rest can be checked so.
  if (unitName === 'A' && value !== 0) return null;
  const scale = Number(params[perUnit]);
  return {
    condition: value === 0 ? home.condition : `${home.condition}, DC`,
    reading: [value!],
    readingTolerance: half(value!),
    unit: home.unit,
    raw: [
      {
        column: source.column,
        unit: source.unit,
        value: Number(params[bias]) + value! / scale,
        tolerance: Math.max(1, half(value!) / Math.abs(scale)),
      },
    ],
    ohm: null,
    volt: null,
  };
}
