import { rateCheck } from '../../src/plan/checks/rate.ts';
import { describe, expect, it } from 'vitest';
import type { Brief, ChannelBrief } from '../../src/model/index.ts';
import { neededRateHz } from '../../src/prove/index.ts';
import {
  charactersNeeded,
  CHECKS,
  compareCandidates,
  laggedPeak,
  planOf,
  processingChoice,
  rankBoards,
  rankDisplays,
  rankSensors,
  rankSlot,
  rankSounders,
  rankSupplies,
  SHELF,
  TEMPLATES,
  WEIGHTS,
  type Candidate,
  type Check,
} from '../../src/plan/index.ts';
import { gadgetFrom, partLike, planFrom } from '../support/plans.ts';

const find = (ranked: readonly Candidate[], id: string, converter: string | null = null) =>
  ranked.find((c) => c.part.id === id && (c.converter?.id ?? null) === converter)!;
const told = (candidate: Candidate, check: Check) => candidate.verdicts.find((v) => v.check === check)!;

/** The kiln with its one ask changed. */
function kiln(ask: Partial<Brief['asks'][number]> = {}, brief: Partial<Brief> = {}) {
  const made = gadgetFrom('several-temperatures').brief!;
  return planFrom(
    'several-temperatures',
    { board: 'small-8-bit' },
    { ...brief, asks: [{ ...made.asks[0]!, ...ask }] },
  );
}
const verdict = (
  part: string,
  check: Check,
  ask: Partial<Brief['asks'][number]> = {},
  brief: Partial<Brief> = {},
) => told(find(rankSensors(kiln(ask, brief), 'temperature'), part), check);

describe('sensors', () => {
  it('that cannot meet the brief stand below those that can, each with its reason and what would have to change', () => {
    for (const t of TEMPLATES.filter((q) => q.family !== null)) {
      const plan = planFrom(t.id);
      for (const s of plan.sensing.filter((q) => q.ask.measurand !== 'worked out')) {
        const ranked = rankSensors(plan, s.ask.id);
        expect(ranked.length).toBeGreaterThan(0);
        const firstFailed = ranked.findIndex((c) => c.failed);
        if (firstFailed >= 0) expect(ranked.slice(firstFailed).every((c) => c.failed)).toBe(true);
        for (const c of ranked) {
          const stops = c.verdicts.filter((v) => v.hard && v.state === 'fail');
          expect(c.failed).toBe(stops.length > 0);
          for (const v of stops) expect(v.change.length).toBeGreaterThan(5);
          for (const v of c.verdicts)
            expect(`${v.sentence}${v.arithmetic}${v.change}`).not.toMatch(/NaN|Infinity|undefined/);
        }
        const scores = ranked.filter((c) => !c.failed).map((c) => c.score);
        expect(scores).toEqual(scores.toSorted((a, b) => b - a));
      }
    }
  });

  it('have their resolution worked out through the line at the worse end', () => {
    // R(110 degC) = 527 ohm, T^2 / (beta R) = 0.0705 K/ohm, (R + Rs)^2 / Rs / 1023 = 4.34 ohm a code.
    expect(verdict('ntc-bead-10k', 'resolution').value).toBeCloseTo(0.0705 * 4.34, 2);
    const stepWith = (bits: number) => {
      const quiet = partLike('board', 'small-8-bit', { bits, noiseCounts: 0 });
      const probe = partLike('sensor', 'ntc-bead-10k', { noise: 0 });
      const plan = { ...kiln(), board: quiet, parts: [probe] };
      return told(find(rankSensors(plan, 'temperature'), probe.id), 'resolution').value;
    };
    expect(stepWith(10) / stepWith(12)).toBeCloseTo(4095 / 1023, 6);
  });

  it('whose noise hides a code are judged by twice its standard deviation', () => {
    const part = partLike('sensor', 'one-wire-digital', { noise: 0.3 });
    const plan = { ...kiln(), parts: [part, ...SHELF.filter((q) => q.id !== part.id)] };
    const resolution = told(find(rankSensors(plan, 'temperature'), part.id), 'resolution');
    expect(resolution.value).toBeCloseTo(0.6, 9);
    // (0.6 / 0.2)^2 readings averaged bring it to a fifth of the tolerance.
    expect(resolution.change).toMatch(/^Average 9 readings/);
  });

  it('beyond the converter’s last code fail, and say so without a figure', () => {
    const plan = planFrom('gas-watch', { board: 'radio-32-bit' });
    const low = partLike('board', 'radio-32-bit', { referenceV: 0.5 });
    const ranked = rankSensors({ ...plan, board: low }, 'ferment');
    expect(told(find(ranked, 'heated-ferment'), 'resolution')).toMatchObject({
      state: 'fail',
      sentence: 'Part of the range is beyond the end of the ADC’s range.',
    });
  });

  it.each<[string, Check, Partial<Brief['asks'][number]>, Partial<Brief>, string]>([
    ['one-wire-digital', 'rate', {}, {}, 'fail'],
    ['one-wire-digital', 'rate', { fastest: { kind: 'ramp', ratePerS: 0.1 } }, {}, 'pass'],
    ['platinum-module', 'price', {}, { budget: 60 }, 'fail'],
    ['platinum-module', 'price', {}, { budget: null }, 'pass'],
    ['one-wire-digital', 'accuracy', {}, {}, 'fail'],
    ['one-wire-digital', 'accuracy', { tolerance: 2 }, {}, 'pass'],
    ['ntc-bead-10k', 'range', { high: 140 }, {}, 'fail'],
    ['ntc-bead-10k', 'range', { high: 120 }, {}, 'tight'],
    ['thermocouple-module', 'range', { low: 0, high: 60 }, {}, 'tight'],
    ['thermocouple-module', 'true-up', { tolerance: 0.5 }, {}, 'fail'],
    ['thermocouple-module', 'true-up', { tolerance: 4 }, {}, 'pass'],
    ['climate-module', 'response', {}, {}, 'fail'],
    ['climate-module', 'response', { fastest: { kind: 'ramp', ratePerS: 0.01 } }, {}, 'pass'],
    ['climate-module', 'surroundings', {}, { surroundings: ['damp'] }, 'fail'],
    ['climate-module', 'surroundings', {}, { surroundings: ['sun'] }, 'tight'],
    ['climate-module', 'surroundings', {}, { surroundings: ['shaking'] }, 'pass'],
  ])('%s, %s, with %j %j: %s', (part, check, ask, brief, state) => {
    expect(verdict(part, check, ask, brief).state).toBe(state);
  });

  it('are judged in the brief’s own unit: the same brief in degF gives the same verdicts', () => {
    const inF = {
      unit: 'degF' as const,
      low: 32,
      high: 230,
      tolerance: 1.8,
      fastest: { kind: 'ramp' as const, ratePerS: 0.54 },
    };
    const states = (ask: Partial<Brief['asks'][number]>) =>
      rankSensors(kiln(ask), 'temperature').map((c) => [c.part.id, c.verdicts.map((v) => v.state)]);
    expect(states(inF)).toEqual(states({}));
  });

  it('lose a peak through a slow converter, and keep it through a quick one', () => {
    const plan = planFrom('impact-peak', { board: 'fast-32-bit' });
    const ranked = rankSensors(plan, 'blow');
    const rate = (converter: string) => told(find(ranked, 'load-cell-200kg', converter), 'rate');
    // 10 readings a second lie 100 ms apart: the 12 ms blow falls between them.
    expect(rate('bridge-slow-24')).toMatchObject({ state: 'fail', value: 10 });
    expect(rate('bridge-slow-24').sentence).toMatch(/may be missed altogether/);
    expect(rate('bridge-80-24').sentence).toMatch(/lose|miss/);
    const needed = Math.PI / (2 * 0.012 * Math.acos(1 - 50 / 1600));
    expect(rate('bridge-slow-24').limit).toBeCloseTo(needed, 6);
    expect(rate('bridge-fast-24').state).toBe('pass');
    expect(rate('bridge-fast-24').margin).toBeCloseTo(rate('bridge-fast-24').value / needed - 1, 9);
  });

  it('that are USB devices want a board that is a host', () => {
    const on = (board: string) =>
      told(find(rankSensors(planFrom('sprint', { board }), 'speed'), 'fix-usb'), 'wiring').state;
    expect([on('tiny-32-bit'), on('host-32-bit')]).toEqual(['fail', 'pass']);
  });

  it('that shift images are judged by their top speed', () => {
    const ranked = rankSensors(planFrom('displacement', { board: 'host-32-bit' }), 'length');
    const rate = told(find(ranked, 'desk-mouse'), 'rate');
    const mouse = partLike('sensor', 'desk-mouse');
    expect(rate.value).toBeCloseTo(mouse.frameRateHz * mouse.shiftM, 9);
    expect(rate.unit).toBe('m/s');
    // An event that is no ramp asks for no speed.
    const plan = planFrom('displacement', { board: 'host-32-bit' });
    const crossing = { ...plan.sensing[0]!.brief, fastest: { kind: 'crossing' as const, timingS: 0.1 } };
    const still = rateCheck(mouse, partLike('board', 'host-32-bit'), null, crossing, 1);
    expect(still.sentence).toMatch(/; 0 m\/s expected\.$/);
  });

  it('through a shared converter divide its rate', () => {
    const one = told(
      find(rankSensors(kiln(), 'temperature'), 'ntc-bead-10k', 'converter-16-4'),
      'rate',
    ).value;
    const converter = partLike('converter', 'converter-16-4');
    expect(one).toBeCloseTo(converter.rateHz / 4, 9);
  });

  it('follow the weights that the maker moves', () => {
    const none = Object.fromEntries(CHECKS.map((c) => [c, 0])) as unknown as typeof WEIGHTS;
    const first = (check: Check) =>
      rankSensors(kiln({}, { budget: 500 }), 'temperature', { ...none, [check]: 1 }).find((c) => !c.failed)!;
    const order = { pass: 2, tight: 1, fail: 0 };
    for (const check of ['price', 'accuracy', 'response', 'surroundings'] as const) {
      const others = rankSensors(kiln({}, { budget: 500 }), 'temperature').filter((c) => !c.failed);
      const best = Math.max(...others.map((c) => order[told(c, check).state]));
      expect(order[told(first(check), check).state]).toBe(best);
    }
    // Among equals the cheaper one.
    const range = rankSensors(kiln({}, { budget: 500 }), 'temperature', { ...none, range: 1 });
    const equal = range
      .filter((c) => !c.failed && told(c, 'range').state === 'pass')
      .map((c) => c.part.price + (c.converter?.price ?? 0));
    expect(equal).toEqual(equal.toSorted((x, y) => x - y));
    expect(() => rankSensors(kiln(), 'temperature', { ...WEIGHTS, price: -1 })).toThrow(/0 or more/);
    expect(() => rankSensors(kiln(), 'gone')).toThrow(/no requirement "gone". Choose one of temperature/);
  });

  it('of a quantity that the shelf does not hold are none', () => {
    expect(rankSensors(kiln({ measurand: 'other' }), 'temperature')).toEqual([]);
    expect(rankSensors(kiln({ unit: 'hPa', low: 900, high: 1100 }), 'temperature')).toEqual([]);
  });

  it('with processing of their own stand beside raw ones where both exist', () => {
    const ranked = rankSensors(planFrom('motion-counter', { board: 'tiny-32-bit' }), 'strokes');
    expect(processingChoice(ranked)).toMatchObject({
      own: expect.stringMatching(/.+/),
      raw: expect.stringMatching(/.+/),
    });
    expect(processingChoice(ranked.filter((c) => c.part.processing === 'raw'))).toBeNull();
  });
});

describe('needed rates', () => {
  const base = { unit: 's', tolerance: 0.1 } as ChannelBrief;
  it('of a timed crossing and of marks', () => {
    // Both ends late by 0 to one reading: u = 1 / (rate sqrt 6).
    expect(neededRateHz({ ...base, fastest: { kind: 'crossing', timingS: 0.02 } })).toBeCloseTo(
      1 / (0.02 * Math.sqrt(6)),
      9,
    );
    // 300 rpm with 4 marks: 20 edges a second, followed threefold.
    expect(
      neededRateHz({ ...base, unit: 'rpm', high: 300, fastest: { kind: 'edges', marks: 4 } }),
    ).toBeCloseTo(60, 9);
  });

  it('of a peak behind a lag: what is let through falls with the lag', () => {
    expect(laggedPeak(0.01, 0)).toBe(1);
    const kept = [1e-5, 1e-4, 1e-3, 1e-2].map((lag) => laggedPeak(0.01, lag));
    expect(kept).toEqual(kept.toSorted((a, b) => b - a));
    expect(kept[0]).toBeGreaterThan(0.999);
    // Far slower than the pulse: it takes up the pulse's area, 2 width / pi, over its time constant.
    expect(laggedPeak(0.01, 1)).toBeCloseTo((2 * 0.01) / Math.PI, 3);
  });
});

describe('the other slots', () => {
  it('boards: too few pins, no host, too slow a converter, the wrong volts', () => {
    const many = { race: 'ultrasonic-two-pin', display: 'character-20x4' };
    for (const c of rankBoards(planFrom('crossing-timer', many)))
      expect(told(c, 'wiring').sentence.length).toBeGreaterThan(5);
    const mouse = rankBoards(planFrom('displacement', { length: 'desk-mouse' }));
    expect(mouse.filter((c) => !c.failed).map((c) => c.part.id)).toEqual(['host-32-bit']);
    const blow = rankBoards(planFrom('impact-peak', { blow: 'piezo-disc' }));
    for (const c of blow) {
      const rate = told(c, 'rate');
      expect(rate.state).toBe(c.part.analogHz >= rate.limit ? 'pass' : 'fail');
    }
    const five = rankBoards(planFrom('crossing-timer', { race: 'ultrasonic-two-pin' }));
    expect(told(find(five, 'radio-32-bit'), 'level')).toMatchObject({
      state: 'fail',
      sentence: expect.stringMatching(/sends 5 V to a board that tolerates 3\.\d V/),
    });
    expect(told(find(five, 'small-8-bit'), 'level').state).toBe('pass');
  });

  it('displays: sun, room, refresh and pins', () => {
    const sunny = rankDisplays(
      planFrom('crossing-timer', { board: 'small-8-bit' }, { surroundings: ['sun'] }),
    );
    expect(told(find(sunny, 'oled-128x64'), 'surroundings')).toMatchObject({ state: 'fail' });
    expect(told(find(sunny, 'character-16x2'), 'surroundings').state).toBe('pass');
    const kilnPlan = planFrom('several-temperatures', { board: 'small-8-bit' });
    // 0.0 to 110.0 with a space and two letters, four times, and gaps between: 4 x (5 + 1 + 2) + 4.
    expect(charactersNeeded(kilnPlan)).toEqual({ cells: 36, widest: 8, readings: 4 });
    const ranked = rankDisplays(kilnPlan);
    expect(told(find(ranked, 'character-20x4'), 'room').state).toBe('pass');
    expect(told(find(ranked, 'character-16x2'), 'room').state).toBe('tight');
    expect(told(find(ranked, 'digits-4'), 'room').state).toBe('fail');
    expect(told(find(ranked, 'paper-250x122'), 'response').state).not.toBe('pass');
  });

  it('supplies: the kind of power, peaks, endurance with its chemistry', () => {
    const picks = { strokes: 'axes-16g', board: 'tiny-32-bit', display: 'memory-144x168' };
    const battery = rankSupplies(planFrom('motion-counter', picks, { power: 'battery', enduranceH: 100 }));
    expect(find(battery, 'wall-5v').failed).toBe(true);
    expect(find(battery, 'lithium-cell').failed).toBe(false);
    const wall = rankSupplies(planFrom('motion-counter', picks, { power: 'wall' }));
    expect(told(find(wall, 'wall-5v'), 'wiring').state).toBe('pass');
    const heaters = {
      ferment: 'heated-ferment',
      ammonia: 'heated-ammonia',
      solvent: 'heated-solvent',
      board: 'radio-32-bit',
    };
    const hot = rankSupplies(planFrom('gas-watch', heaters, { power: 'battery', enduranceH: 24 }));
    expect(find(hot, 'alkaline-9v').failed).toBe(true);
    expect(told(find(hot, 'alkaline-9v'), 'rate').state).toBe('fail');
  });

  it('sounders: loudness where it is noisy, and what a pin can drive', () => {
    const quiet = rankSounders(
      planFrom('gas-watch', { board: 'radio-32-bit', supply: 'wall-5v' }, { surroundings: [] }),
    );
    const loud = rankSounders(
      planFrom('gas-watch', { board: 'radio-32-bit', supply: 'wall-5v' }, { surroundings: ['sun'] }),
    );
    expect(told(find(quiet, 'piezo-passive'), 'loudness').state).toBe('pass');
    expect(told(find(loud, 'piezo-passive'), 'loudness').state).toBe('tight');
    expect(told(find(quiet, 'buzzer-active'), 'wiring').sentence).toMatch(
      /25 mA, but a pin can supply 20 mA: drive it through a transistor/,
    );
    expect(find(quiet, 'siren-12v').failed).toBe(true);
  });

  it('are all reached by the slot’s name, and an unknown one is refused', () => {
    const plan = planFrom('sprint', { board: 'tiny-32-bit' });
    for (const slot of ['speed', 'board', 'display', 'supply', 'sounder'])
      expect(rankSlot(plan, slot).length).toBeGreaterThan(1);
    expect(() => rankSlot(plan, 'nowhere')).toThrow();
  });

  it('tell every verdict with a figure, a limit and a sentence, by a known check', () => {
    const plan = planFrom('sprint', { board: 'tiny-32-bit', supply: 'nickel-4aa' });
    for (const slot of ['speed', 'board', 'display', 'supply', 'sounder'])
      for (const c of rankSlot(plan, slot))
        for (const v of c.verdicts) {
          expect(CHECKS).toContain(v.check);
          expect(v.sentence).not.toMatch(/NaN|Infinity|undefined/);
          if (Number.isFinite(v.margin) && v.unit) expect(Number.isFinite(v.limit)).toBe(true);
        }
  });
});

describe('side by side', () => {
  it('marks the better where two differ, and nobody where they do not', () => {
    const [a, b] = rankSensors(kiln(), 'temperature');
    const rows = compareCandidates([a!, b!]);
    expect(rows.length).toBe(a!.verdicts.length);
    for (const row of rows) {
      expect(row.cells.length).toBe(2);
      if (row.differs) expect(row.cells.some((c) => c.best)).toBe(true);
      else expect(new Set(row.cells.map((c) => c.state)).size).toBe(1);
    }
    expect(rows.some((r) => r.differs)).toBe(true);
    expect(compareCandidates([a!, a!]).every((r) => !r.differs)).toBe(true);
    expect(() => compareCandidates([a!])).toThrow(/two parts or more; received 1/);
  });
});

describe('a pick that has left the shelf', () => {
  it('is named, and nothing else breaks', () => {
    const plan = planOf(
      gadgetFrom('several-temperatures', { temperature: 'my-own-probe', board: 'small-8-bit' }),
      SHELF,
    )!;
    expect(plan.lost).toEqual(['my-own-probe']);
    expect(plan.sensing[0]!.part).toBeNull();
    expect(rankSensors(plan, 'temperature').length).toBeGreaterThan(3);
  });
});
