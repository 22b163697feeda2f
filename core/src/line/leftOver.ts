import type { LeftOver } from '../model/calibration.ts';
import type { LineSpec, StageSpec } from '../model/line.ts';
import { placeAmong } from '../numerics/index.ts';

/** Standard uncertainty that a fit leaves at a reading, in the reading's unit; beyond the ends of a curve that at its end. */
export function leftOverAt(leftOver: LeftOver, reading: number): number {
  if (typeof leftOver === 'number') return leftOver;
  return placeAmong(leftOver.readings, reading).between(leftOver.u);
}

/** The largest that a fit leaves anywhere, where the reading itself is not at hand. */
export const largestLeftOver = (leftOver: LeftOver): number =>
  typeof leftOver === 'number' ? leftOver : Math.max(0, ...leftOver.u);

/** The line with its value moved by so much after the first so many of its stages that are switched on. */
export function offAt<L extends Pick<LineSpec, 'stages'>>(line: L, place: number, offset: number): L {
  const off: StageSpec = {
    id: 'left-over',
    kind: 'gain-offset',
    params: { gain: 1, offset },
    uncertainty: {},
    off: false,
  };
  let at = 0;
  for (let on = 0; at < line.stages.length && on < place; at++) if (!line.stages[at]!.off) on++;
  return { ...line, stages: [...line.stages.slice(0, at), off, ...line.stages.slice(at)] };
}
