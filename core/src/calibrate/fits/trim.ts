import type { FitKind } from './fitKind.ts';

export interface TrimDeclaration {
  readonly id: string;
  readonly title: string;
  readonly assumes: string;
  /** Stage kinds that hold the constant. */
  readonly stages: readonly string[];
  readonly param: string;
  readonly name: string;
  readonly unit: string;
  /** Typical size of a change, as a share of the constant or in its own unit where the constant may be 0. */
  readonly share?: number;
  readonly step?: number;
}

/** A fit that solves for one physical constant of one stage and leaves everything else as marked. */
export function trim({ stages, param, name, unit, share, step, ...words }: TrimDeclaration): FitKind {
  return {
    ...words,
    parameterCount: 1,
    needs: stages,
    setUp(line) {
      const stage = line.stages.find((s) => stages.includes(s.kind) && !s.off);
      if (!stage)
        return `The line has no ${stages[0]!.replaceAll('-', ' ')} stage, so ${name.toLowerCase()} cannot be calculated.`;
      const value = Number(stage.params[param]);
      return {
        line,
        targets: [
          {
            stageId: stage.id,
            param,
            title: name,
            unit,
            before: value,
            start: value,
            scale: share === undefined ? (step ?? 1) : Math.abs(value) * share || 1,
          },
        ],
      };
    },
  };
}
