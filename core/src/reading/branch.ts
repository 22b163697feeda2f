import { compileLine } from '../line/compile.ts';
import type { CompiledLine, CompiledStage, LineMemory, LineRun } from '../line/compiledLine.ts';
import type { Block, Lane, PrepareContext } from '../stage/contract.ts';
import { emptyBlock } from '../stage/emptyBlock.ts';
import { Beside, type BesideMemory, type OtherLine } from './beside.ts';
import type { RawRows } from './rawLanes.ts';

/** The stages of a channel behind those that it shares with others, at work. */
export interface Branch {
  /** Rows, before what is made of them is processed: for what other channels read of them. */
  hear(rows: RawRows): void;
  /** @param give receives a block for each stage; they are used again */
  process(end: Block, give: (behind: readonly Block[]) => void): void;
  save(): LineMemory;
  /** @throws {RangeError} when it is another line's */
  restore(saved: LineMemory): void;
}

/** Stages of one kind of running: by themselves, or one that takes what other channels read. */
type Step =
  | { readonly run: LineRun; readonly nothing: readonly Block[]; readonly beside: null }
  | { readonly beside: Beside; readonly run: null };

/**
 * @param trunk the stages before, with their columns and their rate
 * @param others the lines of other channels that a stage over channels takes, in its order
 */
export function startBranch(
  stages: readonly CompiledStage[],
  trunk: CompiledLine,
  slowestHz: number | undefined,
  others: (stage: CompiledStage) => readonly OtherLine[],
): Branch {
  const steps: Step[] = [];
  let before: { lanes: readonly Lane[]; context: PrepareContext } = {
    lanes: trunk.outputs,
    context: { sampleRateHz: trunk.outputRateHz, slowestHz },
  };
  for (let from = 0; from < stages.length;) {
    const next = stages.findIndex((s, k) => k >= from && s.kind.over);
    const to = next < 0 ? stages.length : Math.max(next, from);
    if (to > from) {
      const line = compileLine(
        {
          sources: before.lanes.map(({ name, unit }, i) => ({ column: name || `c${i + 1}`, unit })),
          stages: stages.slice(from, to).map((s) => s.spec),
        },
        before.context,
      );
      steps.push({
        run: line.start(),
        nothing: line.stages.map((s) => emptyBlock(s.outputs.length)),
        beside: null,
      });
      before = { lanes: line.outputs, context: { sampleRateHz: line.outputRateHz, slowestHz } };
    }
    if (next < 0) break;
    const stage = stages[next]!;
    steps.push({ beside: new Beside(stage.kind, stage.spec.params, others(stage)), run: null });
    from = next + 1;
  }
  return {
    hear(rows) {
      for (const { beside } of steps) beside?.hear(rows);
    },
    process(end, give) {
      const behind: Block[] = [];
      let now = end;
      for (const step of steps) {
        if (step.beside) behind.push((now = step.beside.through(now)));
        else if (now.length === 0) behind.push(...step.nothing);
        else
          step.run.process(now, (blocks) => {
            behind.push(...blocks.slice(1));
          });
        now = behind.at(-1) ?? now;
      }
      give(behind);
    },
    save: () => ({
      stages: steps.flatMap(({ run, beside }) => (beside ? [beside.save()] : run.save().stages)),
    }),
    restore({ stages: saved }) {
      let at = 0;
      for (const { run, beside } of steps) {
        if (beside) beside.restore(saved[at++] as BesideMemory);
        else {
          const { length } = run.save().stages;
          run.restore({ stages: saved.slice(at, at + length) });
          at += length;
        }
      }
    },
  };
}
