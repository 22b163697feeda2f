import type { LineSpec, StageSpec } from '../model/line.ts';
import { UNITS } from '../units/index.ts';
import { checkParams } from './checkParams.ts';
import { stageKind } from './registry.ts';
import { LineError, REASON, type Block, type Lane, type PrepareContext, type StageKind } from './stage.ts';

/** Samples processed at a time: small enough that every intermediate column stays in the processor's cache. */
export const BLOCK_SAMPLES = 4096;

export interface CompiledStage {
  readonly spec: StageSpec;
  readonly kind: StageKind;
  readonly outputs: readonly Lane[];
}

export interface LineRun {
  /**
   * Runs samples through the whole line.
   * @param block raw lanes, one for each source of the line, of any length
   * @param visit receives each piece of at most BLOCK_SAMPLES: index 0 is the raw block, index k the output of stage k.
   *   The blocks are reused: copy what must be kept.
   */
  process(block: Block, visit: (stages: readonly Block[]) => void): void;
}

export interface CompiledLine {
  readonly spec: LineSpec;
  readonly sources: readonly Lane[];
  /** The stages that are switched on, in order. */
  readonly stages: readonly CompiledStage[];
  readonly outputs: readonly Lane[];
  readonly context: PrepareContext;
  /** Starts a run with fresh filter state. */
  start(): LineRun;
}

/**
 * Checks a line's parameters and units once and returns it ready to run.
 * @throws {LineError} naming the stage, the rule, the value and the way out
 */
export function compileLine(spec: LineSpec, context: PrepareContext): CompiledLine {
  if (!(context.sampleRateHz > 0)) {
    throw new LineError(null, `A line needs a sample rate above 0 Hz; received ${context.sampleRateHz}.`);
  }
  const sources = spec.sources.map(({ column, unit }) => ({ name: column, unit }));
  let lanes: Lane[] = sources;
  const stages: CompiledStage[] = [];
  for (const stage of spec.stages) {
    const kind = stageKind(stage.kind);
    if (!kind) {
      throw new LineError(
        stage,
        `There is no stage kind "${stage.kind}" in this version. Remove the stage or update Lucky Needle.`,
      );
    }
    const inputs = lanes.map((lane) => lane.unit);
    const units = attempt(stage, () => {
      checkParams(kind, stage.params);
      const given = kind.signature(stage.params, inputs);
      kind.prepare(stage.params, context);
      return given;
    });
    if (stage.off) {
      if (units.join() !== inputs.join()) {
        throw new LineError(
          stage,
          `${kind.title} cannot be switched off: it turns ${inputs.map((u) => UNITS[u].name).join(', ')} into ${units.map((u) => UNITS[u].name).join(', ')}, which the rest of the line needs. Remove it together with what follows.`,
        );
      }
      continue;
    }
    lanes = units.map((unit, i) => ({ name: lanes[i]?.name ?? `${stage.id}-${i + 1}`, unit }));
    stages.push({ spec: stage, kind, outputs: lanes });
  }
  return {
    spec,
    sources,
    stages,
    outputs: lanes,
    context,
    start: () => startRun(sources.length, stages, context),
  };
}

function attempt<T>(stage: StageSpec, action: () => T): T {
  try {
    return action();
  } catch (error) {
    if (error instanceof RangeError || error instanceof TypeError) throw new LineError(stage, error.message);
    throw error;
  }
}

function startRun(sourceCount: number, stages: readonly CompiledStage[], context: PrepareContext): LineRun {
  const runners = stages.map((stage) => stage.kind.prepare(stage.spec.params, context));
  const blocks = [emptyBlock(sourceCount), ...stages.map((stage) => emptyBlock(stage.outputs.length))];
  return {
    process(block, visit) {
      for (let from = 0; from < block.length; from += BLOCK_SAMPLES) {
        const to = Math.min(block.length, from + BLOCK_SAMPLES);
        const raw = blocks[0]!;
        raw.length = to - from;
        raw.times = block.times.subarray(from, to);
        block.lanes.forEach((lane, i) => {
          const target = raw.lanes[i]!;
          target.values.set(lane.values.subarray(from, to));
          target.reasons.set(lane.reasons.subarray(from, to));
          markMissing(target.values, target.reasons, to - from);
        });
        runners.forEach((runner, i) => runner.run(blocks[i]!, blocks[i + 1]!));
        visit(blocks);
      }
    },
  };
}

/** A NaN that arrives without a reason is a missing reading. */
function markMissing(values: Float64Array, reasons: Uint8Array, length: number): void {
  for (let i = 0; i < length; i++) {
    if (reasons[i] === REASON.ok && !Number.isFinite(values[i])) reasons[i] = REASON.missing;
  }
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
