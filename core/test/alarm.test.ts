import { describe, expect, it } from 'vitest';
import { alarmFault, createAlarms, gravest, inUnitOf, type AlarmChange } from '../src/alarm/index.ts';
import type { AlarmLevel, AlarmRule } from '../src/model/alarm.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { REASON } from '../src/stage/contract.ts';
import { alarmRule as rule } from './support/alarmRule.ts';

function play(rules: readonly AlarmRule[]) {
  const changes: AlarmChange[] = [];
  const alarms = createAlarms(
    rules,
    (_rule, x) => x,
    (c) => changes.push(c),
  );
  const levels = (readings: readonly (readonly [number, number, number?])[]): AlarmLevel[] =>
    readings.map(([t, x, reason = REASON.ok]) => {
      alarms.reading('c', t, x, reason);
      return alarms.now(t)[0]!.level;
    });
  return { alarms, changes, levels };
}

describe('one alarm', () => {
  it('rises at once and lets go only below the hysteresis', () => {
    expect(
      play([rule()]).levels([
        [0, 14.9],
        [1, 15],
        [2, 13.5],
        [3, 25],
        [4, 23.5],
        [5, 22.9],
        [6, 12.9],
      ]),
    ).toEqual(['quiet', 'caution', 'caution', 'limit', 'limit', 'caution', 'quiet']);
  });

  it('low: a cell at its cut-off, and not a full one', () => {
    const low = rule({ kind: 'low', unit: 'V', caution: 3.2, limit: 3, hysteresis: 0.05 });
    expect(
      play([low]).levels([
        [0, 4.18],
        [1, 3.2],
        [2, 3],
        [3, 3.04],
        [4, 3.06],
        [5, 3.3],
      ]),
    ).toEqual(['quiet', 'caution', 'limit', 'limit', 'caution', 'quiet']);
  });

  it('counts only between its ends: an empty slot is no flat cell', () => {
    const low = rule({ kind: 'low', unit: 'V', caution: null, limit: 3, from: 1, hysteresis: 0.05 });
    const { levels, alarms } = play([low]);
    expect(
      levels([
        [0, 0.01],
        [1, 4],
        [2, 0.02],
        [3, 2.9],
      ]),
    ).toEqual(['unknown', 'quiet', 'unknown', 'limit']);
    expect(alarms.now(3)[0]!.reason).toBe('');
  });

  it('outside a band, on both of its sides', () => {
    const band = rule({ kind: 'outside', from: 21.6, to: 26.4, hysteresis: 0.3 });
    expect(
      play([band]).levels([
        [0, 24],
        [1, 26.5],
        [2, 26.2],
        [3, 26],
        [4, 21.5],
      ]),
    ).toEqual(['quiet', 'limit', 'limit', 'quiet', 'limit']);
  });

  it('in a sector across north', () => {
    const sector = rule({ kind: 'sector', unit: 'deg', from: 315, to: 45, hysteresis: 5 });
    expect(
      play([sector]).levels([
        [0, 180],
        [1, 314],
        [2, 316],
        [3, 359],
        [4, 1],
        [5, 48],
        [6, 51],
        [7, 200],
      ]),
    ).toEqual(['quiet', 'quiet', 'limit', 'limit', 'limit', 'limit', 'quiet', 'quiet']);
  });

  it('rises by so much within so long', () => {
    const rise = rule({ kind: 'rise', unit: 'degC', caution: null, limit: 5, windowS: 60, hysteresis: 1 });
    const { levels } = play([rise]);
    const slow = levels(Array.from({ length: 100 }, (_, i) => [i, 20 + i / 30]));
    expect([slow[10], slow.at(-1)]).toEqual(['unknown', 'quiet']);
    expect(levels(Array.from({ length: 40 }, (_, i) => [100 + i, 23.3 + i / 5])).at(-1)).toBe('limit');
  });

  it('hears nothing for so long, with the link up and with it gone', () => {
    const silent = rule({ kind: 'silent', caution: null, limit: null, windowS: 10, hysteresis: 50 });
    const { alarms, levels } = play([silent]);
    expect(alarms.now(0)[0]).toMatchObject({ level: 'unknown', sinceS: null });
    levels([[0, 1]]);
    const at = (timeS: number, silentS: number) => {
      alarms.time(timeS, silentS);
      return alarms.now(timeS)[0]!.level;
    };
    expect([at(5, 5), at(9.9, 9.9), at(10, 10), at(20, 20)]).toEqual(['quiet', 'quiet', 'limit', 'limit']);
    // Its clock has stood still: what it says next is from before the silence was told.
    expect(levels([[1, 1]])).toEqual(['quiet']);
  });

  it('says a fault of a sensor, and none of a state that is inside the brief', () => {
    const fault = rule({ kind: 'fault', caution: null, limit: null, hysteresis: 0, windowS: 30 });
    const { levels, alarms } = play([fault]);
    expect(
      levels([
        [0, Number.NaN, REASON.warmingUp],
        [1, Number.NaN, REASON.waiting],
        [2, 5],
        [3, Number.NaN, REASON.saturatedHigh],
        [4, 5.1],
        [5, Number.NaN, REASON.outOfDomain],
        [6, 5.2],
      ]),
    ).toEqual(['unknown', 'unknown', 'quiet', 'limit', 'quiet', 'unknown', 'quiet']);
    // A probe that does not move at all.
    expect(
      levels([
        [20, 5.2],
        [35, 5.2],
        [36, 5.2],
        [37, 5.3],
      ]),
    ).toEqual(['quiet', 'quiet', 'limit', 'quiet']);
    expect(alarms.now(37)[0]!.reason).toBe('');
  });

  it('never says quiet of what nobody knows, and keeps what is on', () => {
    const { levels, alarms } = play([rule()]);
    expect(alarms.now(0)[0]).toMatchObject({ level: 'unknown', reason: 'no readings yet' });
    expect(
      levels([
        [0, Number.NaN, REASON.warmingUp],
        [1, 5],
        [2, Number.NaN, REASON.missing],
        [3, 26],
        [4, Number.NaN, REASON.missing],
      ]),
    ).toEqual(['unknown', 'quiet', 'unknown', 'limit', 'limit']);
    alarms.time(10, 6);
    expect(alarms.now(10)[0]).toMatchObject({ level: 'limit', reason: 'no readings from the gadget' });
    levels([[11, 3]]);
    alarms.time(20, 9);
    expect(alarms.now(20)[0]).toMatchObject({ level: 'unknown' });
  });

  it('waits for n of m, so that one wild reading is none', () => {
    const patient = rule({ caution: null, n: 3, m: 5 });
    const { levels } = play([patient]);
    const told = levels([5, 99, 5, 5, 5, 5, 99, 99, 5, 99, 5, 5, 5].map((x, i) => [i, x]));
    expect(told.map((l) => (l === 'limit' ? 1 : 0)).join('')).toBe('0000000001100');
  });

  it('stays on for its minimum, latched until it is seen, and goes up again after', () => {
    const { levels, alarms, changes } = play([rule({ minimumOnS: 3, latch: true })]);
    expect(
      levels([
        [0, 26],
        [1, 5],
      ]),
    ).toEqual(['limit', 'limit']);
    expect(alarms.now(1)[0]!.isHeld).toBe(false);
    levels([[4, 5]]);
    expect(alarms.now(4)[0]).toMatchObject({ level: 'limit', isHeld: true, isSeen: false });
    alarms.silence(4, 60);
    expect(alarms.now(5)[0]!.silencedS).toBe(59);
    expect(alarms.see('a', 5)).toBe(true);
    expect(alarms.now(5)[0]).toMatchObject({ level: 'quiet', isHeld: false });
    // What comes again sounds again, however long it was silenced for.
    levels([[6, 30]]);
    expect(alarms.now(6)[0]).toMatchObject({ level: 'limit', isSeen: false, silencedS: 0 });
    // Seen while it lasts: it lets go by itself.
    alarms.see('a', 7);
    expect(levels([[12, 4]])).toEqual(['quiet']);
    expect(changes.map((c) => c.to)).toEqual(['limit', 'quiet', 'limit', 'quiet']);
    expect(alarms.see('nobody', 1)).toBe(false);
  });

  it('looks at a figure, and hears by what it is made of', () => {
    const { alarms } = play([
      rule({ id: 'peak', figureId: 'last', unit: 'N', caution: null, limit: 1200 }),
      rule({ id: 'still', figureId: 'count', kind: 'silent', caution: null, limit: null, windowS: 5 }),
    ]);
    alarms.figure('c', 'last', 1, Number.NaN, Number.NaN, 'Waiting for the first event.');
    expect(alarms.now(1)[0]).toMatchObject({ level: 'unknown', reason: 'Waiting for the first event.' });
    alarms.figure('c', 'last', 2, 1300, 2, '');
    alarms.figure('c', 'count', 2, 1, 2, '');
    expect(alarms.now(2).map((a) => a.level)).toEqual(['limit', 'quiet']);
    // The gadget goes on sending, but nothing happens any more.
    alarms.figure('c', 'count', 9, 1, 2, '');
    alarms.time(9, 0);
    expect(alarms.now(9)[1]!.level).toBe('limit');
  });
});

describe('however it is fed', () => {
  const stream = (seed: number, n: number) => {
    const random = seededRandom(seed);
    return Array.from(
      { length: n },
      (_, i) => [i / 10, 20 + 12 * Math.sin(i / 40) + 0.4 * random.normal()] as const,
    );
  };

  it('never chatters: noise within the hysteresis switches once a crossing', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const { changes, levels } = play([rule({ hysteresis: 4, caution: null })]);
      levels(stream(seed, 2000));
      // Two thousand readings are eight turns of the sine: on once and off once each.
      expect(changes.filter((c) => c.to === 'limit').length).toBeLessThanOrEqual(8);
    }
  });

  it('says the same when it is cut anywhere, saved and restored', () => {
    const rules = [
      rule({ latch: true, minimumOnS: 2 }),
      rule({ id: 'r', kind: 'rise', caution: 2, limit: 4, windowS: 5, n: 2, m: 3 }),
      rule({ id: 'f', kind: 'fault', caution: null, limit: null, windowS: 1 }),
    ];
    for (let seed = 1; seed <= 10; seed++) {
      const random = seededRandom(seed);
      const readings = stream(seed, 400).map(
        ([t, x]) => [t, random.uniform() < 0.05 ? Number.NaN : x] as const,
      );
      const feed = (cut: number) => {
        const changes: AlarmChange[] = [];
        const make = () =>
          createAlarms(
            rules,
            (_r, x) => x,
            (c) => changes.push(c),
          );
        let alarms = make();
        readings.forEach(([t, x], i) => {
          if (i === cut) {
            const saved = JSON.parse(
              JSON.stringify(alarms.save(), (_k, v) => (v !== v ? 'NaN' : v)),
              (_k, v) => (v === 'NaN' ? Number.NaN : v),
            );
            alarms = make();
            alarms.restore(saved);
          }
          alarms.reading('c', t, x, x === x ? REASON.ok : REASON.missing);
        });
        return { changes, now: alarms.now(50).map(({ silencedS: _s, ...rest }) => rest) };
      };
      const whole = feed(-1);
      expect(feed(Math.floor(400 * random.uniform()))).toEqual(whole);
      expect(whole.changes.length).toBeGreaterThan(0);
    }
  });
});

describe('rules', () => {
  it.each<[string, Partial<AlarmRule>, RegExp]>([
    ['no level', { caution: null, limit: null }, /Enter a caution level, a limit/],
    [
      'caution behind the limit',
      { caution: 30 },
      /Caution \(30 ppm\) must be reached before the limit \(25 ppm\)/,
    ],
    ['a low one the other way', { kind: 'low' }, /Raise the caution level or lower the limit/],
    ['a band upside down', { kind: 'outside', from: 5, to: 1 }, /Enter the lower end of the range first/],
    ['a band without an end', { kind: 'outside', from: 5 }, /both ends of the range/],
    ['a sector of nothing', { kind: 'sector', from: 5, to: 365 }, /two different directions/],
    ['more than there are', { n: 4, m: 3 }, /at most 3/],
    ['silence of no length', { kind: 'silent', windowS: 0 }, /above 0 s/],
    ['a rise of less than nothing', { kind: 'rise', windowS: 5, caution: -1 }, /For a fall, choose/],
  ])('%s is refused', (_what, change, told) => {
    expect(alarmFault(rule(change))).toMatch(told);
  });
  it('that can work are taken', () => {
    expect(alarmFault(rule())).toBeNull();
    expect(alarmFault(rule({ kind: 'fault', caution: null, limit: null }))).toBeNull();
  });
  it('take values in their own unit, and none of another quantity', () => {
    const hot = rule({ unit: 'degC' });
    expect(inUnitOf(hot, 'degF', 212)).toBeCloseTo(100, 9);
    expect(inUnitOf(hot, 'V', 3)).toBeNaN();
    expect(inUnitOf(hot, null, 3)).toBe(3);
  });
  it('the gravest stands for all; one that nobody knows is not quiet', () => {
    const all = (...levels: AlarmLevel[]) => gravest(levels.map((level) => ({ level })));
    expect(all('quiet', 'caution', 'unknown')).toBe('caution');
    expect(all('quiet', 'unknown')).toBe('unknown');
    expect(all('quiet', 'quiet')).toBe('quiet');
    expect(all()).toBe('unknown');
  });
});
