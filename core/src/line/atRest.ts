import type { CompiledLine } from './compile.ts';

/** Value after each stage for one raw value held still: index 0 is the raw value. Filters pass a resting value unchanged. */
export function valuesAtRest(line: CompiledLine, raw: number): number[] {
  const values = [raw];
  for (const stage of line.stages) {
    const x = values[values.length - 1]!;
    values.push(stage.kind.scalar ? stage.kind.scalar(stage.spec.params).forward(x) : x);
  }
  return values;
}

/** The reading for one raw value held still. */
export function readingAtRest(line: CompiledLine, raw: number): number {
  return valuesAtRest(line, raw)[line.stages.length]!;
}

/** Slope of the reading against the raw value: the stages' own derivatives chained, by central differences where one has none. */
export function slopeAtRest(line: CompiledLine, raw: number): number {
  const values = valuesAtRest(line, raw);
  return line.stages.reduce((slope, stage, k) => {
    if (!stage.kind.scalar) return slope;
    const map = stage.kind.scalar(stage.spec.params);
    const x = values[k]!;
    if (map.derivative) return slope * map.derivative(x);
    const h = Math.max(1e-6, Math.abs(x) * 1e-5);
    return (slope * (map.forward(x + h) - map.forward(x - h))) / (2 * h);
  }, 1);
}
