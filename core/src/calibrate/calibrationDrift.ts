import { readingAtRest } from '../line/atRest.ts';
import { compileLine } from '../line/compile.ts';
import { editLine } from '../line/edits.ts';
import type { PrepareContext } from '../stage/contract.ts';
import { uncertaintyAlong } from '../line/uncertainty.ts';
import type { FitResult } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';
import { calibrationCovariance } from './calibrationCovariance.ts';

export interface Drift {
  readonly raw: number;
  /** Reading by the later version less that by the earlier, in the reading's unit. */
  readonly change: number;
  /** Expanded uncertainty (k = 2) of the change. */
  readonly uncertainty: number;
  /** Whether the change is more than the two versions' uncertainties explain. */
  readonly shown: boolean;
}

/** How far two versions of a calibration differ over the raw range that both are valid in. Empty when they share none. */
export function calibrationDrift(
  line: LineSpec,
  context: PrepareContext,
  earlier: FitResult,
  later: FitResult,
  places = 5,
): Drift[] {
  const low = Math.max(earlier.validRaw[0], later.validRaw[0]);
  const high = Math.min(earlier.validRaw[1], later.validRaw[1]);
  if (!(low <= high)) return [];
  const versions = [earlier, later].map((result) => {
    const compiled = compileLine(editLine(line, result.edits), context);
    return { compiled, at: uncertaintyAlong(compiled, calibrationCovariance(result)) };
  });
  return Array.from({ length: places }, (_, i) => {
    const raw = places === 1 ? (low + high) / 2 : low + ((high - low) * i) / (places - 1);
    const [a, b] = versions.map((v) => readingAtRest(v.compiled, raw));
    const [ua, ub] = versions.map((v) => v.at(raw, 0).at(-1)!.systematic);
    const change = b! - a!;
    const uncertainty = 2 * Math.hypot(ua!, ub!);
    return { raw, change, uncertainty, shown: Math.abs(change) > uncertainty };
  });
}
