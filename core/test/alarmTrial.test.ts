import { describe, expect, it } from 'vitest';
import type { AlarmRule } from '../src/model/alarm.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { REASON } from '../src/stage/contract.ts';
import { alarmTrial, type TrueEvent } from '../src/trial/index.ts';
import { alarmRule } from './support/alarmRule.ts';

const RULE = alarmRule({ caution: 30, limit: 60, latch: true });

const LEAKS = [300, 900, 1500, 2100, 2700];
const moment = (t: number): TrueEvent => ({ fromS: t, toS: t });

/** An hour at one a second: five leaks that rise to 40 within half a minute, and every ten minutes a puff of 25 that is none. */
function hour(rule: AlarmRule, events: readonly TrueEvent[] = LEAKS.map(moment)) {
  const random = seededRandom(3);
  const trial = alarmTrial(rule, [0, 100], 60, (_r, x) => x);
  for (let t = 0; t < 3600; t++) {
    const leak = LEAKS.some((e) => t >= e + 10 && t < e + 90) ? 40 : 0;
    const puff = t % 600 < 20 && t > 0 ? 25 : 0;
    trial.reading('c', t, 5 + leak + puff + 0.3 * random.normal(), REASON.ok);
  }
  return trial.end(0, 3600, events);
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

  it('what lasts is watched for as long as it lasts: an alarm that comes late in it is not for nothing', () => {
    const long = hour({ ...RULE, limit: 20 }, [{ fromS: 0, toS: 3600 }]);
    expect(long).toMatchObject({ events: 1, hours: 0, own: { caught: 1, falseAlarms: 0 } });
    expect(long.falsePerHourBelow).toBeNull();
    // The same begin as a moment: what comes later than a minute is for nothing.
    expect(hour({ ...RULE, limit: 20 }, [moment(0)]).own.falseAlarms).toBeGreaterThan(5);
  });

  it('a rule without a level is tried as it is', () => {
    const trial = alarmTrial(
      { ...RULE, kind: 'outside', caution: null, limit: null, from: 0, to: 30 },
      null,
      20,
      (_r, x) => x,
    );
    for (let t = 0; t < 100; t++) trial.reading('c', t, t > 55 ? 40 : 10, REASON.ok);
    expect(trial.end(0, 100, [moment(50)])).toMatchObject({
      levels: [],
      own: { level: null, caught: 1, lateS: 6 },
    });
  });
});
