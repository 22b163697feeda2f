import type { CompiledLine } from './compile.ts';
import type { Block } from './stage.ts';

export interface Taps {
  readonly times: Float64Array;
  /** For each tapped stage (0 = raw, k = after stage k), its first lane. */
  readonly values: Float64Array[];
  readonly reasons: Uint8Array[];
}

/**
 * Runs a whole recording through a line and keeps the columns after chosen stages.
 * @param block raw lanes of the line's sources
 * @param stages which stages to keep: 0 is the raw column, `line.stages.length` the result
 */
export function runLine(
  line: CompiledLine,
  block: Block,
  stages: readonly number[] = [line.stages.length],
): Taps {
  const values = stages.map(() => new Float64Array(block.length));
  const reasons = stages.map(() => new Uint8Array(block.length));
  let at = 0;
  line.start().process(block, (blocks) => {
    stages.forEach((stage, k) => {
      const lane = blocks[stage]!.lanes[0]!;
      const length = blocks[stage]!.length;
      values[k]!.set(lane.values.subarray(0, length), at);
      reasons[k]!.set(lane.reasons.subarray(0, length), at);
    });
    at += blocks[0]!.length;
  });
  return { times: block.times.subarray(0, block.length), values, reasons };
}

/** A block of one lane without bad samples, from plain arrays. */
export function singleLane(times: Float64Array, values: Float64Array): Block {
  return { length: values.length, times, lanes: [{ values, reasons: new Uint8Array(values.length) }] };
}
