import { describe, expect, it } from 'vitest';
import type { Gadget, RunPlan } from '@lucky-needle/core/model';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { lengthIn, planInWords } from '../src/pages/runs/planInWords.ts';

const gadget = TEMPLATES.find((t) => t.id === 'several-temperatures')!.make() as Gadget;
const words = (change: Partial<RunPlan>) =>
  planInWords({ name: '', startAt: null, daily: false, stopAfterS: null, stopAt: null, ...change }, gadget);

describe('a plan of runs in words', () => {
  it('tells a length in the largest unit that leaves it whole', () => {
    expect([7200, 90 * 60, 45, 0.5].map(lengthIn)).toEqual([
      [2, 'h'],
      [90, 'min'],
      [45, 's'],
      [0.5, 's'],
    ]);
  });

  it('tells both ends, with the unit that the channel reads in', () => {
    const startAt = new Date(2026, 10, 29, 6, 5).toISOString();
    expect(words({ startAt, daily: true, stopAfterS: 600 })).toBe(
      'Starts every day at 06:05, from 29 Nov; stops after 10 min',
    );
    const { id, name } = gadget.channels[0]!;
    expect(words({ stopAfterS: 45, stopAt: { channelId: id, side: 'above', value: 80 } })).toBe(
      `Starts manually; stops after 45 s or when ${name} is above 80 °C`,
    );
    expect(words({ startAt })).toBe('Starts 29 Nov, 06:05; stops manually');
    expect(words({ stopAt: { channelId: 'gone', side: 'below', value: 3 } })).toMatch(
      /a deleted channel is below 3$/,
    );
  });
});
