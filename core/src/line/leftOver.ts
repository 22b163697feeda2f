import type { LeftOver } from '../model/calibration.ts';
import type { LineSpec, StageSpec } from '../model/line.ts';
import { lowerBound } from '../numerics/index.ts';

/** Standard uncertainty that a fit leaves at a reading, in the reading's unit; beyond the ends of a curve that at its end. */
export function leftOverAt(leftOver: LeftOver, reading: number): number {
  if (typeof leftOver === 'number') return leftOver;
  const { readings, u } = leftOver;
  const above = lowerBound(readings, reading);
  if (above === 0) return u[0] ?? 0;
  if (above >= readings.length) return u.at(-1)!;
  const [low, high] = [readings[above - 1]!, readings[above]!];
  return u[above - 1]! + ((reading - low) / (high - low)) * (u[above]! - u[above - 1]!);
}

/** The largest that a fit leaves anywhere, where the reading itself is not at hand. */
export const largestLeftOver = (leftOver: LeftOver): number =>
  typeof leftOver === 'number' ? leftOver : Math.max(0, ...leftOver.u);

/** The line with its value moved by so much after its first so many stages. */
export function offAt<L extends Pick<LineSpec, 'stages'>>(line: L, place: number, offset: number): L {
  const off: StageSpec = {
    id: 'left-over',
    kind: 'gain-offset',
    params: { gain: 1, offset },
    uncertainty: {},
    off: false,
  };
  return { ...line, stages: [...line.stages.slice(0, place), off, ...line.stages.slice(place)] };
}
