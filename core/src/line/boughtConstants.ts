import type { LineSpec } from '../model/line.ts';
import { stageKind } from './registry.ts';

/** A constant that somebody stated the worth of. */
export interface BoughtConstant {
  readonly stageId: string;
  readonly param: string;
  /** Standard uncertainty, in the constant's own unit. */
  readonly u: number;
  /** What it is off by together with others; null where it is off by itself. */
  readonly cause: string | null;
}

/**
 * The constants of a line that are uncertain as bought, in groups: those of one group have the same cause, such as the
 * reference voltage of a converter that reads several columns, and so are off together, all up or all down by their own
 * uncertainty (JCGM 100:2008, 5.2.2 with a coefficient of 1, and F.1.2.3). One without a cause is a group of its own.
 * @param fitted so many of the first stages are told by a calibration, and do not count; of those that take other channels none is
 */
export function boughtConstants(spec: LineSpec, fitted = 0): BoughtConstant[][] {
  const groups = new Map<string, BoughtConstant[]>();
  let on = 0;
  for (const stage of spec.stages) {
    if (!stage.off) on++;
    if (on <= fitted && !stageKind(stage.kind)?.over) continue;
    for (const [param, u] of Object.entries(stage.uncertainty)) {
      if (!(u > 0)) continue;
      const cause = stage.cause?.[param]?.trim().toLowerCase() || null;
      const key = cause ? `cause ${cause}` : `${stage.id} ${param}`;
      groups.set(key, [...(groups.get(key) ?? []), { stageId: stage.id, param, u, cause }]);
    }
  }
  return [...groups.values()];
}
