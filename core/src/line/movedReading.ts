import { checkParams } from '../stage/checkParams.ts';
import type { StageParams } from '../stage/contract.ts';
import { lanesAtRest, restingStage, type Raw } from './atRest.ts';
import type { CompiledLine, CompiledStage } from './compiledLine.ts';
import type { WayOff } from './waysOff.ts';
import { pathOf } from './paramPath.ts';

/** A constant of one stage and how far it goes with one of the ways. */
interface StageMove {
  readonly way: number;
  readonly name: string;
  /** Of a list, which number of it; -1 of a single one. */
  readonly place: number;
  readonly by: number;
}

type Settle = (values: readonly number[]) => readonly number[];

/**
 * The reading for raw values held still when each way is off by so many standard uncertainties: what the line compiled anew
 * with all of them moved (`withWayOff`) reads, for thousands of draws, since only stages that move are checked again.
 * @param raw one value a source @param ways independent ways in which the constants of the line may be off
 * @returns takes as many multiples as there are ways; gives NaN where a constant leaves what its stage allows
 */
export function movedReading(
  line: CompiledLine,
  raw: Raw,
  ways: readonly WayOff[],
): (times: readonly number[]) => number {
  const moves = line.stages.map(({ spec }): StageMove[] =>
    ways.flatMap(({ moves: way }, k) =>
      way
        .filter((move) => move.stageId === spec.id)
        .map(({ param, by }) => ({ way: k, ...pathOf(param), by })),
    ),
  );
  const first = moves.findIndex((of) => of.length > 0);
  const from = first < 0 ? line.stages.length : first;
  const before = lanesAtRest(line, raw)[from]!;
  const after = line.stages.slice(from).map((stage, k) => {
    const moving = moves[from + k]!;
    const still = restingStage(stage.kind, stage.spec.params, stage.outputs.length);
    return (times: readonly number[]): Settle =>
      moving.some((m) => times[m.way] !== 0) ? movedStage(stage, moving, times) : still;
  });
  return (times) => {
    try {
      return after.reduce<readonly number[]>((values, settle) => settle(times)(values), before)[0]!;
    } catch (error) {
      // A constant outside what its stage allows, such as a negative resistor.
      if (error instanceof RangeError || error instanceof TypeError) return Number.NaN;
      throw error;
    }
  };
}

function movedStage(
  { kind, spec, outputs, context }: CompiledStage,
  moves: readonly StageMove[],
  times: readonly number[],
): Settle {
  const params: Record<string, StageParams[string]> = { ...spec.params };
  for (const { way, name, place, by } of moves) {
    const off = times[way]! * by;
    const value = params[name];
    if (typeof value === 'number' && place < 0) params[name] = value + off;
    else if (Array.isArray(value)) params[name] = value.map((v, i) => (i === place ? v + off : v));
  }
  checkParams(kind, params);
  if (!kind.scalar && !kind.vector) kind.prepare(params, context);
  return restingStage(kind, params, outputs.length);
}
