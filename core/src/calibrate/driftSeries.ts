import { isoSeconds } from '../units/dates.ts';
import { readingAtRest } from '../line/atRest.ts';
import { compileLine } from '../line/compile.ts';
import { editLine } from '../line/edits.ts';
import { LineError, type PrepareContext } from '../stage/contract.ts';
import { lineUncertainty } from '../line/uncertainty.ts';
import type { Calibration } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';
import { calibrationCovariance } from './calibrationCovariance.ts';
import { GUIDED_FITS } from './guided/index.ts';

export interface DriftSeries {
  /** What is followed: the reading at one raw value, or one constant. */
  readonly what: string;
  /** Unit of a constant; null for the reading's own. */
  readonly unit: string | null;
  readonly places: readonly {
    readonly number: number;
    /** Since the first version. */
    readonly days: number;
    /** From the first version. */
    readonly change: number;
    /** Expanded uncertainty (k = 2) of this version alone. */
    readonly uncertainty: number;
  }[];
}

/**
 * How the versions of a calibration moved, one after another: the reading in the middle of the raw range that all are valid
 * in, or for guided true-ups the first constant that all share. Versions that no longer fit the line are ignored.
 * @returns null with fewer than two versions that can be compared
 */
export function driftSeries(
  line: LineSpec,
  context: PrepareContext,
  calibrations: readonly Calibration[],
): DriftSeries | null {
  const sorted = calibrations
    .filter((c) => c.result.edits.every((e) => line.stages.some((s) => s.id === e.stageId)))
    .toSorted((a, b) => a.number - b.number);
  if (sorted.length < 2) return null;
  const start = isoSeconds(sorted[0]!.createdAt);
  const daysOf = (c: Calibration) => (isoSeconds(c.createdAt) - start) / 86_400;
  const guided = sorted.some((c) => GUIDED_FITS.some((f) => f.id === c.result.fit));
  if (guided || line.sources.length > 1) return ofConstant(sorted, daysOf);
  const low = Math.max(...sorted.map((c) => c.result.validRaw[0]));
  const high = Math.min(...sorted.map((c) => c.result.validRaw[1]));
  if (!(low <= high)) return ofConstant(sorted, daysOf);
  const raw = (low + high) / 2;
  try {
    const readings = sorted.map(({ result }) => {
      const compiled = compileLine(editLine(line, result.edits), context);
      const last = lineUncertainty(compiled, raw, 0, calibrationCovariance(result)).at(-1)!;
      return { value: readingAtRest(compiled, raw), uncertainty: 2 * last.systematic };
    });
    return {
      what: `Reading at ${Math.round(raw)} raw counts`,
      unit: null,
      places: sorted.map((c, i) => ({
        number: c.number,
        days: daysOf(c),
        change: readings[i]!.value - readings[0]!.value,
        uncertainty: readings[i]!.uncertainty,
      })),
    };
  } catch (error) {
    // The line has changed since: its stages are there, but their units no longer agree.
    if (error instanceof LineError || error instanceof RangeError) return null;
    throw error;
  }
}

function ofConstant(sorted: readonly Calibration[], daysOf: (c: Calibration) => number): DriftSeries | null {
  const find = (c: Calibration, like: { stageId: string; param: string }) =>
    c.result.parameters.find((p) => p.stageId === like.stageId && p.param === like.param);
  const shared = sorted.at(-1)!.result.parameters.find((p) => sorted.every((c) => find(c, p)));
  if (!shared) return null;
  const first = find(sorted[0]!, shared)!.value;
  return {
    what: shared.title,
    unit: shared.unit,
    places: sorted.map((c) => {
      const { value, u } = find(c, shared)!;
      return { number: c.number, days: daysOf(c), change: value - first, uncertainty: 2 * u };
    }),
  };
}
