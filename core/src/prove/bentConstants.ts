import type { CompiledLine } from '../line/compile.ts';
import { readingAtRest, type Raw } from '../line/atRest.ts';
import { waysOff } from '../line/waysOff.ts';
import { movedReading } from '../line/movedReading.ts';
import type { CalibrationCovariance } from '../line/uncertainty.ts';
import { monteCarlo } from './monteCarlo.ts';

const DRAWS = 2000;
/** Bend within two standard uncertainties, as a share of the change, from which first order is no longer trusted. */
const STRAIGHT = 0.1;
/** Share of draws that may give no number before nothing is said at all. */
const MOST_BAD = 0.02;

/**
 * What a reading is worth by the constants of its line where the line bends within their uncertainty, by drawing
 * (JCGM 101:2008, 7): the farther end of the shortest 95 % interval, over 1.96. A slope would say too little there.
 * @param raw one value a source
 * @returns null where the line is straight enough for first order; NaN where constants may be such that it gives no number
 */
export function bentConstants(
  line: CompiledLine,
  raw: Raw,
  calibration: CalibrationCovariance | null,
): number | null {
  const ways = waysOff(line.spec, calibration);
  const readingWith = movedReading(line, raw, ways);
  const now = readingAtRest(line, raw);
  const isBent = ways.some((_, k) => {
    const [up, down] = [2, -2].map((by) => readingWith(ways.map((__, i) => (i === k ? by : 0))));
    return !(Math.abs(up! + down! - 2 * now) <= STRAIGHT * Math.abs(up! - down!) + 1e-12 * Math.abs(now));
  });
  if (!isBent) return null;
  const drawn = monteCarlo(
    ways.map((_, k) => ({ title: `way ${k + 1}`, value: 0, halfWidth: 1, distribution: 'normal' as const })),
    readingWith,
    DRAWS,
    1,
  );
  if (drawn.bad > MOST_BAD * DRAWS) return Number.NaN;
  const [low, high] = drawn.shortest95;
  return Math.max(now - low, high - now) / 1.96;
}
