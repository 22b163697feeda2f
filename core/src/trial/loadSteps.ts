import { detectorKind, stableWindows, type Detector } from '../detect/index.ts';
import { UNITS, type UnitId } from '../units/index.ts';

/** When a reading counts as standing still: the parameters of steady stretches, in the reading's unit. */
export interface SteadyRule {
  readonly windowS: number;
  readonly drift: number;
  readonly scatter: number;
}

export interface LoadStep {
  readonly fromS: number;
  readonly toS: number;
}

/** A rule that its own noise proposes. @returns why there is none, as words */
export function steadyRule(
  times: Float64Array,
  values: Float64Array,
  unit: UnitId,
): { readonly rule: SteadyRule; readonly why: string } | string {
  const trace = { times, values, unit, slowestHz: Number.NaN, fastestHz: Number.NaN };
  const found = detectorKind('steady')!.find!(trace);
  if ('problem' in found) return found.problem;
  const { windowS, drift, scatter } = found.params as unknown as SteadyRule;
  return { rule: { windowS, drift, scatter }, why: found.why };
}

/**
 * Finds the stretches in which readings stand still, as they are fed.
 * @throws {RangeError} for a rule that cannot be
 */
export function loadStepFinder(rule: SteadyRule, take: (step: LoadStep) => void): Detector {
  for (const [title, value] of [
    ['maximum drift', rule.drift],
    ['maximum scatter', rule.scatter],
  ] as const)
    if (!(value >= 0)) throw new RangeError(`Load steps: enter a ${title} of 0 or more; received ${value}.`);
  return stableWindows(rule, ({ startS, endS }) => take({ fromS: startS, toS: endS }));
}

/** What a channel came to in one step. */
export interface StepSum {
  /** By time, so that readings that come unevenly count as long as they stood; NaN under two readings. */
  readonly mean: number;
  /** Of single readings, with n - 1. */
  readonly sd: number;
  readonly n: number;
}

/** Means of a channel over steps that lie one after the other, as its readings are fed in the order of time. */
export class StepSums {
  readonly sums: StepSum[];
  private readonly steps: readonly LoadStep[];
  private at = 0;
  private n = 0;
  private about = 0;
  private sum = 0;
  private squares = 0;
  private area = 0;
  private span = 0;
  private last: readonly [timeS: number, value: number] | null = null;

  constructor(steps: readonly LoadStep[]) {
    this.steps = steps;
    this.sums = steps.map(() => ({ mean: Number.NaN, sd: Number.NaN, n: 0 }));
  }

  push(timeS: number, value: number): void {
    while (this.at < this.steps.length && timeS > this.steps[this.at]!.toS) this.close();
    const step = this.steps[this.at];
    if (!step || timeS < step.fromS) return;
    if (!Number.isFinite(value)) {
      this.last = null;
      return;
    }
    if (this.n === 0) this.about = value;
    this.n++;
    this.sum += value - this.about;
    this.squares += (value - this.about) ** 2;
    if (this.last && timeS > this.last[0]) {
      this.area += (timeS - this.last[0]) * ((value + this.last[1]) / 2);
      this.span += timeS - this.last[0];
    }
    this.last = [timeS, value];
  }

  finish(): void {
    while (this.at < this.steps.length) this.close();
  }

  private close(): void {
    const { n, sum, squares } = this;
    this.sums[this.at] = {
      n,
      mean: this.span > 0 ? this.area / this.span : Number.NaN,
      sd: n > 1 ? Math.sqrt(Math.max(0, squares - (sum * sum) / n) / (n - 1)) : Number.NaN,
    };
    this.at++;
    [this.n, this.sum, this.squares, this.area, this.span, this.last] = [0, 0, 0, 0, 0, null];
  }
}

/** What a reading adds up to over time, where makers ask for it: energy of a power, charge of a current. */
const ADDS_UP: readonly (readonly [of: UnitId, title: string, to: UnitId])[] = [
  ['W', 'Energy', 'Wh'],
  ['A', 'Charge', 'mAh'],
];

/** @returns null where nothing is added up */
export function addedUp(unit: UnitId): { title: string; to: UnitId; each: number } | null {
  const found = ADDS_UP.find(([of]) => UNITS[of].dimension === UNITS[unit].dimension);
  if (!found) return null;
  const [, title, to] = found;
  return { title, to, each: UNITS[unit].scale / UNITS[to].scale };
}

/**
 * A mean with what stands there without any load taken off, as the maker says that it is only noise.
 * @param isEffective both are effective values, such as of alternating current: independent noise goes off in squares
 */
export const lessFloor = (value: number, floor: number, isEffective: boolean): number =>
  isEffective ? Math.sqrt(Math.max(0, value ** 2 - floor ** 2)) : value - floor;
