import { steadyWindow, type SteadyLimits, type SteadyState } from '@lucky-needle/core/calibrate';
import type { LiveBench } from '../capture/liveBench.ts';

/**
 * Whether the newest rows of a raw column stand still; null where it does not come.
 * @param lookedBackS how far back is looked @param limitsAt what counts as still at the newest value
 */
export function columnAtRest(
  live: LiveBench,
  column: string,
  lookedBackS: number,
  limitsAt: (newest: number) => SteadyLimits,
): SteadyState | null {
  const at = live.columns.indexOf(column);
  if (at < 0) return null;
  const { times, columns } = live.raw.since(live.newestS - lookedBackS);
  const raw = columns[at]!;
  return steadyWindow(times, raw, (i) => Number.isFinite(raw[i]), limitsAt(raw.at(-1)!));
}
