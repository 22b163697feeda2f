import { useEffect, useRef, useState } from 'react';
import { lowerBound } from '@lucky-needle/core/numerics';
import { useLive } from '../../../live/useLive.ts';

/** The most that is collected; a minute or two of turning is enough. */
const MOST = 4000;
/** Kept of fast links: more a second say nothing new of a direction. */
const A_SECOND = 50;

/** Live readings of several columns together, gathered while wanted; null while a column is missing. */
export function useCollector(names: readonly string[], on: boolean) {
  const live = useLive();
  const [rows, setRows] = useState<readonly (readonly number[])[]>([]);
  const lastS = useRef(Number.NaN);
  useEffect(() => {
    if (!on) {
      lastS.current = Number.NaN;
      return;
    }
    const columns = names.map((n) => live.columns.get(n));
    const newest = live.times.at(-1);
    if (newest === undefined || columns.includes(undefined)) return;
    // What came before the button was pressed does not count.
    if (Number.isNaN(lastS.current)) {
      lastS.current = newest;
      return;
    }
    const fresh: number[][] = [];
    for (let i = lowerBound(live.times, lastS.current + 1e-9); i < live.times.length; i++) {
      if (live.times[i]! - lastS.current < 0.999 / A_SECOND) continue;
      lastS.current = live.times[i]!;
      fresh.push(columns.map((c) => c![i]!));
    }
    if (fresh.length > 0) setRows((old) => [...old, ...fresh].slice(-MOST));
  }, [on, live.columns, live.times, names]);
  return { rows, forget: () => setRows([]) };
}

/** Mean of the newest seconds of a column, with the scatter of single readings; null without readings. */
export function newestMean(
  times: Float64Array,
  values: Float64Array | undefined,
  seconds: number,
): { mean: number; sd: number; n: number } | null {
  const newest = times.at(-1);
  if (newest === undefined || !values) return null;
  const from = lowerBound(times, newest - seconds);
  const n = values.length - from;
  if (n < 2) return null;
  let sum = 0;
  for (let i = from; i < values.length; i++) sum += values[i]!;
  const mean = sum / n;
  let squares = 0;
  for (let i = from; i < values.length; i++) squares += (values[i]! - mean) ** 2;
  return { mean, sd: Math.sqrt(squares / (n - 1)), n };
}
