import type { LineSpec } from '../model/line.ts';
import { boughtConstants } from './boughtConstants.ts';
import { compileLine, type CompiledLine } from './compile.ts';
import { paramAt, withLineParam } from './paramPath.ts';
import type { CalibrationCovariance } from './uncertainty.ts';

/** The share of an uncertainty by which constants are moved: small enough to be straight, large enough not to drown in rounding. */
export const MOVED_BY = 0.1;

/** Below this share of its own variance, what is left of a constant is rounding of the fit. */
const LEAST_LEFT = 1e-12;

/**
 * A line with its constants moved by a tenth of what they are uncertain by, once for each independent way in which they
 * may be off: what the readings then move, ten times over and combined in quadrature, is their standard uncertainty by the
 * constants, whatever stages with memory and however many raw columns the line has. Constants of a calibration move
 * together along the columns of the Cholesky factor of their covariance; as bought each by itself, or with those of its cause.
 * Source: JCGM 100:2008, 5.1.3 note 2 and 5.2.2.
 * @throws {RangeError} when a constant cannot be moved either way
 */
export function movedLines(line: CompiledLine, calibration: CalibrationCovariance | null): LineSpec[] {
  return waysOff(line.spec, calibration).map((way) => {
    for (const sign of [1, -1])
      try {
        const moved = withWayOff(line.spec, way, sign * MOVED_BY);
        compileLine(moved, line.context);
        return moved;
      } catch (error) {
        if (!(error instanceof RangeError)) throw error;
      }
    const [first] = way;
    throw new RangeError(
      `The constant "${first!.param}" cannot be moved by what it is uncertain by, ${first!.by}, without leaving what its stage allows.`,
    );
  });
}

/** One constant moved by so much. */
export interface Move {
  readonly stageId: string;
  readonly param: string;
  readonly by: number;
}

/** A line with its constants off in one way by so many standard uncertainties. */
export const withWayOff = (spec: LineSpec, way: readonly Move[], times: number): LineSpec =>
  way.reduce((moved, { stageId, param, by }) => withMoved(moved, stageId, param, times * by), spec);

/** The independent ways in which the constants of a line may be off, each by one standard uncertainty. */
export function waysOff(spec: LineSpec, calibration: CalibrationCovariance | null): Move[][] {
  if (!calibration)
    return boughtConstants(spec).map((group) =>
      group.map(({ stageId, param, u }) => ({ stageId, param, by: u })),
    );
  return choleskyColumns(calibration.covariance)
    .map((column) =>
      calibration.parameters.map((p, i) => ({ ...p, by: column[i]! })).filter((m) => m.by !== 0),
    )
    .filter((way) => way.length > 0);
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
