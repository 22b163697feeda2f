import { fUpperTail, mean } from '../numerics/index.ts';

export interface RepeatReading {
  /** The thing measured. */
  readonly item: string;
  /** Person, mounting or gadget. */
  readonly by: string;
  readonly value: number;
}

export interface RepeatStudy {
  /** Variances: repeats, between those who measured, their quarrel with the items, between items. */
  readonly repeatability: number;
  readonly by: number;
  readonly interaction: number;
  readonly item: number;
  /** Shares of the total variance, 0 to 1, in that order. */
  readonly shares: readonly [number, number, number, number];
  /** Standard deviation of the measuring itself: all but the items. */
  readonly measuringSd: number;
  /** p-value of a difference between those who measured. */
  readonly pBy: number;
}

/**
 * Several people or mountings measure several items several times: where the variance comes from. Balanced two-way analysis
 * of variance with random effects; negative components are set to 0.
 * @throws {RangeError} unless every one measured every item equally often, at least twice, with two of each
 * Source: Montgomery, Design and Analysis of Experiments, 8th edition, 13.2.
 */
export function repeatStudy(readings: readonly RepeatReading[]): RepeatStudy {
  const items = [...new Set(readings.map((r) => r.item))];
  const people = [...new Set(readings.map((r) => r.by))];
  const cells = items.map((item) =>
    people.map((by) => readings.filter((r) => r.item === item && r.by === by).map((r) => r.value)),
  );
  const r = cells[0]?.[0]?.length ?? 0;
  const [a, b] = [items.length, people.length];
  if (a < 2 || b < 2 || r < 2 || cells.some((row) => row.some((c) => c.length !== r)))
    throw new RangeError(
      `At least two items, two people and two repeats are needed, with equally many repeats for every combination; received ${a} items, ${b} people and ${cells.map((row) => row.map((c) => c.length).join('/')).join(', ')} repeats. Add the missing readings.`,
    );
  const grand = mean(readings.map((v) => v.value));
  const cellMeans = cells.map((row) => row.map(mean));
  const itemMeans = cellMeans.map(mean);
  const byMeans = people.map((_, j) => mean(cellMeans.map((row) => row[j]!)));
  const squares = (values: readonly number[]) => values.reduce((s, v) => s + v * v, 0);
  const msItem = (b * r * squares(itemMeans.map((v) => v - grand))) / (a - 1);
  const msBy = (a * r * squares(byMeans.map((v) => v - grand))) / (b - 1);
  const msBoth =
    (r * squares(cellMeans.flatMap((row, i) => row.map((v, j) => v - itemMeans[i]! - byMeans[j]! + grand)))) /
    ((a - 1) * (b - 1));
  const msError =
    squares(cells.flatMap((row, i) => row.flatMap((c, j) => c.map((v) => v - cellMeans[i]![j]!)))) /
    (a * b * (r - 1));
  const interaction = Math.max(0, (msBoth - msError) / r);
  const by = Math.max(0, (msBy - msBoth) / (a * r));
  const item = Math.max(0, (msItem - msBoth) / (b * r));
  const total = msError + by + interaction + item;
  return {
    repeatability: msError,
    by,
    interaction,
    item,
    shares: [msError / total, by / total, interaction / total, item / total],
    measuringSd: Math.sqrt(msError + by + interaction),
    pBy: fUpperTail(msBy / msBoth, b - 1, (a - 1) * (b - 1)),
  };
}
