import { mean, studentTQuantile } from '../numerics/index.ts';

export interface DayBest {
  /** Days since 1970 where the gadget stands. */
  readonly day: number;
  readonly best: number;
  readonly mean: number;
  readonly n: number;
}

export interface DaysTrend {
  readonly days: readonly DayBest[];
  /** Change of a day's mean a week, with its half-width at 95 %; null with fewer than three days. */
  readonly aWeek: { readonly by: number; readonly half95: number; readonly isShown: boolean } | null;
}

/**
 * What became of results over the days: best and mean of each, and the straight line through the means, each day alike.
 * @param results finite values with the day that they were made on @param more whether more is better
 */
export function trendOfDays(
  results: readonly { readonly day: number; readonly value: number }[],
  more: boolean,
): DaysTrend {
  const days = [...new Set(results.map((r) => r.day))]
    .toSorted((a, b) => a - b)
    .map((day): DayBest => {
      const values = results.filter((r) => r.day === day).map((r) => r.value);
      return {
        day,
        best: more ? Math.max(...values) : Math.min(...values),
        mean: mean(values),
        n: values.length,
      };
    });
  if (days.length < 3) return { days, aWeek: null };
  const [middle, level] = [mean(days.map((d) => d.day)), mean(days.map((d) => d.mean))];
  const width = days.reduce((s, d) => s + (d.day - middle) ** 2, 0);
  const slope = days.reduce((s, d) => s + (d.day - middle) * (d.mean - level), 0) / width;
  const left = days.reduce((s, d) => s + (d.mean - level - slope * (d.day - middle)) ** 2, 0);
  const freedom = days.length - 2;
  const half = studentTQuantile(0.975, freedom) * Math.sqrt(left / freedom / width);
  return {
    days,
    aWeek: { by: 7 * slope, half95: 7 * half, isShown: Math.abs(slope) > half },
  };
}
