import { describe, expect, it } from 'vitest';
import { outputsOf, pageAsked } from '../src/alarm/index.ts';
import type { AlarmNow, AlarmRule } from '../src/model/alarm.ts';
import { alarmRule } from './support/alarmRule.ts';

const now = (ruleId: string, level: AlarmNow['level'], change: Partial<AlarmNow> = {}): AlarmNow => ({
  ruleId,
  level,
  sinceS: 0,
  value: 1,
  reason: '',
  isHeld: false,
  isSeen: false,
  silencedS: 0,
  ...change,
});
const gas: AlarmRule = alarmRule({ id: 'gas', caution: 15, limit: 25, lamp: 'red', sounder: 'beeps' });
const sector: AlarmRule = alarmRule({ id: 'sector', kind: 'sector', lamp: 'amber', sounder: 'none' });
const plain: AlarmRule = alarmRule({ id: 'plain', lamp: 'none', sounder: 'steady' });

describe('lamps and sounder', () => {
  it('are green only where everything is known and quiet', () => {
    const lamps = (items: AlarmNow[]) => outputsOf([gas, sector], items).lamps;
    expect(lamps([now('gas', 'quiet'), now('sector', 'quiet')])).toEqual({
      green: 'on',
      amber: 'off',
      red: 'off',
    });
    expect(lamps([now('gas', 'unknown'), now('sector', 'quiet')]).green).toBe('off');
    expect(lamps([now('sector', 'quiet')]).green).toBe('off');
    expect(lamps([now('gas', 'caution'), now('sector', 'quiet')]).green).toBe('off');
  });

  it('go amber at caution and to the lamp of the alarm at its limit, flashing until somebody has seen it', () => {
    const at = (level: AlarmNow['level'], isSeen: boolean) =>
      outputsOf([gas], [now('gas', level, { isSeen })]);
    expect(at('caution', false).lamps).toEqual({ green: 'off', amber: 'flashing', red: 'off' });
    expect(at('limit', false).lamps).toEqual({ green: 'off', amber: 'off', red: 'flashing' });
    expect(at('limit', true).lamps.red).toBe('on');
    expect(outputsOf([sector], [now('sector', 'limit')]).lamps).toEqual({
      green: 'off',
      amber: 'flashing',
      red: null,
    });
  });

  it('are those that an alarm has: none of an alarm without a lamp', () => {
    expect(outputsOf([plain], [now('plain', 'limit')]).lamps).toEqual({
      green: null,
      amber: null,
      red: null,
    });
    // What flashes for one that was not seen does not stand still for one that was.
    const both = outputsOf(
      [gas, alarmRule({ id: 'other', lamp: 'red' })],
      [now('gas', 'limit', { isSeen: true }), now('other', 'limit')],
    );
    expect(both.lamps.red).toBe('flashing');
  });

  it('sound as the loudest that is on, neither seen nor silenced', () => {
    const sound = (...items: AlarmNow[]) => outputsOf([gas, plain, sector], items).sounder;
    expect(sound(now('gas', 'caution'))).toBe('beeps');
    expect(sound(now('gas', 'limit'), now('plain', 'limit'))).toBe('steady');
    expect(sound(now('gas', 'limit'), now('plain', 'limit', { isSeen: true }))).toBe('beeps');
    expect(sound(now('gas', 'limit', { silencedS: 10 }))).toBe('none');
    expect(sound(now('sector', 'limit'), now('gas', 'unknown'))).toBe('none');
  });
});

describe('the page of the face', () => {
  const [second, third] = [
    { ...gas, page: 2 },
    { ...sector, page: 3 },
  ];

  it('is that of the gravest which nobody has seen', () => {
    expect(pageAsked([second, third], [now('gas', 'caution'), now('sector', 'quiet')])).toBe(1);
    expect(pageAsked([second, third], [now('gas', 'caution'), now('sector', 'limit')])).toBe(2);
    expect(pageAsked([second, third], [now('gas', 'limit'), now('sector', 'limit')])).toBe(1);
    expect(pageAsked([second, third], [now('gas', 'limit', { isSeen: true }), now('sector', 'limit')])).toBe(
      2,
    );
  });

  it('is none where nothing is on, nothing is known, or none was chosen', () => {
    expect(pageAsked([second, third], [now('gas', 'quiet'), now('sector', 'unknown')])).toBeNull();
    expect(
      pageAsked([gas, { ...sector, page: null }], [now('gas', 'limit'), now('sector', 'limit')]),
    ).toBeNull();
    expect(pageAsked([second], [])).toBeNull();
  });
});
