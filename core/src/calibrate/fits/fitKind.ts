import type { LineSpec } from '../../model/line.ts';
import type { PrepareContext } from '../../stage/contract.ts';
import type { GaussNewtonResult } from '../../numerics/index.ts';
import type { FitPoint } from '../points.ts';

export interface FitTarget {
  readonly stageId: string;
  /** Name of the parameter, or "coefficients.2" for an entry of an array. */
  readonly param: string;
  readonly title: string;
  readonly unit: string;
  /** Value in the line as it was; null when the constant is new. */
  readonly before: number | null;
  readonly start: number;
  /** Typical size of a change, for steps and conditioning. */
  readonly scale: number;
}

export interface FitSetUp {
  /** The line whose constants are searched; a fit may have replaced a stage. */
  readonly line: LineSpec;
  readonly targets: readonly FitTarget[];
}

/** A way to true up a line. One file declares one; the search itself is shared. */
export interface FitKind {
  readonly id: string;
  readonly title: string;
  /** What the fit takes for granted, in words. */
  readonly assumes: string;
  /** Constants found, and so the fewest points at different places. */
  readonly parameterCount: number;
  /** True for curves that pass through every point: as many constants as points. */
  readonly interpolates?: boolean;
  /** Of one that passes through its points: how many times more it misses in a gap twice as wide. */
  readonly missesGrow?: number;
  /** Stage kinds one of which the line must have for this fit to make sense. */
  readonly needs: readonly string[];
  /**
   * Prepares the search, or says in a sentence why this line or these points cannot be fitted so.
   * @param reach points that the result must give a number at, the fitted ones among them
   */
  setUp(
    line: LineSpec,
    context: PrepareContext,
    points: readonly FitPoint[],
    reach: readonly FitPoint[],
  ): FitSetUp | string;
  /** Present where the constants follow without the shared search. */
  solve?(setUp: FitSetUp, context: PrepareContext, points: readonly FitPoint[]): GaussNewtonResult;
}
