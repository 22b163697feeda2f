import type { AlarmRule } from '../model/alarm.ts';
import { UNITS } from '../units/index.ts';

/** Says what is wrong with a rule, naming the value and the way out; null when it can work. */
export function alarmFault(rule: AlarmRule): string | null {
  const { kind, caution, limit, from, to, hysteresis, n, m, windowS } = rule;
  const { symbol } = UNITS[rule.unit];
  if (n > m) return `It wants ${n} of the newest ${m} readings. Use at most ${m}.`;
  switch (kind) {
    case 'high':
    case 'low':
    case 'rise':
    case 'fall': {
      if (caution === null && limit === null) return 'It has no level. Give a caution, a limit, or both.';
      if (kind === 'rise' || kind === 'fall') {
        if (!(windowS > 0)) return `Within ${windowS} s nothing changes. Use more than 0 s.`;
        if (Math.min(caution ?? Infinity, limit ?? Infinity) <= 0)
          return 'A change is above 0. Choose a fall in the place of a negative rise.';
      }
      if (caution === null || limit === null) return null;
      const isLow = kind === 'low';
      if (isLow ? caution <= limit : caution >= limit)
        return `Caution (${caution} ${symbol}) must come before the limit (${limit} ${symbol}). ${isLow ? 'Raise caution or lower the limit.' : 'Lower caution or raise the limit.'}`;
      return null;
    }
    case 'outside':
      if (from === null || to === null) return 'The band needs both of its ends.';
      if (from >= to) return `The band must rise; received ${from} to ${to} ${symbol}. Swap its ends.`;
      if (hysteresis >= (to - from) / 2)
        return `Hysteresis ${hysteresis} ${symbol} would never let go within the band. Use less than ${(to - from) / 2}.`;
      return null;
    case 'sector':
      if (from === null || to === null) return 'The sector needs both of its ends.';
      if ((((to - from) % 360) + 360) % 360 === 0)
        return `The sector must have a width; received ${from} to ${to} ${symbol}.`;
      return null;
    case 'silent':
      return windowS > 0 ? null : 'Say after how long without a word. Use more than 0 s.';
    case 'fault':
      return null;
  }
}
