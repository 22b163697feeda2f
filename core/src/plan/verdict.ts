import type { ConverterPart, Part } from '../model/part.ts';
import { printNominal } from '../units/index.ts';

/** "tight": inside what can work, outside what is wanted. */
export type FitState = 'pass' | 'tight' | 'fail';

export const CHECKS = [
  'range',
  'resolution',
  'accuracy',
  'true-up',
  'rate',
  'response',
  'wiring',
  'level',
  'power',
  'surroundings',
  'room',
  'loudness',
  'price',
] as const;
export type Check = (typeof CHECKS)[number];

export interface PartVerdict {
  readonly check: Check;
  readonly title: string;
  readonly state: FitState;
  /** The figure found and the limit it is held against, in `unit`. */
  readonly value: number;
  readonly limit: number;
  readonly unit: string;
  /** How far inside the limit, as a share of it: 0.2 is a fifth to spare, -0.5 half short. NaN where there is no figure. */
  readonly margin: number;
  readonly sentence: string;
  readonly arithmetic: string;
  /** A failure here puts the part below the line; as-bought accuracy alone does not, true-up can mend it. */
  readonly hard: boolean;
  /** What would have to change for a pass; empty when it passes. */
  readonly change: string;
}

/** A part that is judged, with the converter it would be read through. */
export interface Candidate<P extends Part = Part> {
  readonly part: P;
  readonly converter: ConverterPart | null;
  readonly verdicts: readonly PartVerdict[];
  /** 0 to 100; hard failures rank below every part without one. */
  readonly score: number;
  readonly failed: boolean;
}

export type Weights = Readonly<Record<Check, number>>;

/** Weight of each check in the score, until the maker moves them. */
export const WEIGHTS: Weights = {
  range: 2,
  resolution: 2,
  accuracy: 1,
  'true-up': 3,
  rate: 2,
  response: 2,
  wiring: 2,
  level: 1,
  power: 1,
  surroundings: 2,
  room: 2,
  loudness: 1,
  price: 2,
};

type Told = Omit<PartVerdict, 'margin' | 'change' | 'hard'> & {
  hard?: boolean;
  change?: string;
  margin?: number;
};

/** A verdict on a figure that must be at least its limit. */
export const atLeast = (told: Told): PartVerdict => finish(told, told.value / told.limit - 1);

/** A verdict on a figure that must be at most its limit. */
export const atMost = (told: Told): PartVerdict => finish(told, 1 - told.value / told.limit);

/** A verdict without a figure: something is there or it is not. */
export const yesOrNo = (told: Omit<Told, 'value' | 'limit' | 'unit'>): PartVerdict =>
  finish({ ...told, value: told.state === 'fail' ? 0 : 1, limit: 1, unit: '' }, Number.NaN);

function finish(told: Told, margin: number): PartVerdict {
  return {
    hard: true,
    ...told,
    margin: told.margin ?? margin,
    change: told.state === 'pass' ? '' : (told.change ?? ''),
  };
}

const POINTS: Readonly<Record<FitState, number>> = { pass: 1, tight: 0.5, fail: 0 };

/** @throws {RangeError} for weights below 0 or all 0 */
export function checkWeights(weights: Weights): void {
  const values = Object.values(weights);
  if (!(values.reduce((a, b) => a + b, 0) > 0) || values.some((w) => !(w >= 0)))
    throw new RangeError(`Weights must be 0 or more and not all 0; received ${JSON.stringify(weights)}.`);
}

/** Scores the verdicts of one part: a pass counts whole, a tight one half, over the weights of the checks that were made. */
export function candidateOf<P extends Part>(
  part: P,
  converter: ConverterPart | null,
  verdicts: readonly PartVerdict[],
  weights: Weights,
): Candidate<P> {
  const total = verdicts.reduce((s, v) => s + weights[v.check], 0);
  const points = verdicts.reduce((s, v) => s + weights[v.check] * POINTS[v.state], 0);
  return {
    part,
    converter,
    verdicts,
    score: total > 0 ? (100 * points) / total : 0,
    failed: verdicts.some((v) => v.hard && v.state === 'fail'),
  };
}

/** Best first; parts with a hard failure last; the cheaper one first among equals. */
export function rank<P extends Part>(candidates: readonly Candidate<P>[]): Candidate<P>[] {
  return [...candidates].sort(
    (a, b) =>
      Number(a.failed) - Number(b.failed) ||
      b.score - a.score ||
      a.part.price + (a.converter?.price ?? 0) - (b.part.price + (b.converter?.price ?? 0)),
  );
}

export const p = (value: number, digits = 3) => printNominal(value, digits);

/** Amperes in words, as mA or µA where that reads better. */
export const amperes = (v: number): string =>
  v === 0 ? '0 mA' : v < 1e-3 ? `${p(v * 1e6)} µA` : v < 0.1 ? `${p(v * 1e3)} mA` : `${p(v)} A`;

/** Seconds in words. */
export const seconds = (v: number): string =>
  v >= 7200
    ? `${p(v / 3600)} h`
    : v >= 120
      ? `${p(v / 60)} min`
      : v >= 1 || v === 0
        ? `${p(v)} s`
        : v >= 1e-3
          ? `${p(v * 1e3)} ms`
          : `${p(v * 1e6)} µs`;

/** Hours in words. */
export const hours = (v: number): string =>
  v >= 72 ? `${p(v / 24, 2)} days` : v >= 2 ? `${p(v, 2)} h` : `${p(v * 60, 2)} min`;
