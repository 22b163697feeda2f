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

/** Slope of the reading against the raw value, by central differences over a thousandth of the raw value. */
export function slopeAtRest(line: CompiledLine, raw: number): number {
  const h = Math.max(1e-3, Math.abs(raw) * 1e-4);
  return (readingAtRest(line, raw + h) - readingAtRest(line, raw - h)) / (2 * h);
}
