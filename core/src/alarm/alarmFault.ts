import type { AlarmRule } from '../model/alarm.ts';
import { UNITS } from '../units/index.ts';

/** Says what is wrong with a rule, naming the value and the way out; null when it can work. */
export function alarmFault(rule: AlarmRule): string | null {
  const { kind, caution, limit, from, to, hysteresis, n, m, windowS } = rule;
  const { symbol } = UNITS[rule.unit];
  if (n > m)
    return `“Readings required” is ${n}, but only the latest ${m} readings are checked. Enter at most ${m}.`;
  switch (kind) {
    case 'high':
    case 'low':
    case 'rise':
    case 'fall': {
      if (caution === null && limit === null) return 'Enter a caution level, a limit, or both.';
      if (kind === 'rise' || kind === 'fall') {
        if (!(windowS > 0)) return `Enter a time window above 0 s; received ${windowS} s.`;
        if (Math.min(caution ?? Infinity, limit ?? Infinity) <= 0)
          return 'Enter a change above 0. For a fall, choose “Value falls too fast”.';
      }
      if (caution === null || limit === null) return null;
      const isLow = kind === 'low';
      if (isLow ? caution <= limit : caution >= limit)
        return `Caution (${caution} ${symbol}) must be reached before the limit (${limit} ${symbol}). ${isLow ? 'Raise the caution level or lower the limit.' : 'Lower the caution level or raise the limit.'}`;
      return null;
    }
    case 'outside':
      if (from === null || to === null) return 'Enter both ends of the range.';
      if (from >= to) return `Enter the lower end of the range first; received ${from} to ${to} ${symbol}.`;
      if (hysteresis >= (to - from) / 2)
        return `With hysteresis ${hysteresis} ${symbol} the alarm could never clear within the range. Enter less than ${(to - from) / 2}.`;
      return null;
    case 'sector':
      if (from === null || to === null) return 'Enter both ends of the sector.';
      if ((((to - from) % 360) + 360) % 360 === 0)
        return `Enter two different directions for the sector; received ${from} to ${to} ${symbol}.`;
      return null;
    case 'silent':
      return windowS > 0 ? null : 'Enter a time without readings above 0 s.';
    case 'fault':
      return null;
  }
}
