import type { LineSpec, StageSpec } from '../model/line.ts';
import { UNITS, type UnitId } from '../units/index.ts';
import { checkParams } from '../stage/checkParams.ts';
import { stageKind } from './registry.ts';
import type { CompiledLine, CompiledStage } from './compiledLine.ts';
import { startRun } from './run.ts';

export type { CompiledLine, CompiledStage } from './compiledLine.ts';
import { LineError, type Lane, type PrepareContext, type StageKind } from '../stage/contract.ts';

/**
 * Checks a line's parameters and units once and returns it ready to run.
 * @throws {LineError} naming the stage, the rule, the value and the way out
 */
export function compileLine(spec: LineSpec, context: PrepareContext): CompiledLine {
  if (!(context.sampleRateHz > 0) || !Number.isFinite(context.sampleRateHz)) {
    throw new LineError(null, `Enter a sampling rate above 0 Hz; received ${context.sampleRateHz}.`);
  }
  const sources = spec.sources.map(({ column, unit }) => ({ name: column, unit }));
  const beside = new Map(
    (spec.beside ?? []).map(({ channelId, sources: from, stages: through, slowestHz }) => [
      channelId,
      compileLine({ sources: from, stages: through }, { sampleRateHz: context.sampleRateHz, slowestHz }),
    ]),
  );
  let lanes: Lane[] = sources;
  let rate = context.sampleRateHz;
  const stages: CompiledStage[] = [];
  for (const stage of spec.stages) {
    const kind = stageKind(stage.kind);
    if (!kind) {
      throw new LineError(
        stage,
        `This version has no stage of type “${stage.kind}”. Remove the stage or update Lucky Needle.`,
      );
    }
    const inputs = lanes.map((lane) => lane.unit);
    const here = { ...context, sampleRateHz: rate };
    const units = attempt(stage, () => {
      checkParams(kind, stage.params);
      const given = kind.signature(stage.params, inputs);
      if (spec.beside && kind.over) kind.over.check(stage.params, inputs[0]!, unitsOf(stage, kind, beside));
      kind.prepare(stage.params, here);
      return given;
    });
    if (stage.off) {
      if (units.join() !== inputs.join()) {
        throw new LineError(
          stage,
          `${kind.title} cannot be turned off: it converts ${inputs.map((u) => UNITS[u].name).join(', ')} to ${units.map((u) => UNITS[u].name).join(', ')}, which the rest of the line needs. Remove it together with the stages after it.`,
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
    beside,
    columns: withoutDoubles([...sources, ...[...beside.values()].flatMap((line) => line.columns)]),
    stages,
    outputs: lanes,
    context,
    outputRateHz: rate,
    start: (wanted) => startRun(sources.length, stages, wanted),
  };
}

/** What the channels that a stage names read in. */
function unitsOf(
  stage: StageSpec,
  { title, over }: StageKind,
  beside: ReadonlyMap<string, CompiledLine>,
): UnitId[] {
  return over!.channels(stage.params).map((id) => {
    const line = beside.get(id);
    if (line) return line.outputs[0]!.unit;
    throw new RangeError(`${title} uses channel “${id}”, which does not exist. Choose another.`);
  });
}

const withoutDoubles = (lanes: readonly Lane[]): Lane[] =>
  lanes.filter((lane, i) => lanes.findIndex((l) => l.name === lane.name) === i);

function attempt<T>(stage: StageSpec, action: () => T): T {
  try {
    return action();
  } catch (error) {
    if (error instanceof RangeError || error instanceof TypeError) throw new LineError(stage, error.message);
    throw error;
  }
}
