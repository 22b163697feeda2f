import type { LineSpec } from '../model/line.ts';
import { boughtConstants } from './boughtConstants.ts';
import { paramAt, withLineParam } from './paramPath.ts';
import type { CalibrationCovariance } from './uncertainty.ts';

/** The share of an uncertainty by which constants are moved: small enough to be straight, large enough not to drown in rounding. */
export const MOVED_BY = 0.1;

/** Below this share of its own variance, what is left of a constant is rounding of the fit. */
const LEAST_LEFT = 1e-12;

/** One constant moved by so much. */
export interface Move {
  readonly stageId: string;
  readonly param: string;
  readonly by: number;
}

/** A line with its constants off in one way by so many standard uncertainties. */
export const withWayOff = (spec: LineSpec, { moves }: WayOff, times: number): LineSpec =>
  moves.reduce((moved, { stageId, param, by }) => withMoved(moved, stageId, param, times * by), spec);

/** One way in which constants are off together, each by what it is uncertain by. */
export interface WayOff {
  /** What makes them so: "fitted" and which way of the fit, a cause that somebody named, or the constant itself. */
  readonly of:
    | { readonly kind: 'fitted'; readonly way: number }
    | { readonly kind: 'cause'; readonly cause: string }
    | { readonly kind: 'constant'; readonly stageId: string; readonly param: string };
  readonly moves: readonly Move[];
}

/**
 * The independent ways in which the constants of a line may be off, each by one standard uncertainty: those of the fit, and as
 * bought those that it does not reach.
 */
export function waysOff(spec: LineSpec, calibration: CalibrationCovariance | null): WayOff[] {
  const fitted = (calibration ? choleskyColumns(calibration.covariance) : []).map((column, way) => ({
    of: { kind: 'fitted', way } as const,
    moves: calibration!.parameters.map((p, i) => ({ ...p, by: column[i]! })).filter((m) => m.by !== 0),
  }));
  const reached = calibration ? (calibration.stages ?? Infinity) : 0;
  const bought = boughtConstants(spec, reached).map((group): WayOff => {
    const { cause, stageId, param } = group[0]!;
    return {
      of: cause === null ? { kind: 'constant', stageId, param } : { kind: 'cause', cause },
      moves: group.map((c) => ({ stageId: c.stageId, param: c.param, by: c.u })),
    };
  });
  return [...fitted.filter(({ moves }) => moves.length > 0), ...bought];
}

/** Columns of the lower factor; of a constant that follows wholly from others there is none. */
function choleskyColumns(covariance: readonly (readonly number[])[]): number[][] {
  const columns: number[][] = [];
  covariance.forEach((row, k) => {
    const left = row[k]! - columns.reduce((s, c) => s + c[k]! ** 2, 0);
    if (!(left > LEAST_LEFT * row[k]!)) return;
    const root = Math.sqrt(left);
    columns.push(
      covariance.map((other, i) =>
        i < k ? 0 : (other[k]! - columns.reduce((s, c) => s + c[i]! * c[k]!, 0)) / root,
      ),
    );
  });
  return columns;
}

function withMoved(spec: LineSpec, stageId: string, param: string, by: number): LineSpec {
  const stage = spec.stages.find((s) => s.id === stageId);
  const now = stage ? paramAt(stage.params, param) : Number.NaN;
  return Number.isFinite(now) ? withLineParam(spec, stageId, param, now + by) : spec;
}
