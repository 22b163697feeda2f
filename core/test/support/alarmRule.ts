import type { AlarmRule } from '../../src/model/alarm.ts';

/** An alarm at so many ppm, but for what a test says of it. */
export const alarmRule = (change: Partial<AlarmRule> = {}): AlarmRule => ({
  id: 'a',
  name: 'A',
  channelId: 'c',
  figureId: null,
  kind: 'high',
  unit: 'ppm',
  caution: 15,
  limit: 25,
  from: null,
  to: null,
  hysteresis: 2,
  windowS: 0,
  n: 1,
  m: 1,
  minimumOnS: 0,
  latch: false,
  lamp: 'red',
  sounder: 'beeps',
  why: '',
  ...change,
});
