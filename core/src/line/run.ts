import type { CompiledStage } from './compile.ts';
import { codeTables, type CodeTables } from './codeTables.ts';
import { REASON, type Block } from './stage.ts';

/** Samples processed at a time: small enough that every intermediate column stays in the processor's cache. */
export const BLOCK_SAMPLES = 4096;

export interface LineRun {
  /**
   * Runs samples through the whole line.
   * @param block raw lanes, one for each source of the line, of any length
   * @param visit receives each piece of at most BLOCK_SAMPLES: index 0 is the raw block, index k the output of stage k.
   *   The blocks are reused: copy what must be kept. Stages that were not asked for hold nothing of use.
   */
  process(block: Block, visit: (stages: readonly Block[]) => void): void;
}

/** Starts a run of compiled stages; see CompiledLine.start. */
export function startRun(
  sourceCount: number,
  stages: readonly CompiledStage[],
  wanted?: readonly number[],
): LineRun {
  const runners = stages.map((stage) => stage.kind.prepare(stage.spec.params, stage.context));
  const blocks = [emptyBlock(sourceCount), ...stages.map((stage) => emptyBlock(stage.outputs.length))];
  const isWanted = blocks.map((_, k) => k === stages.length || !wanted || wanted.includes(k));
  const plan = codeTables(stages);
  let tables: CodeTables | null = null;
  let seen = 0;
  return {
    process(block, visit) {
      if (block.lanes.length !== sourceCount)
        throw new RangeError(`The line has ${sourceCount} sources; received ${block.lanes.length} columns.`);
      for (let from = 0; from < block.length; from += BLOCK_SAMPLES) {
        const length = Math.min(block.length - from, BLOCK_SAMPLES);
        fillRaw(blocks[0]!, block, from, length);
        seen += length;
        // A table pays off once about as many samples have come as it has entries.
        if (plan && !tables && seen + block.length - from >= plan.size) tables = plan.build();
        const fused = tables?.run(blocks, isWanted) ?? 0;
        for (let k = fused; k < runners.length; k++) runners[k]!.run(blocks[k]!, blocks[k + 1]!);
        visit(blocks);
      }
    },
  };
}

function fillRaw(raw: Block, block: Block, from: number, length: number): void {
  raw.length = length;
  raw.times = block.times.subarray(from, from + length);
  block.lanes.forEach((lane, i) => {
    const target = raw.lanes[i]!;
    target.values.set(lane.values.subarray(from, from + length));
    target.reasons.set(lane.reasons.subarray(from, from + length));
    const { values, reasons } = target;
    for (let k = 0; k < length; k++) {
      // A NaN that arrives without a reason is a missing reading.
      if (reasons[k] === REASON.ok && !Number.isFinite(values[k])) reasons[k] = REASON.missing;
    }
  });
}

function emptyBlock(laneCount: number): Block {
  return {
    length: 0,
    times: new Float64Array(0),
    lanes: Array.from({ length: laneCount }, () => ({
      values: new Float64Array(BLOCK_SAMPLES),
      reasons: new Uint8Array(BLOCK_SAMPLES),
    })),
  };
}
