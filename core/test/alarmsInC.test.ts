import { describe, expect, it } from 'vitest';
import { createAlarms, emitAlarms, inUnitOf, outputsOf, pageAsked } from '../src/alarm/index.ts';
import type { AlarmRule } from '../src/model/alarm.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { proposedAlarms } from '../src/plan/index.ts';
import { FAMILIES } from '../src/simulate/index.ts';
import { REASON } from '../src/stage/contract.ts';
import type { UnitId } from '../src/units/index.ts';
import { alarmRule } from './support/alarmRule.ts';
import { compileAndRun } from './support/runInC.ts';
import { familyGadget } from './support/familyGadget.ts';

const LEVELS = ['unknown', 'quiet', 'caution', 'limit'];
const LAMPS = ['green', 'amber', 'red'] as const;

interface Step {
  readonly what: 'reading' | 'figure' | 'time' | 'see' | 'silence';
  readonly t: number;
  /** Value; the alarm that is seen; how long it is silent. */
  readonly x: number;
  readonly fault: boolean;
  readonly at: number;
}

/** Readings that wander over the levels, faults, silences, and somebody who looks. */
function story(seed: number, length: number, span: number): Step[] {
  const random = seededRandom(seed);
  let [t, x] = [0, 0];
  return Array.from({ length }, () => {
    t += random.uniform() < 0.02 ? 20 * random.uniform() : 0.5 * random.uniform();
    x = 0.9 * x + span * 0.35 * random.normal();
    const dice = random.uniform();
    const stuck = Math.floor(t / 40) % 3 === 1;
    const what =
      dice < 0.7
        ? 'reading'
        : dice < 0.85
          ? 'figure'
          : dice < 0.96
            ? 'time'
            : dice < 0.98
              ? 'see'
              : 'silence';
    return {
      what,
      t,
      x:
        what === 'see'
          ? Math.floor(random.uniform() * 20)
          : what === 'silence' || what === 'time'
            ? 30 * random.uniform()
            : random.uniform() < 0.04
              ? Number.NaN
              : stuck
                ? span / 3
                : x,
      fault: random.uniform() < 0.05,
      at: random.uniform() < 0.5 ? Math.floor(t) : Number.NaN,
    } as const;
  });
}

/** How all alarms stand after each step, on the bench. */
function onTheBench(rules: readonly AlarmRule[], unit: UnitId | null, steps: readonly Step[]): string[] {
  const alarms = createAlarms(
    rules,
    (rule, v) => inUnitOf(rule, unit, v),
    () => {},
  );
  const channels = [...new Set(rules.filter((r) => r.figureId === null).map((r) => r.channelId))];
  const figures = [
    ...new Map(
      rules.filter((r) => r.figureId !== null).map((r) => [`${r.channelId}/${r.figureId!}`, r]),
    ).values(),
  ];
  return steps.map(({ what, t, x, fault, at }) => {
    const reason = fault ? REASON.missing : Number.isNaN(x) ? REASON.waiting : REASON.ok;
    if (what === 'reading') for (const c of channels) alarms.reading(c, t, x, reason);
    else if (what === 'figure')
      for (const r of figures) alarms.figure(r.channelId, r.figureId!, t, x, at, '');
    else if (what === 'time') alarms.time(t, x);
    else if (what === 'silence') alarms.silence(t, x);
    else if (rules[x]) alarms.see(rules[x].id, t);
    const now = alarms.now(t);
    const { lamps, sounder } = outputsOf(rules, now);
    const lit = LAMPS.map((l) => (lamps[l] === null ? -1 : ['off', 'on', 'flashing'].indexOf(lamps[l]!)));
    return [
      ...now.map((n) => `${LEVELS.indexOf(n.level)}${n.isHeld ? 'h' : ''}${n.isSeen ? 's' : ''}`),
      ...lit,
      ['none', 'beeps', 'steady'].indexOf(sounder),
      pageAsked(rules, now) ?? -1,
    ].join(' ');
  });
}

function inC(
  rules: readonly AlarmRule[],
  unit: (rule: AlarmRule) => UnitId,
  steps: readonly Step[],
): string[] {
  const { code } = emitAlarms('Mill */ "loft"', rules, (channelId, figureId) => ({
    name: figureId ?? channelId,
    unit: unit(rules.find((r) => r.channelId === channelId)!),
  }));
  const channels = new Set(rules.filter((r) => r.figureId === null).map((r) => r.channelId)).size;
  const figures = new Set(
    rules.filter((r) => r.figureId !== null).map((r) => `${r.channelId}/${r.figureId!}`),
  ).size;
  const main = `#include <stdio.h>
#include "alarms.h"
int main(void) {
  static mill_loft_alarms a;
  char what; double t, x, at; int fault; const char *name;
  mill_loft_alarms_start(&a);
  while (scanf(" %c %lf %lf %d %lf", &what, &t, &x, &fault, &at) == 5) {
    if (what == 'r') for (int c = 0; c < ${channels}; c++) mill_loft_alarms_reading(&a, c, t, x, fault);
    else if (what == 'f') for (int f = 0; f < ${figures}; f++) mill_loft_alarms_figure(&a, f, t, x, at);
    else if (what == 't') mill_loft_alarms_time(&a, t, x);
    else if (what == 'q') mill_loft_alarms_silence(&a, t, x);
    else if (x < MILL_LOFT_ALARMS) mill_loft_alarms_see(&a, (int)x, t);
    for (int k = 0; k < MILL_LOFT_ALARMS; k++)
      printf("%d%s%s ", a.of[k].level, a.of[k].held ? "h" : "", a.of[k].seen ? "s" : "");
    printf("%d %d %d %d %d\\n", mill_loft_alarms_lamp(&a, LN_GREEN), mill_loft_alarms_lamp(&a, LN_AMBER),
      mill_loft_alarms_lamp(&a, LN_RED), mill_loft_alarms_sounder(&a, t), mill_loft_alarms_page(&a));
    if (mill_loft_alarms_level(&a, &name) < 0) return 1;
  }
  return 0;
}`;
  const letter = { reading: 'r', figure: 'f', time: 't', see: 's', silence: 'q' };
  const input = steps
    .map((s) =>
      [
        letter[s.what],
        s.t.toPrecision(17),
        Number.isNaN(s.x) ? 'nan' : s.x.toPrecision(17),
        s.fault ? 1 : 0,
        Number.isNaN(s.at) ? 'nan' : s.at,
      ].join(' '),
    )
    .join('\n');
  return compileAndRun({ files: { 'alarms.h': code, 'main.c': main }, main: 'main.c' }, input)
    .trimEnd()
    .split('\n');
}

const KINDS: readonly (readonly [string, Partial<AlarmRule>])[] = [
  ['high', { caution: 4, limit: 8, hysteresis: 1.5 }],
  ['low, only between its ends', { kind: 'low', caution: 0, limit: -4, from: -12, to: 6, hysteresis: 1 }],
  ['high by three of five, held for 6 s', { caution: 4, limit: 8, n: 3, m: 5, minimumOnS: 6 }],
  ['high, latched', { caution: null, limit: 8, latch: true, lamp: 'red', sounder: 'steady' }],
  ['outside a range', { kind: 'outside', from: -5, to: 5, hysteresis: 1, lamp: 'amber', sounder: 'beeps' }],
  ['in a sector across north', { kind: 'sector', unit: 'deg', from: 355, to: 5, hysteresis: 1 }],
  ['rise', { kind: 'rise', caution: 3, limit: 6, hysteresis: 0.5, windowS: 4 }],
  ['fall within a long window', { kind: 'fall', caution: null, limit: 6, windowS: 60 }],
  ['silent', { kind: 'silent', windowS: 12, lamp: 'red' }],
  ['fault, and stuck', { kind: 'fault', windowS: 15, n: 2, m: 3 }],
  ['high of a figure', { figureId: 'peak', caution: 4, limit: 8, sounder: 'beeps' }],
  ['silent of a figure', { kind: 'silent', figureId: 'peak', windowS: 9 }],
];

describe('alarms in C', () => {
  it.each(KINDS)('%s comes and goes at the same moments', (_what, change) => {
    const rules = [alarmRule(change)];
    const steps = story(7, 3000, 5);
    const bench = onTheBench(rules, rules[0]!.unit, steps);
    expect(new Set(bench).size).toBeGreaterThan(2);
    expect(inC(rules, (r) => r.unit, steps)).toEqual(bench);
  });

  it('all together drive the same lamps and the same sounder', () => {
    const rules = KINDS.map(([name, change], k) =>
      alarmRule({
        ...change,
        page: k % 3 === 0 ? null : 1 + (k % 8),
        unit: 'deg',
        id: `a${k}`,
        name: `${name} \\ "${k}" ??/`,
        channelId: k % 2 ? 'one' : 'two',
      }),
    );
    const steps = story(11, 4000, 5);
    const bench = onTheBench(rules, null, steps);
    expect(inC(rules, (r) => r.unit, steps)).toEqual(bench);
  });

  it('turns what it is fed with into the unit of the rule', () => {
    const rules = [alarmRule({ unit: 'degF', caution: 50, limit: 59, hysteresis: 2 })];
    const steps = story(3, 2000, 12);
    expect(inC(rules, () => 'degC', steps)).toEqual(onTheBench(rules, 'degC', steps));
  });

  it.each(FAMILIES.map(({ family }) => [family] as const))('of family %i, as proposed', (family) => {
    const rules = proposedAlarms(familyGadget(family));
    const span = Math.max(1, ...rules.map((r) => Math.abs(r.limit ?? r.caution ?? 0)));
    const steps = story(family, 1200, span);
    expect(inC(rules, (r) => r.unit, steps)).toEqual(onTheBench(rules, null, steps));
  });
});
