import type { StageSpec } from '../../model/line.ts';
import { stage } from './template.ts';

export const THREE_AXES = [
  ['ax', 'count'],
  ['ay', 'count'],
  ['az', 'count'],
] as const;

/** Counts of three axes to g, as marked: no offset, no crosstalk. */
export function axesToG(countsPerG: number): StageSpec {
  const k = 1 / countsPerG;
  return stage('axes', 'vector-correction', {
    offset: [0, 0, 0],
    matrix: [k, 0, 0, 0, k, 0, 0, 0, k],
    to: 'gn',
  });
}
