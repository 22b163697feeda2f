import { describe, expect, it } from 'vitest';
import { alarmFault, createAlarms, inUnitOf, type AlarmChange } from '../src/alarm/index.ts';
import { cannotWatch, proposedAlarms, readoutSpec } from '../src/plan/index.ts';
import { createWatchedReadout } from '../src/reading/index.ts';
import { createWorld, FAMILIES } from '../src/simulate/index.ts';
import { familyGadget } from './support/familyGadget.ts';

/** What a gadget meets on an ordinary day, by family, with the seconds of each; the rest stays as it is at first. */
const DAYS: Readonly<Record<number, readonly (readonly [string, number])[]>> = {
  1: [['clean', 900]],
  2: [
    ['empty', 20],
    ['race', 60],
  ],
  3: [['shaking', 60]],
  4: [
    ['no-load', 5],
    ['lamp', 10],
    ['stopped', 5],
  ],
  5: [['running', 120]],
  6: [
    ['empty', 5],
    ['blows', 20],
  ],
  7: [
    ['dark', 5],
    ['blank', 5],
    ['standard-10', 5],
  ],
  8: [['ride', 15]],
  9: [
    ['empty', 30],
    ['rest', 60],
    ['discharge', 300],
    ['empty', 30],
    ['reversed', 20],
  ],
  10: [
    ['stopped', 20],
    ['running', 60],
    ['run-down', 60],
  ],
  11: [
    ['still', 20],
    ['sprint', 40],
  ],
  12: [
    ['south', 30],
    ['east', 20],
  ],
  13: [
    ['still', 20],
    ['drag-x', 8],
  ],
  14: [
    ['room', 60],
    ['kiln', 300],
  ],
};

function play(family: number, steps: readonly (readonly [string, number])[], stuckFromS = Infinity) {
  const { draw, sampleRateHz } = FAMILIES.find((f) => f.family === family)!;
  const world = createWorld(draw(family === 14 ? 641 : 7100 + family));
  const gadget = familyGadget(family);
  const rules = proposedAlarms(gadget);
  const changes: AlarmChange[] = [];
  const spec = readoutSpec(gadget, [], [], sampleRateHz);
  const readout = createWatchedReadout({ ...spec, columns: world.columns });
  const unitOf = (id: string) => readout.readout.lines.find((l) => l.id === id)?.line?.outputs[0]!.unit;
  const alarms = createAlarms(
    rules,
    (rule, x) => inUnitOf(rule, rule.figureId === null ? (unitOf(rule.channelId) ?? null) : null, x),
    (c) => changes.push(c),
  );
  let t = 0;
  let last: number[] | null = null;
  for (const [condition, seconds] of steps) {
    if (condition) world.setCondition(condition);
    for (let left = Math.round(seconds * sampleRateHz); left > 0; left -= 500) {
      const n = Math.min(500, left);
      const times = new Float64Array(n);
      const columns = world.columns.map(() => new Float64Array(n));
      for (let i = 0; i < n; i++) {
        const codes: number[] = last && t > stuckFromS ? last : world.step(1 / sampleRateHz);
        codes.forEach((v, k) => (columns[k]![i] = v));
        last = codes;
        times[i] = t += 1 / sampleRateHz;
      }
      readout.feed(
        { length: n, times, columns },
        (k, stages) => {
          const { id } = spec.channels[k]!;
          const end = stages.at(-1)!;
          for (let i = 0; i < end.length; i++)
            alarms.reading(id, end.times[i]!, end.lanes[0]!.values[i]!, end.lanes[0]!.reasons[i]!);
        },
        () => undefined,
      );
      spec.channels.forEach(({ id }, k) =>
        readout.figures(k).forEach((f) => alarms.figure(id, f.id, t, f.value, f.atS, f.reason)),
      );
      alarms.time(t, 0);
    }
  }
  const sounded = changes
    .filter((c) => c.to === 'caution' || c.to === 'limit')
    .map((c) => `${c.ruleId} ${c.to}`);
  return { rules, sounded, level: (id: string) => alarms.now(t).find((a) => a.ruleId === id)!.level };
}

describe('proposed alarms', () => {
  it.each(FAMILIES.map(({ family }) => [family] as const))(
    'of family %i can work, have reasons, and none sounds on an ordinary day',
    (family) => {
      const { rules, sounded } = play(family, DAYS[family] ?? [['', 30]]);
      for (const rule of rules) {
        expect([rule.id, alarmFault(rule), cannotWatch(familyGadget(family), rule)]).toEqual([
          rule.id,
          null,
          null,
        ]);
        expect(rule.why.length).toBeGreaterThan(20);
      }
      expect(rules.map((r) => r.kind)).toContain('silent');
      expect(sounded).toEqual([]);
    },
  );

  // What stands at rest for longer than a stuck one may.
  const RESTS = [
    [1, 'clean'],
    [3, 'z-up'],
    [8, 'z-up'],
    [9, 'rest'],
    [12, 'south'],
    [14, 'room'],
  ] as const;
  it.each(RESTS)(
    'of family %i: a rest is no fault, and a sensor that is stuck is one',
    (family, condition) => {
      const { sounded, rules } = play(family, [[condition, 360]]);
      expect(rules.some((r) => r.kind === 'fault' && r.windowS > 0)).toBe(true);
      expect(sounded).toEqual([]);
      expect(play(family, [[condition, 400]], 20).sounded.join()).toMatch(/fault-\w+ limit/);
    },
  );

  it('a count that stands still for an hour is none', () => {
    for (const family of [2, 5, 10, 11, 13])
      expect(proposedAlarms(familyGadget(family)).filter((r) => r.kind === 'fault' && r.windowS > 0)).toEqual(
        [],
      );
  });

  it('ammonia at its dose sounds while ferment vapour is low', () => {
    const { level } = play(1, [
      ['clean', 900],
      ['ammonia', 120],
    ]);
    expect(level('high-ammonia')).toBe('limit');
    expect(level('high-ferment')).toBe('quiet');
  });

  it('the vane points into its sector, across north as well', () => {
    expect(
      play(12, [
        ['south', 10],
        ['north', 10],
      ]).level('sector-vane'),
    ).toBe('limit');
  });

  it('a cell at its cut-off, and none in the slot', () => {
    const { level, sounded } = play(9, [
      ['rest', 10],
      ['discharge', 9500],
    ]);
    expect(level('low-v')).toBe('limit');
    expect(sounded).toContain('low-v caution');
  });
});
