import type { LineSpec, StageSpec } from '../model/line.ts';
import type { BoardPart, ConverterPart, SensorPart } from '../model/part.ts';
import { fullScale } from '../stages/adc.ts';

/** What turns a sensor's volts into codes: the board's converter, or one between, with an amplifier's gain before it. */
export interface Digitiser {
  readonly title: string;
  readonly bits: number;
  /** Volts at the sensor's output that give the full-scale code. */
  readonly fullScaleV: number;
  readonly noiseCounts: number;
  /** Conversions a second, all inputs together. */
  readonly rateHz: number;
}

/** Null for a sensor that sends numbers, codes, edges or echo times of its own. */
export function digitiserOf(
  part: SensorPart,
  board: BoardPart,
  converter: ConverterPart | null,
): Digitiser | null {
  if (!isAnalog(part)) return null;
  if (converter?.digitises)
    return {
      title: converter.title,
      bits: converter.bits,
      fullScaleV: converter.referenceV,
      noiseCounts: converter.noiseCounts,
      rateHz: converter.rateHz,
    };
  return {
    title: converter ? `${converter.title} with the board’s ADC` : `the ADC of the ${board.title}`,
    bits: board.bits,
    fullScaleV: board.referenceV / (converter?.gain ?? 1),
    noiseCounts: board.noiseCounts,
    rateHz: Math.min(board.analogHz, converter?.rateHz ?? Infinity),
  };
}

const ANALOG: readonly SensorPart['signal'][] = [
  'voltage',
  'bridge',
  'light',
  'thermistor',
  'heated element',
];
export const isAnalog = (part: SensorPart): boolean => ANALOG.includes(part.signal);

/** Volts of one code at the sensor's output. */
export const codeVolts = (d: Digitiser): number => d.fullScaleV / fullScale(d.bits);

const stage = (
  id: string,
  kind: string,
  params: StageSpec['params'],
  uncertainty: StageSpec['uncertainty'] = {},
): StageSpec => ({ id, kind, params, uncertainty, off: false });

const rectangular = (halfWidth: number) => halfWidth / Math.sqrt(3);

/** Names of the raw columns of a channel: its own id, or x, y, z behind it. */
function columnsFor(column: string, count: number): string[] {
  if (count === 1) return [column];
  const axes = count === 6 ? ['mx', 'my', 'mz', 'ax', 'ay', 'az'] : ['x', 'y', 'z'];
  return Array.from({ length: count }, (_, i) => `${column}_${axes[i] ?? i + 1}`);
}

/**
 * The line a sensor would have on this board, from its raw column to its reading, as bought: the uncertainties are those of
 * its constants as marked. A line for what is worked out from the reading (strokes, headings) goes on from there.
 */
export function lineForSensor(
  part: SensorPart,
  board: BoardPart,
  converter: ConverterPart | null,
  column: string,
): LineSpec {
  const digitiser = digitiserOf(part, board, converter);
  const counts = columnsFor(column, part.columns).map((name) => ({ column: name, unit: 'count' as const }));
  const linear = (slope: number, intercept: number) =>
    stage(
      'scale',
      'linear',
      { slope, intercept, to: part.unit },
      {
        slope: rectangular(Math.abs(slope) * part.accuracyShare),
        intercept: rectangular(part.accuracyFixed),
      },
    );
  if (!digitiser) {
    switch (part.signal) {
      case 'number':
        return { sources: [{ column, unit: part.unit }], stages: [] };
      case 'echo':
        return {
          sources: [{ column, unit: 'us' }],
          stages: [
            stage(
              'echo',
              'time-of-flight',
              { airC: 20, path: 'there and back', offsetM: 0, from: 'us' },
              { airC: rectangular(5), offsetM: rectangular(part.accuracyFixed) },
            ),
          ],
        };
      case 'edges':
        return {
          sources: counts,
          stages: [
            part.measurand === 'rotation'
              ? stage('rate', 'gate-rate', { marks: 1, gateS: 1, to: part.unit })
              : linear(part.step, 0),
          ],
        };
      default:
        return { sources: counts, stages: codesToReading(part, linear) };
    }
  }
  const adc = (gives: 'ratio' | 'volt') =>
    stage('adc', 'adc', {
      bits: digitiser.bits,
      // The stage's reference may be as small as a bridge's millivolts, gain counted in.
      referenceV: digitiser.fullScaleV,
      gives,
    });
  switch (part.signal) {
    case 'thermistor':
      return {
        sources: counts,
        stages: [
          adc('ratio'),
          stage(
            'divider',
            'divider',
            { seriesOhm: part.seriesOhm, side: 'top' },
            { seriesOhm: rectangular(0.01 * part.seriesOhm) },
          ),
          stage(
            'thermistor',
            'thermistor-beta',
            { r0Ohm: part.r0Ohm, t0C: 25, betaK: part.betaK },
            { r0Ohm: rectangular(0.01 * part.r0Ohm), betaK: rectangular(0.01 * part.betaK) },
          ),
        ],
      };
    case 'heated element':
      return {
        sources: counts,
        stages: [
          adc('volt'),
          stage(
            'load',
            'load-resistor',
            // The heater has its own volts; the measuring circuit hangs on the board's, so that no vapour can drive the pin beyond it.
            { loadOhm: part.seriesOhm, supplyV: board.logicV },
            { loadOhm: rectangular(0.05 * part.seriesOhm) },
          ),
          stage(
            'clean-air',
            'ratio-to-baseline',
            { baseline: part.r0Ohm, factor: 1 },
            { baseline: rectangular(0.3 * part.r0Ohm) },
          ),
          stage(
            'curve',
            'power-law',
            { factor: part.baseline, exponent: part.exponent, to: part.unit },
            { exponent: rectangular(0.05 * Math.abs(part.exponent)) },
          ),
        ],
      };
    case 'light':
      return {
        sources: counts,
        stages: [
          adc('volt'),
          stage(
            'blank',
            'ratio-to-baseline',
            { baseline: part.zeroV, factor: 1 },
            { baseline: rectangular(0.1 * part.zeroV) },
          ),
          stage('absorbance', 'formula', { expression: '-log10(x)', to: part.unit }),
        ],
      };
    case 'bridge':
      return { sources: counts, stages: [adc('volt'), linear(part.high / part.fullV, 0)] };
    default: {
      const slope = (part.high - part.low) / (part.fullV - part.zeroV);
      return { sources: counts, stages: [adc('volt'), linear(slope, part.low - slope * part.zeroV)] };
    }
  }
}

function codesToReading(
  part: SensorPart,
  linear: (slope: number, intercept: number) => StageSpec,
): StageSpec[] {
  const scale = [part.step, 0, 0, 0, part.step, 0, 0, 0, part.step];
  switch (part.columns) {
    case 1:
      return [linear(part.step, 0)];
    case 2:
      return part.measurand === 'displacement'
        ? [
            stage('length', 'counts-to-length', {
              perMmX: 1 / (1000 * part.step),
              perMmY: 1 / (1000 * part.step),
              mode: 'along x',
            }),
          ]
        : [linear(part.step, 0)];
    case 3:
      return [stage('axes', 'vector-correction', { offset: [0, 0, 0], matrix: scale, to: part.unit })];
    default:
      return part.measurand === 'heading'
        ? [stage('heading', 'heading', { declinationDeg: 0, mountingDeg: 0 })]
        : [linear(part.step, 0)];
  }
}
