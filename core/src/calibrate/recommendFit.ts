import type { FitResult } from '../model/calibration.ts';
import { chiSquareCdf } from '../numerics/index.ts';
import { printNumber, printSignificant } from '../units/index.ts';
import { FITS } from './fits/index.ts';

export interface FitRecommendation {
  /** The fit that is advised; null where none is supported by the points. */
  readonly fit: string | null;
  /** The one that comes nearest, where none is advised. */
  readonly nearest: string;
  readonly reason: string;
}

/** Points that scatter so much by chance in fewer cases than this speak against the fit, not against chance. */
const UNLIKELY = 0.001;
/** Share of the brief's range that points must reach over: of one physical constant less, since its stage knows the shape. */
const REACH = 0.5;
const REACH_OF_ONE = 0.25;
/** Fits of one constant that is no part of the sensor: they say nothing of what lies beyond their points. */
const SHAPELESS = ['offset', 'gain'];

/**
 * The simplest fit that the points support: they scatter about it no more than was stated of them, reach over what it is
 * asked for, and each is foretold by the others within half the tolerance (twice the root mean square within it). Where
 * none is, what speaks against the one that comes nearest, and the way out. Null when no fit can be judged.
 * @param tolerance half-width @param range ends of the brief's range, all in the reading's unit; null where it asks for none
 */
export function recommendFit(
  results: readonly FitResult[],
  tolerance: number,
  range: readonly [low: number, high: number] | null = null,
  symbol = '',
): FitRecommendation | null {
  // A curve through every point is never advised: its own points cannot speak against it.
  const order = FITS.filter((fit) => !fit.interpolates).map((fit) => fit.id);
  const judged = results
    .filter((r) => r.converged && r.leaveOneOutRms !== null && order.includes(r.fit))
    .sort((a, b) => order.indexOf(a.fit) - order.indexOf(b.fit));
  const nearest = judged.toSorted((a, b) => a.leaveOneOutRms! - b.leaveOneOutRms!)[0];
  if (!nearest) return null;
  const passing = judged.find((r) => against(r, tolerance, range, symbol) === null);
  if (passing)
    return {
      fit: passing.fit,
      nearest: passing.fit,
      reason: 'The simplest fit that agrees with the points, also when each point is left out in turn.',
    };
  // Of those that reach far enough the nearest, since the others need points first of all.
  const told = judged.find((r) => 2 * r.leaveOneOutRms! <= tolerance) ?? nearest;
  return {
    fit: null,
    nearest: told.fit,
    reason: `No fit is recommended. ${told.title}: ${against(told, tolerance, range, symbol)}`,
  };
}

/** What speaks against a fit, with the way out; null when nothing does. */
function against(
  r: FitResult,
  tolerance: number,
  range: readonly [number, number] | null,
  symbol: string,
): string | null {
  const unit = symbol === '' ? '' : ` ${symbol}`;
  const kind = FITS.find((f) => f.id === r.fit)!;
  if (r.chiSquare !== null && r.degreesOfFreedom > 0) {
    const times = Math.sqrt(r.chiSquare / r.degreesOfFreedom);
    if (1 - chiSquareCdf(r.chiSquare, r.degreesOfFreedom) < UNLIKELY)
      return `the points scatter ${printNumber(times, times < 10 ? 1 : 0)} times as much as their uncertainties predict, so ${kind.parameterCount === 1 ? 'one constant is not enough' : 'this fit does not describe them'}. Check the point that is farthest off, or choose a fit with more constants.`;
  }
  if (range && range[1] > range[0]) {
    const [from, to] = r.validReading;
    const share = (Math.min(to, range[1]) - Math.max(from, range[0])) / (range[1] - range[0]);
    const wanted = kind.parameterCount === 1 && !SHAPELESS.includes(r.fit) ? REACH_OF_ONE : REACH;
    if (!(share >= wanted)) {
      const far = Math.abs(range[1] - to) > Math.abs(from - range[0]) ? range[1] : range[0];
      return `the points cover only ${printNumber(Math.max(0, 100 * share), 0)} % of the range in the brief; ${100 * wanted} % are needed. Capture a point near ${printSignificant(far, 3)}${unit}.`;
    }
  }
  if (!(2 * r.leaveOneOutRms! <= tolerance))
    return `the leave-one-out error is ±${printSignificant(2 * r.leaveOneOutRms!, 2)}${unit}, more than the tolerance. Capture more or better points.`;
  return null;
}
