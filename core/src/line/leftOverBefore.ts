import type { LeftOver } from '../model/calibration.ts';
import { valuesAtRest } from './atRest.ts';
import { compileLine, type CompiledLine } from './compile.ts';
import { leftOverAt, offAt } from './leftOver.ts';

/** It is looked at in so many places over the points. */
const PLACES = 33;
/** A stage is moved by this share of its reach to see what those behind it make of it. */
const STEP = 1e-4;

/**
 * What a fit leaves, told where the line has gone through its first so many stages: whoever goes on from there has none of
 * those behind, which turn what is off there into what is left at the end.
 * @param validRaw range of the points, first source
 * @returns NaN where the stages behind have no reading at rest, or hide what is before them
 */
export function leftOverBefore(
  line: CompiledLine,
  place: number,
  leftOver: LeftOver,
  [first, last]: readonly [number, number],
): LeftOver {
  if (line.sources.length !== 1) return Number.NaN;
  const raws = Array.from({ length: PLACES }, (_, i) => first + ((last - first) * i) / (PLACES - 1));
  const values = raws.map((raw) => valuesAtRest(line, raw));
  const here = values.map((v) => v[place]!);
  const step = STEP * (Math.max(...here) - Math.min(...here) || Math.abs(here[0]!) || 1);
  const [high, low] = [step, -step].map((offset) =>
    compileLine(offAt(line.spec, place, offset), line.context),
  );
  const told = raws
    .map((raw, i) => {
      const slope = (valuesAtRest(high!, raw).at(-1)! - valuesAtRest(low!, raw).at(-1)!) / (2 * step);
      return { reading: here[i]!, u: leftOverAt(leftOver, values[i]!.at(-1)!) / Math.abs(slope) };
    })
    .sort((a, b) => a.reading - b.reading)
    .filter(({ reading }, i, all) => i === 0 || reading > all[i - 1]!.reading);
  if (!told.every(({ reading, u }) => Number.isFinite(reading) && Number.isFinite(u))) return Number.NaN;
  return { readings: told.map((t) => t.reading), u: told.map((t) => t.u) };
}
