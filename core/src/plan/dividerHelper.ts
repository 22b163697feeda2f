import { compileLine } from '../line/compile.ts';
import { invertLine } from '../line/invert.ts';
import { slopeAtRest } from '../line/atRest.ts';
import { LineError } from '../stage/contract.ts';
import type { LineSpec } from '../model/line.ts';
import { selfHeating } from './inputFilter.ts';

export interface DividerCurve {
  readonly seriesOhm: number;
  /** Reading, in the line's unit, evenly over the range. */
  readonly at: number[];
  /** Step of one code there, in the line's unit. */
  readonly step: number[];
  /** Error by the sensor's own heat there, K; 0 for sensors that are no thermometers. */
  readonly heatK: number[];
  readonly worstStep: number;
}

/** The divider of a line, or null when it has none. */
export const dividerOf = (line: LineSpec) =>
  line.stages.find((s) => s.kind === 'divider' || s.kind === 'load-resistor') ?? null;

/** The line with another series or load resistor. */
export function withSeriesResistor(line: LineSpec, ohm: number): LineSpec {
  const stage = dividerOf(line);
  const name = stage?.kind === 'load-resistor' ? 'loadOhm' : 'seriesOhm';
  return {
    ...line,
    stages: line.stages.map((s) => (s === stage ? { ...s, params: { ...s.params, [name]: ohm } } : s)),
  };
}

/**
 * Resolution and self-heating of a divider over a range, for a series resistor.
 * @param low and high in the line's reading unit
 * @param wattsPerKelvin what the sensor sheds: about 2 mW/K for a bead in still air, 8 in water
 * @returns null when the line has no divider or cannot be walked backwards
 */
export function dividerCurve(
  line: LineSpec,
  seriesOhm: number,
  low: number,
  high: number,
  sampleRateHz: number,
  wattsPerKelvin: number,
  points = 41,
): DividerCurve | null {
  if (!dividerOf(line)) return null;
  try {
    const spec = withSeriesResistor(line, seriesOhm);
    const compiled = compileLine(spec, { sampleRateHz });
    const adc = compiled.stages.find((s) => s.spec.kind === 'adc');
    const supply = Number(dividerOf(spec)!.params['supplyV'] ?? adc?.spec.params['referenceV'] ?? 5);
    const ohmAt = compiled.stages.findIndex((s) => s.outputs[0]!.unit === 'ohm') + 1;
    const at = Array.from({ length: points }, (_, i) => low + ((high - low) * i) / (points - 1));
    const walked = at.map((reading) => invertLine(compiled, reading));
    const step = walked.map((values) => Math.abs(slopeAtRest(compiled, values[0]!)));
    return {
      seriesOhm,
      at,
      step,
      heatK: walked.map((values) => selfHeating(supply, values[ohmAt]!, seriesOhm, wattsPerKelvin).errorK),
      worstStep: Math.max(...step),
    };
  } catch (error) {
    if (error instanceof LineError) return null;
    throw error;
  }
}
