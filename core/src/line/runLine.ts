import type { CompiledLine } from './compile.ts';
import type { Block, LaneData } from '../stage/contract.ts';

/** The columns after one stage of a whole recording. */
export interface Tap {
  readonly times: Float64Array;
  readonly lanes: readonly LaneData[];
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
): Tap[] {
  const kept = stages.map((stage) => ({
    times: new Float64Array(block.length),
    lanes: (stage === 0 ? line.sources : line.stages[stage - 1]!.outputs).map(() => ({
      values: new Float64Array(block.length),
      reasons: new Uint8Array(block.length),
    })),
    length: 0,
  }));
  line.start(stages).process(block, (blocks) => {
    stages.forEach((stage, k) => {
      const tap = kept[k]!;
      const from = blocks[stage]!;
      const at = tap.length;
      tap.times.set(from.times.subarray(0, from.length), at);
      tap.lanes.forEach((lane, j) => {
        lane.values.set(from.lanes[j]!.values.subarray(0, from.length), at);
        lane.reasons.set(from.lanes[j]!.reasons.subarray(0, from.length), at);
      });
      tap.length += from.length;
    });
  });
  return kept.map(({ times, lanes, length }) => ({
    times: times.subarray(0, length),
    lanes: lanes.map((lane) => ({
      values: lane.values.subarray(0, length),
      reasons: lane.reasons.subarray(0, length),
    })),
  }));
}

/** A block of one lane without bad samples, from plain arrays. */
export function singleLane(times: Float64Array, values: Float64Array): Block {
  return lanesOf(times, [values]);
}

/** A block of several lanes without bad samples. */
export function lanesOf(times: Float64Array, columns: readonly Float64Array[]): Block {
  return {
    length: times.length,
    times,
    lanes: columns.map((values) => ({ values, reasons: new Uint8Array(times.length) })),
  };
}
