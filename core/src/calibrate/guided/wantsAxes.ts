import type { LineSpec } from '../../model/line.ts';
import { GUIDED_FITS } from './index.ts';

/** Whether a fit of three axes finds no correction in the line to fill in. */
export const wantsAxes = (fitId: string, line: LineSpec): boolean =>
  GUIDED_FITS.find((f) => f.id === fitId)?.stage === 'vector-correction' &&
  line.stages[0]?.kind !== 'vector-correction';
