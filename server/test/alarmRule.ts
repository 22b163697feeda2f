import type { AlarmRule } from '@lucky-needle/core/model';

/** An alarm that sounds and lights nothing but red, but for what a test says of it. */
export const alarmRule = (change: Partial<AlarmRule>): AlarmRule => ({
  id: 'a',
  name: 'A',
  channelId: 'blow',
  figureId: null,
  kind: 'high',
  unit: 'N',
  caution: null,
  limit: null,
  from: null,
  to: null,
  hysteresis: 0,
  windowS: 0,
  n: 1,
  m: 1,
  minimumOnS: 0,
  latch: false,
  lamp: 'red',
  sounder: 'none',
  why: '',
  ...change,
});
