import type { LineSpec } from '../model/line.ts';

/** Stages that leave a direction a direction. */
const KEEPS = new Set(['pick-column', 'gain-offset', 'circular-mean', 'warm-up']);

/** Whether a line ends in an angle round the circle, where 359 and 1 degree are neighbours. */
export function givesDirection({ stages }: LineSpec): boolean {
  const used = stages.filter((s) => !s.off);
  const at = used.findLastIndex((s) => s.kind === 'heading' || s.kind === 'circular-mean');
  if (at < 0) return false;
  const behind = used.slice(at + 1);
  // A heading gives tilt as well; only its first column goes round.
  const first = behind.find((s) => s.kind === 'pick-column');
  const isRound = used[at]!.kind === 'circular-mean' || !first || first.params['column'] === 1;
  return isRound && behind.every((s) => KEEPS.has(s.kind));
}
