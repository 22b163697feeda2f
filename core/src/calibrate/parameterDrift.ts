import type { FitResult } from '../model/calibration.ts';

export interface ParameterDrift {
  readonly title: string;
  readonly unit: string;
  readonly change: number;
  /** Expanded uncertainty (k = 2) of the change. */
  readonly uncertainty: number;
  readonly shown: boolean;
}

/** How far the constants that two versions share have moved, the clearest move first. */
export function parameterDrift(earlier: FitResult, later: FitResult): ParameterDrift[] {
  return later.parameters
    .flatMap((p) => {
      const before = earlier.parameters.find((q) => q.stageId === p.stageId && q.param === p.param);
      if (!before) return [];
      const change = p.value - before.value;
      const uncertainty = 2 * Math.hypot(p.u, before.u);
      return [{ title: p.title, unit: p.unit, change, uncertainty, shown: Math.abs(change) > uncertainty }];
    })
    .sort((a, b) => clear(b) - clear(a));
}

const clear = (d: ParameterDrift) => Math.abs(d.change) / (d.uncertainty || 1);
