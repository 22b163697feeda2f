import type { LineSpec, StageSpec } from '../model/line.ts';
import { UNITS } from '../units/index.ts';
import { checkParams } from '../stage/checkParams.ts';
import { stageKind } from './registry.ts';
import type { CompiledLine, CompiledStage } from './compiledLine.ts';
import { startRun } from './run.ts';

export type { CompiledLine, CompiledStage } from './compiledLine.ts';
import { LineError, type Lane, type PrepareContext } from '../stage/contract.ts';

/**
 * Checks a line's parameters and units once and returns it ready to run.
 * @throws {LineError} naming the stage, the rule, the value and the way out
 */
export function compileLine(spec: LineSpec, context: PrepareContext): CompiledLine {
  if (!(context.sampleRateHz > 0) || !Number.isFinite(context.sampleRateHz)) {
    throw new LineError(null, `A line needs a sample rate above 0 Hz; received ${context.sampleRateHz}.`);
  }
  const sources = spec.sources.map(({ column, unit }) => ({ name: column, unit }));
  let lanes: Lane[] = sources;
  let rate = context.sampleRateHz;
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
    const here = { ...context, sampleRateHz: rate };
    const units = attempt(stage, () => {
      checkParams(kind, stage.params);
      const given = kind.signature(stage.params, inputs);
      kind.prepare(stage.params, here);
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
    const before = lanes;
    const names = kind.names?.(
      stage.params,
      before.map((lane) => lane.name),
    );
    lanes = units.map((unit, i) => ({ name: names?.[i] ?? before[i]?.name ?? `${stage.id}-${i + 1}`, unit }));
    stages.push({ spec: stage, kind, outputs: lanes, context: here });
    rate = kind.rateOut?.(stage.params, rate) ?? rate;
  }
  return {
    spec,
    sources,
    stages,
    outputs: lanes,
    context,
    outputRateHz: rate,
    start: (wanted) => startRun(sources.length, stages, wanted),
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
