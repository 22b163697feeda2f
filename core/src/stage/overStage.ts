import type { TObject } from 'typebox';
import type { UnitId } from '../units/index.ts';
import { UNITS } from '../units/index.ts';
import { UnitMismatch, type CWriter, type StageKind, type StageParams } from './contract.ts';
import { scalarStage } from './scalarStage.ts';

export interface OverStageDeclaration<P extends StageParams> {
  kind: string;
  title: string;
  summary: string;
  params: TObject;
  defaults: P;
  /** Ids of the other channels, in the order in which `combine` takes what they read. */
  channels(params: P): readonly string[];
  /** Whether it can take what the others read beside its own, in these units. */
  takes(params: P, own: UnitId, others: readonly UnitId[]): boolean;
  /** What it takes, in words, for the error. */
  inWords: string;
  /** NaN where it has no answer. @throws {RangeError} when the parameters do not fit together */
  combine(params: P): (own: number, others: readonly number[]) => number;
  /** Finds its own reading in `x` and what the others read in the names that are given, and leaves the result in `x`. */
  emitC(params: P, c: CWriter, others: readonly string[]): void;
}

/**
 * Makes a stage kind over channels: it puts a reading right by what others read at the same moment. The readout gives it
 * those (`reading/beside.ts`). By itself, as for a captured point, it passes its own reading on: nothing is there of the
 * others, and all is as it was when the channel was trued up.
 */
export function overStage<P extends StageParams>(declaration: OverStageDeclaration<P>): StageKind<P> {
  const { channels, takes, inWords, combine, emitC, ...told } = declaration;
  const alone = scalarStage<P>({
    ...told,
    role: 'calibration',
    takes: 'any',
    gives: (_params, input) => input,
    scalar: () => ({ forward: (x) => x, inverse: (y) => y, derivative: () => 1 }),
  });
  return {
    ...alone,
    accepts: (inputs) => inputs.length === 1,
    signature(params, inputs) {
      if (inputs.length !== 1)
        throw new UnitMismatch(
          `${told.title} needs one column, but ${inputs.length} arrive. Place it after a stage that gives one column.`,
        );
      combine(params);
      return [inputs[0]!];
    },
    over: {
      channels,
      combine,
      emitC,
      check(params, own, others) {
        if (takes(params, own, others)) return;
        const given = others.map((u) => UNITS[u].name).join(', ');
        throw new UnitMismatch(
          `${told.title} needs ${inWords}; this channel is in ${UNITS[own].name}, the other channels are in: ${given || 'nothing'}. Choose other channels.`,
        );
      },
    },
  };
}

/** Ids in a text, as the parameters of a stage keep them. */
export const idsIn = (text: string): string[] => text.split(' ').filter((id) => id !== '');
