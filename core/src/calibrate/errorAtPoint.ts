import { readingAtRest, slopeAtRest } from '../line/atRest.ts';
import type { CompiledLine } from '../line/compile.ts';
import type { FitPoint } from './points.ts';

/** What a line reads at a point, and by how much it is off there. */
export interface ErrorAtPoint {
  readonly shown: number;
  readonly error: number;
  /** Expanded uncertainty (k = 2) of the comparison: reference and captured mean. */
  readonly uncertainty: number;
}

export function errorAtPoint(line: CompiledLine, point: FitPoint): ErrorAtPoint {
  const shown = readingAtRest(line, point.raw);
  return {
    shown,
    error: shown - point.reference,
    uncertainty: 2 * Math.hypot(point.uReference, slopeAtRest(line, point.raw) * point.uRaw),
  };
}
