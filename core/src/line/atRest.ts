import type { CompiledLine } from './compile.ts';
import { LineError, type StageKind, type StageParams } from '../stage/contract.ts';

/** A raw value held still, or one for each source of the line. */
export type Raw = number | readonly number[];

/**
 * Columns after each stage for raw values held still: index 0 is the raw values. A filter passes a resting value, or
 * takes it away; a stage that only has meaning over time gives NaN.
 * @throws {LineError} when there are not as many raw values as sources
 */
export function lanesAtRest(line: CompiledLine, raw: Raw): number[][] {
  let values = typeof raw === 'number' ? [raw] : [...raw];
  if (values.length !== line.sources.length)
    throw new LineError(
      null,
      `The line has ${line.sources.length} raw columns (${line.sources.map((s) => s.name).join(', ')}), but received ${values.length} values.`,
    );
  const all = [values];
  for (const { kind, spec, outputs } of line.stages) {
    values = restingStage(kind, spec.params, outputs.length)(values);
    all.push(values);
  }
  return all;
}

/** What a stage makes of values held still. @param outputs how many columns it gives */
export function restingStage(
  kind: StageKind,
  params: StageParams,
  outputs: number,
): (values: readonly number[]) => number[] {
  const unknown = () => new Array<number>(outputs).fill(Number.NaN);
  if (kind.scalar) {
    const { forward } = kind.scalar(params);
    return (values) => values.map((x) => (Number.isNaN(x) ? x : forward(x)));
  }
  if (kind.vector) {
    const { forward } = kind.vector(params);
    return (values) => (values.some(Number.isNaN) ? unknown() : forward([...values]));
  }
  if (kind.role !== 'filter' || !kind.lanewise) return unknown;
  const settled = { passes: (x: number) => x, zero: () => 0, none: () => Number.NaN }[
    kind.atRest ?? 'passes'
  ];
  return (values) => values.map(settled);
}

/** First column after each stage for a raw value held still: index 0 is the raw value. */
export function valuesAtRest(line: CompiledLine, raw: Raw): number[] {
  return lanesAtRest(line, raw).map((values) => values[0]!);
}

/** `readingAtRest` of one line for many raw values: its stages are prepared once. */
export function readerAtRest(line: CompiledLine): (raw: number) => number {
  if (line.sources.length !== 1) return (raw) => readingAtRest(line, raw);
  const stages = line.stages.map(({ kind, spec, outputs }) =>
    restingStage(kind, spec.params, outputs.length),
  );
  return (raw) => stages.reduce<number[]>((values, settle) => settle(values), [raw])[0]!;
}

/** The reading for one raw value held still: the first column at the end. */
export function readingAtRest(line: CompiledLine, raw: Raw): number {
  return valuesAtRest(line, raw)[line.stages.length]!;
}

/**
 * Slope of the reading against the raw value: the stages' own derivatives chained, by central differences where one has
 * none. For lines with one source.
 */
export function slopeAtRest(line: CompiledLine, raw: number): number {
  const values = valuesAtRest(line, raw);
  return line.stages.reduce((slope, { kind, spec }, k) => {
    if (!kind.scalar) return kind.atRest === 'zero' ? 0 : kind.atRest === 'none' ? Number.NaN : slope;
    const map = kind.scalar(spec.params);
    const x = values[k]!;
    if (map.derivative) return slope * map.derivative(x);
    const h = Math.max(1e-6, Math.abs(x) * 1e-5);
    return (slope * (map.forward(x + h) - map.forward(x - h))) / (2 * h);
  }, 1);
}
