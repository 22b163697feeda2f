import { describe, expect, it } from 'vitest';
import type { AlarmRule } from '../src/model/alarm.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { REASON } from '../src/stage/contract.ts';
import { alarmTrial } from '../src/trial/index.ts';
import { alarmRule } from './support/alarmRule.ts';

const RULE = alarmRule({ caution: 30, limit: 60, latch: true });

/** An hour at one a second: five leaks that rise to 40 within half a minute, and every ten minutes a puff of 25 that is none. */
function hour(rule: AlarmRule, events: readonly number[] = [300, 900, 1500, 2100, 2700]) {
  const random = seededRandom(3);
  const trial = alarmTrial(rule, [0, 100], events, 60, (_r, x) => x);
  for (let t = 0; t < 3600; t++) {
    const leak = [300, 900, 1500, 2100, 2700].some((e) => t >= e + 10 && t < e + 90) ? 40 : 0;
    const puff = t % 600 < 20 && t > 0 ? 25 : 0;
    trial.reading('c', t, 5 + leak + puff + 0.3 * random.normal(), REASON.ok);
  }
  return trial.end(0, 3600);
}

describe('an alarm tried on a run', () => {
  it('set too high it misses all, and a level is proposed in the middle of those that do right', () => {
    const told = hour(RULE);
    expect(told).toMatchObject({
      events: 5,
      own: { level: 60, caught: 0, missed: 5, falseAlarms: 0, lateS: null },
    });
    const { proposed } = told;
    expect(proposed).toMatchObject({ caught: 5, falseAlarms: 0 });
    expect(proposed!.low).toBeGreaterThan(30);
    expect(proposed!.high).toBeLessThan(46);
    expect(proposed!.level).toBeGreaterThan(proposed!.low);
    expect(proposed!.level).toBeLessThan(proposed!.high);
  });

  it('right it catches all, ten seconds late; too low it comes for nothing', () => {
    const right = hour({ ...RULE, limit: 38 });
    expect(right.own).toMatchObject({ caught: 5, missed: 0, falseAlarms: 0, lateS: 10 });
    // None in 55 minutes says below 3.3 an hour.
    expect(right.hours).toBeCloseTo(55 / 60, 6);
    expect(right.falsePerHourBelow).toBeCloseTo((-Math.log(0.05) * 60) / 55, 2);
    const low = hour({ ...RULE, limit: 20, caution: null });
    expect(low.own).toMatchObject({ caught: 5, falseAlarms: 6 });
    expect(low.falsePerHourBelow).toBeGreaterThan(right.falsePerHourBelow!);
  });

  it('without a mark only what comes for nothing is told, and nothing is proposed', () => {
    const told = hour({ ...RULE, limit: 38 }, []);
    expect(told).toMatchObject({ events: 0, hours: 1, own: { falseAlarms: 5, caught: 0 }, proposed: null });
  });

  it('a rule without a level is tried as it is', () => {
    const trial = alarmTrial(
      { ...RULE, kind: 'outside', caution: null, limit: null, from: 0, to: 30 },
      null,
      [50],
      20,
      (_r, x) => x,
    );
    for (let t = 0; t < 100; t++) trial.reading('c', t, t > 55 ? 40 : 10, REASON.ok);
    expect(trial.end(0, 100)).toMatchObject({ levels: [], own: { level: null, caught: 1, lateS: 6 } });
  });
});
