import type { CompiledStage, LineRun } from './compiledLine.ts';
import { codeTables, type CodeTables } from './codeTables.ts';
import { REASON, type Block } from '../stage/contract.ts';
import { emptyBlock } from '../stage/emptyBlock.ts';
import { roomFor } from '../stage/roomFor.ts';

/** Samples processed at a time: small enough that every intermediate column stays in the processor's cache. */
export const BLOCK_SAMPLES = 4096;

/** Starts a run of compiled stages; see CompiledLine.start. */
export function startRun(
  sourceCount: number,
  stages: readonly CompiledStage[],
  wanted?: readonly number[],
): LineRun {
  const runners = stages.map((stage) => stage.kind.prepare(stage.spec.params, stage.context));
  const blocks = [emptyBlock(sourceCount), ...stages.map((stage) => emptyBlock(stage.outputs.length))];
  let room = 0;
  const isWanted = blocks.map((_, k) => k === stages.length || !wanted || wanted.includes(k));
  const plan = codeTables(stages);
  let tables: CodeTables | null = null;
  let seen = 0;
  return {
    process(block, visit) {
      if (block.lanes.length !== sourceCount)
        throw new RangeError(
          `The line has ${sourceCount} sources, but received ${block.lanes.length} columns.`,
        );
      for (let from = 0; from < block.length; from += BLOCK_SAMPLES) {
        const length = Math.min(block.length - from, BLOCK_SAMPLES);
        // A slow gadget brings a few samples at a time: room for a whole piece would be most of what it costs.
        if (room < length) makeRoom(blocks, (room = roomFor(length)));
        fillRaw(blocks[0]!, block, from, length);
        seen += length;
        // A table pays off once about as many samples have come as it has entries.
        if (plan && !tables && seen + block.length - from >= plan.size) tables = plan.build();
        const fused = tables?.run(blocks, isWanted) ?? 0;
        // Whole codes that the tables took are finite; anything else is looked at first.
        if (fused === 0) markMissingReadings(blocks[0]!);
        for (let k = fused; k < runners.length; k++) runners[k]!.run(blocks[k]!, blocks[k + 1]!);
        visit(blocks);
      }
    },
    save: () => ({ stages: runners.map((runner) => runner.save()) }),
    restore(saved) {
      if (saved.stages.length !== runners.length)
        throw new RangeError(
          `The line has ${runners.length} stages, but the saved state has ${saved.stages.length}. Start again.`,
        );
      runners.forEach((runner, k) => runner.restore(saved.stages[k]!));
    },
  };
}

/** Makes room behind each stage; the raw block looks at what comes in where it lies. */
function makeRoom(blocks: readonly Block[], room: number): void {
  for (const { lanes } of blocks.slice(1))
    lanes.forEach((_, k) => {
      lanes[k] = { values: new Float64Array(room), reasons: new Uint8Array(room) };
    });
}

/** Looks at the recording where it lies, without a copy. */
function fillRaw(raw: Block, block: Block, from: number, length: number): void {
  raw.length = length;
  raw.times = block.times.subarray(from, from + length);
  for (let k = 0; k < block.lanes.length; k++) {
    raw.lanes[k] = {
      values: block.lanes[k]!.values.subarray(from, from + length),
      reasons: block.lanes[k]!.reasons.subarray(from, from + length),
    };
  }
}

/** Only a column with a reading to mark is copied: what came in is never written to. */
function markMissingReadings(raw: Block): void {
  for (let k = 0; k < raw.lanes.length; k++) {
    if (allFinite(raw.lanes[k]!.values, raw.length)) continue;
    const { values, reasons } = raw.lanes[k]!;
    raw.lanes[k] = { values: values.slice(), reasons: reasons.slice() };
    markMissing(raw.lanes[k]!.values, raw.lanes[k]!.reasons, raw.length);
  }
}

function allFinite(values: Float64Array, length: number): boolean {
  // A number less itself is 0 unless it is NaN or infinite, and so is the sum of such differences. Four sums, or each
  // addition would wait for the one before.
  let a = 0;
  let b = 0;
  let c = 0;
  let d = 0;
  let i = 0;
  for (; i + 3 < length; i += 4) {
    const p = values[i]!;
    const q = values[i + 1]!;
    const r = values[i + 2]!;
    const s = values[i + 3]!;
    a += p - p;
    b += q - q;
    c += r - r;
    d += s - s;
  }
  for (; i < length; i++) a += values[i]! - values[i]!;
  return a + b + c + d === 0;
}

/** A reading that arrives as no finite number, without a reason, is a missing one. */
function markMissing(values: Float64Array, reasons: Uint8Array, length: number): void {
  for (let i = 0; i < length; i++) {
    if (!Number.isFinite(values[i]) && reasons[i] === REASON.ok) reasons[i] = REASON.missing;
  }
}
