import type { CompiledLine, CompiledStage } from './compile.ts';
import { LineError } from '../stage/contract.ts';

/**
 * Walks readings back through the line: what each stage would have to give for them.
 * @param readings one for each column at the end
 * @returns index 0 is the raw values (not rounded to codes), index k the columns after stage k
 * @throws {LineError} when a stage on the way has no inverse
 */
export function invertLanes(line: CompiledLine, readings: readonly number[]): number[][] {
  const all = Array<number[]>(line.stages.length + 1);
  all[line.stages.length] = [...readings];
  for (let k = line.stages.length; k > 0; k--) {
    const stage = line.stages[k - 1]!;
    all[k - 1] = before(stage, all[k]!);
  }
  return all;
}

/** As invertLanes, for the first column of a line of one. */
export function invertLine(line: CompiledLine, reading: number): number[] {
  return invertLanes(line, [reading]).map((values) => values[0]!);
}

function before({ kind, spec }: CompiledStage, values: readonly number[]): number[] {
  if (kind.scalar) {
    const { inverse } = kind.scalar(spec.params);
    if (inverse) return values.map(inverse);
  } else if (kind.vector) {
    const { inverse } = kind.vector(spec.params);
    if (inverse) return inverse(values);
  } else if (kind.role === 'filter' && kind.lanewise && (kind.atRest ?? 'passes') === 'passes')
    return [...values];
  throw new LineError(
    spec,
    `The “${kind.title}” stage cannot be inverted, so the expected raw value cannot be calculated. Replace the stage, or measure the raw value.`,
  );
}
