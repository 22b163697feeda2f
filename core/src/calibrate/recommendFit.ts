import type { FitResult } from '../model/calibration.ts';
import { FITS } from './fits/index.ts';

export interface FitRecommendation {
  readonly fit: string;
  readonly reason: string;
}

/**
 * The simplest fit whose error on points left out stays within half the tolerance (twice its root mean square within the
 * tolerance); if none does, the one with the least such error. Null when no fit can be judged so.
 * @param tolerance half-width, in the reading's unit
 */
export function recommendFit(results: readonly FitResult[], tolerance: number): FitRecommendation | null {
  // A curve through every point is never advised: its own points cannot speak against it.
  const order = FITS.filter((fit) => !fit.interpolates).map((fit) => fit.id);
  const judged = results
    .filter((r) => r.converged && r.leaveOneOutRms !== null && order.includes(r.fit))
    .sort((a, b) => order.indexOf(a.fit) - order.indexOf(b.fit));
  const passing = judged.find((r) => 2 * r.leaveOneOutRms! <= tolerance);
  if (passing) {
    return { fit: passing.fit, reason: `The simplest that keeps points left out within the tolerance.` };
  }
  const best = judged.toSorted((a, b) => a.leaveOneOutRms! - b.leaveOneOutRms!)[0];
  if (!best) return null;
  return {
    fit: best.fit,
    reason: 'None keeps points left out within the tolerance; this one comes nearest.',
  };
}
