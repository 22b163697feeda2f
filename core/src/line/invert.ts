import type { CompiledLine } from './compile.ts';
import { LineError } from './stage.ts';

/**
 * Walks a reading back through the line: what each stage would have to give for it.
 * @returns index 0 is the raw value (not rounded to a code), index k the value after stage k
 * @throws {LineError} when a stage on the way has no inverse
 */
export function invertLine(line: CompiledLine, reading: number): number[] {
  const values = Array<number>(line.stages.length + 1);
  values[line.stages.length] = reading;
  for (let k = line.stages.length; k > 0; k--) {
    const stage = line.stages[k - 1]!;
    const y = values[k]!;
    if (!stage.kind.scalar) {
      if (stage.kind.role !== 'filter') throw noInverse(stage.spec);
      values[k - 1] = y;
      continue;
    }
    const { inverse } = stage.kind.scalar(stage.spec.params);
    if (!inverse) throw noInverse(stage.spec);
    values[k - 1] = inverse(y);
  }
  return values;

  function noInverse(spec: (typeof line.stages)[number]['spec']): LineError {
    return new LineError(
      spec,
      `Stage "${spec.kind}" has no inverse, so the expected raw value cannot be worked out. Put in a stage that has one.`,
    );
  }
}
