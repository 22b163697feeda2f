import type { ReadingBudget } from '../figures/index.ts';
import { median } from '../numerics/index.ts';

/** Parts that the range of readings is looked at in. */
const BINS = 24;
/** Newest steps between two readings that tell what they scatter by. */
const STEPS = 33;
/** Median size of a step between two readings of normal noise, in standard deviations of one of them. */
const MEDIAN_STEP = 0.6745 * Math.SQRT2;

export interface SeenWorthMemory {
  readonly n: number[];
  readonly readings: number[];
  readonly squares: number[];
  readonly noise: (number | null)[];
  last: number | null;
  /** Sizes of the newest steps, the oldest first; none in what was saved before they were kept. */
  steps?: number[];
}

/**
 * What readings were worth where they have been: kept in parts of the range, so that a figure can ask for any size that
 * was read. Between parts that were seen by straight lines; beyond them as in the nearest.
 */
export class SeenWorth {
  private readonly low: number;
  private readonly width: number;
  private m: SeenWorthMemory = {
    n: Array<number>(BINS).fill(0),
    readings: Array<number>(BINS).fill(0),
    squares: Array<number>(BINS).fill(0),
    noise: Array<number | null>(BINS).fill(null),
    last: null,
    steps: [],
  };

  /** @param low begin of the range of readings, in their unit @param high its end */
  constructor(low: number, high: number) {
    this.low = low;
    this.width = (high - low) / BINS;
  }

  /**
   * The next reading.
   * @param systematic its standard uncertainty by the constants
   * @param noiseOf standard deviation of a single reading by its raw values, where that can be told; asked seldom
   */
  take(x: number, systematic: number, noiseOf: () => number): void {
    const { n, readings, squares, noise } = this.m;
    const at = this.binOf(x);
    n[at]!++;
    readings[at]! += x;
    squares[at]! += systematic ** 2;
    // At the first, the second, the fourth ...: it hardly changes within a part.
    if (Number.isInteger(Math.log2(n[at]!))) {
      const now = noiseOf();
      noise[at] = Number.isFinite(now) ? now : null;
    }
    if (this.m.last !== null) {
      const steps = (this.m.steps ??= []);
      steps.push(Math.abs(x - this.m.last));
      if (steps.length > STEPS) steps.shift();
    }
    this.m.last = x;
  }

  /** Standard uncertainties of a reading of this size; NaN before the first. */
  at(value: number): ReadingBudget {
    const { n } = this.m;
    const from = this.binOf(value);
    let below = from;
    while (below >= 0 && (n[below] === 0 || this.meanOf(below) > value)) below--;
    let above = from;
    while (above < BINS && (n[above] === 0 || this.meanOf(above) < value)) above++;
    if (below < 0 && above >= BINS) return { systematic: Number.NaN, noise: Number.NaN };
    if (below < 0) return this.of(above);
    if (above >= BINS || above === below) return this.of(below);
    const [a, b] = [this.of(below), this.of(above)];
    const share = (value - this.meanOf(below)) / (this.meanOf(above) - this.meanOf(below));
    const between = (x: number, y: number) => x + share * (y - x);
    return { systematic: between(a.systematic, b.systematic), noise: between(a.noise, b.noise) };
  }

  save(): SeenWorthMemory {
    return structuredClone(this.m);
  }

  restore(saved: SeenWorthMemory): void {
    this.m = structuredClone(saved);
  }

  /** By the median step, so that a load that is switched on is no noise (Hampel, J. Am. Stat. Assoc. 69 (1974) 383). */
  private scatter(): number {
    const { steps = [] } = this.m;
    return steps.length > 0 ? median(steps) / MEDIAN_STEP : Number.NaN;
  }

  private binOf(x: number): number {
    const at = Math.floor((x - this.low) / this.width);
    return Number.isFinite(at) ? Math.min(BINS - 1, Math.max(0, at)) : 0;
  }

  private meanOf(bin: number): number {
    return this.m.readings[bin]! / this.m.n[bin]!;
  }

  private of(bin: number): ReadingBudget {
    const { n, squares, noise } = this.m;
    return {
      systematic: Math.sqrt(squares[bin]! / n[bin]!),
      // Over cycles nothing can be told from one raw value: how readings scatter is told instead.
      noise: noise[bin] ?? this.scatter(),
    };
  }
}
