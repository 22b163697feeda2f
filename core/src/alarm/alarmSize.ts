import type { AlarmRule } from '../model/alarm.ts';
import { shortWay } from '../numerics/index.ts';

/** Levels of what an alarm measures: the larger, the graver; Infinity where there is no such level. */
export interface Levels {
  readonly caution: number;
  readonly limit: number;
}

/** The levels of a rule in what `sizeOf` gives. */
export function levelsOf({ kind, caution, limit, windowS }: AlarmRule): Levels {
  const at = (v: number | null) => (v === null ? Infinity : kind === 'low' ? -v : v);
  switch (kind) {
    case 'high':
    case 'low':
    case 'rise':
    case 'fall':
      return { caution: at(caution), limit: at(limit) };
    case 'outside':
    case 'sector':
      return { caution: Infinity, limit: 0 };
    case 'silent':
      return { caution: Infinity, limit: windowS };
    case 'fault':
      return { caution: Infinity, limit: 1 };
  }
}

/** How far a value lies towards what a rule is afraid of, in its unit: above a level, below it, outside a band, in a sector. */
export function sizeOf({ kind, from, to }: AlarmRule, x: number): number {
  switch (kind) {
    case 'low':
    case 'fall':
      return -x;
    case 'outside':
      return Math.max(from! - x, x - to!);
    case 'sector': {
      const width = (((to! - from!) % 360) + 360) % 360;
      // Positive within the sector, by the nearer edge.
      const half = width / 2;
      return half - Math.abs(shortWay(from! + half, x));
    }
    default:
      return x;
  }
}
