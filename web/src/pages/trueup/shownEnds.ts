import type { PlotSeries } from '../../parts/plotTypes.ts';

/** A curve may show so many spans of the points beyond them, above and below; an as-bought line far off is left outside. */
const BEYOND_POINTS = 1;

/** The points and the fit first; what was bought as far as it lies near them. */
export function shownEnds(
  truths: readonly number[],
  series: readonly PlotSeries[],
): [low: number, high: number] {
  const ends = (values: readonly number[]): [number, number] => [Math.min(...values), Math.max(...values)];
  const finite = (label: string) =>
    series.filter((s) => s.label === label).flatMap((s) => Array.from(s.y).filter(Number.isFinite));
  const fit = finite('Fit');
  const [low, high] = ends([...truths, ...fit]);
  const span = high - low || Math.max(...truths.map(Math.abs), 1);
  const near = finite('Uncalibrated').filter(
    (v) => v > low - BEYOND_POINTS * span && v < high + BEYOND_POINTS * span,
  );
  return ends([low, high, ...near]);
}
