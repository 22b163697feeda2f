import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ChannelBrief } from '../../src/model/gadget.ts';
import {
  assignAddresses,
  busLoad,
  contradiction,
  currentPlausibility,
  demandsOf,
  environmentFindings,
  eSeriesBetween,
  inputFilter,
  latency,
  nearestInSeries,
  partsCost,
  powerBudget,
  pullUpRange,
  runtimeByDuty,
  selfHeating,
  solvePins,
  switchOnOrder,
  trackingTopSpeed,
  type PowerLoad,
  type Rail,
  type Supply,
} from '../../src/plan/index.ts';

const brief = (rest: Partial<ChannelBrief>): ChannelBrief => ({
  id: 'force',
  quantity: 'Force',
  unit: 'N',
  low: 0,
  high: 2000,
  tolerance: 50,
  fastest: { kind: 'pulse', widthS: 0.012 },
  measurand: 'force',
  sensed: null,
  power: 'wall',
  enduranceH: null,
  surroundings: [],
  budget: null,
  readyMade: null,
  note: '',
  ...rest,
});

describe('demands of a brief', () => {
  it('asks a blow for its rate, with the arithmetic', () => {
    const demands = demandsOf(brief({}));
    expect(demands.find((d) => d.id === 'rate')!.value).toBeCloseTo(
      Math.PI / (2 * 0.012 * Math.acos(1 - 50 / 2000)),
      9,
    );
    expect(demands.find((d) => d.id === 'resolution')).toMatchObject({ value: 10, unit: 'N' });
    expect(demands.every((d) => d.value > 0 && d.arithmetic.length > 10)).toBe(true);
  });

  it('names a contradiction in one sentence, and none where there is none', () => {
    expect(contradiction(brief({}), 10)).toBe(
      'A 12 ms pulse is too short for 10 readings per second: it may be missed altogether.',
    );
    expect(contradiction(brief({}), 120)).toMatch(/may keep only 46.2 % of its peak/);
    expect(contradiction(brief({}), 1000)).toBeNull();
    expect(contradiction(brief({ fastest: { kind: 'tone', frequencyHz: 50 } }), 100)).toMatch(
      /is too slow; 500 required/,
    );
  });

  it('adds up the lag, and knows how fast cloth may run', () => {
    expect(latency(10, 0.3, 0.25, 0.5)).toMatchObject({ state: 'fail', value: expect.closeTo(0.65, 9) });
    expect(latency(100, 0.05, 0.1, 0.5).state).toBe('pass');
    expect(trackingTopSpeed(2000, 0.0005)).toBe(1);
  });
});

describe('pins', () => {
  const pins = [
    { name: 'A0', can: ['analog', 'digital'], reserved: null },
    { name: 'A1', can: ['analog', 'digital', 'interrupt'], reserved: null, conflictsWith: 'radio' },
    { name: 'D2', can: ['digital', 'interrupt'], reserved: null },
    { name: 'D0', can: ['digital'], reserved: 'the console' },
  ];
  const need = (id: string, needs: string, fixed?: string) => ({
    id,
    title: id.toUpperCase(),
    needs,
    ...(fixed ? { fixed } : {}),
  });

  it('finds the one arrangement that works', () => {
    const solution = solvePins(pins, [
      need('light', 'digital'),
      need('edge', 'interrupt'),
      need('probe', 'analog'),
    ]);
    expect(solution.unmet).toEqual([]);
    expect(new Set(solution.assigned.map((a) => a.pin)).size).toBe(3);
    expect(solution.assigned.find((a) => a.id === 'probe')!.pin).toMatch(/^A/);
  });

  it('always finds one when there is one', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray([0, 1, 2, 3, 4, 5]), (order) => {
        // Pin k can do talents k and k + 1: needs 0..5 have exactly one full arrangement or more.
        const board = order.map((k) => ({ name: `P${k}`, can: [`t${k}`, `t${k + 1}`], reserved: null }));
        const needs = order.map((k) => need(`n${k}`, `t${k}`));
        expect(solvePins(board, needs).unmet).toEqual([]);
      }),
    );
  });

  it('keeps hand-set pins, names each conflict and offers the cheapest way out', () => {
    const conflictsOf = (...needs: ReturnType<typeof need>[]) => solvePins(pins, needs, ['radio']).conflicts;
    expect(conflictsOf(need('a', 'digital', 'D0'))[0]).toMatch(/reserved for the console. Move A/);
    expect(conflictsOf(need('a', 'analog', 'A1'))[0]).toMatch(/while the radio is on/);
    expect(conflictsOf(need('a', 'analog', 'D2'))[0]).toMatch(/does not support analog/);
    expect(conflictsOf(need('a', 'digital', 'D2'), need('b', 'digital', 'D2'))[0]).toMatch(
      /used by both A and B/,
    );
    expect(conflictsOf(need('a', 'digital', 'X9'))[0]).toMatch(/pin X9, which this board does not have/);
    const short = solvePins(
      pins,
      [need('a', 'analog'), need('b', 'analog')],
      ['radio'],
      [
        { title: 'Choose another board', price: 12, gives: 'analog' },
        { title: 'Analog expander', price: 3, gives: 'analog' },
      ],
    );
    expect(short.unmet).toHaveLength(1);
    expect(short.waysOut[0]!.title).toBe('Analog expander');
  });
});

describe('buses', () => {
  const device = (title: string, addresses: number[]) => ({
    title,
    addresses,
    bitsPerReading: 60,
    readingsPerS: 100,
    volts: 3.3,
  });

  it('moves an address when that frees the other, and says when none is free', () => {
    const plan = assignAddresses([device('Clock', [0x68]), device('Motion', [0x68, 0x69])]);
    expect(plan.addresses).toEqual([
      { title: 'Clock', address: 0x68, changed: false },
      { title: 'Motion', address: 0x69, changed: true },
    ]);
    expect(assignAddresses([device('A', [1]), device('B', [1])]).clashes[0]).toMatch(
      /B has no free address.*0x1/,
    );
  });

  it('counts load, pull-ups and levels', () => {
    expect(busLoad([device('A', [1])], 100_000)).toMatchObject({ load: 0.06, state: 'pass' });
    expect(
      busLoad(
        Array.from({ length: 12 }, () => device('A', [1])),
        100_000,
      ).state,
    ).toBe('fail');
    expect(() => busLoad([], 0)).toThrow(/received 0/);
    const range = pullUpRange(3.3, 200e-12, 400_000);
    expect(range.lowestOhm).toBeCloseTo(967, 0);
    expect(range.highestOhm).toBeCloseTo(1770, 0);
    expect(pullUpRange(5, 400e-12, 400_000).problem).toMatch(/Shorten the wires/);
  });
});

describe('power', () => {
  const heater: PowerLoad = {
    title: 'Elements',
    rail: '5V',
    onA: 0.45,
    peakA: 0.5,
    warmUpA: 0.6,
    duty: 1,
    sleepA: 0,
  };
  const logic: PowerLoad = {
    title: 'Board',
    rail: '3V3',
    onA: 0.05,
    peakA: 0.3,
    warmUpA: 0.05,
    duty: 0.5,
    sleepA: 0.001,
  };
  const rails: Rail[] = [
    { id: '5V', volts: 5, limitA: 2, regulator: { kind: 'switching', efficiency: 0.9, ownA: 0 } },
    { id: '3V3', volts: 3.3, limitA: 0.5, regulator: { kind: 'linear', dropoutV: 0.3, ownA: 0.001 } },
  ];
  const pack: Supply = {
    title: 'Pack',
    volts: 7.4,
    limitA: 3,
    capacityAh: 2.6,
    usable: 0.8,
    ratedA: 0.5,
    peukert: 1.05,
  };

  it('works a budget out as by hand', () => {
    const budget = powerBudget([heater, logic], rails, pack);
    const fromFive = (0.45 * 5) / 0.9 / 7.4;
    const fromThree = 0.5 * 0.05 + 0.5 * 0.001 + 0.001;
    expect(budget.averageA).toBeCloseTo(fromFive + fromThree, 12);
    expect(budget.runtimeH).toBeCloseTo((2.6 * 0.8) / (fromFive + fromThree), 6);
    expect(budget.rails[1]!.heatW).toBeCloseTo((7.4 - 3.3) * 0.0255 + 7.4 * 0.001, 9);
    expect(budget.problems).toEqual([expect.stringMatching(/must dissipate 1.2 W/)]);
    expect(budget.arithmetic.at(-1)).toMatch(/2.6 Ah × 80 %/);
  });

  it('lives longer the more it sleeps, and names what cannot be fed', () => {
    const curve = runtimeByDuty([logic], rails, pack, [0.1, 0.5, 1]).map((p) => p.runtimeH!);
    expect(curve[0]! > curve[1]! && curve[1]! > curve[2]!).toBe(true);
    const weak = powerBudget(
      [heater, { ...heater, title: 'More' }, { ...heater, title: 'Most', onA: 1 }],
      rails,
      { ...pack, limitA: 1 },
    );
    expect(weak.problems.join(' ')).toMatch(/Rail 5V supplies up to 2 A; 2.2 A is drawn/);
    expect(weak.problems.join(' ')).toMatch(/Pack supplies up to 1 A/);
    expect(powerBudget([logic], [rails[1]!], { ...pack, volts: 3.4 }).problems[0]).toMatch(/needs 3.6 V/);
    expect(powerBudget([logic], [{ ...rails[1]!, regulator: { kind: 'none' } }], pack).problems[0]).toMatch(
      /connected directly to 7.4 V/,
    );
    expect(() => powerBudget([{ ...heater, rail: '9V' }], rails, pack)).toThrow(
      /"9V", which does not exist. Choose one of 5V, 3V3/,
    );
    expect(() => powerBudget([{ ...heater, duty: 2 }], rails, pack)).toThrow(/received 2/);
    expect(powerBudget([heater], rails, { ...pack, capacityAh: 0 }).runtimeH).toBeNull();
  });

  it('asks "milliamperes or amperes?" a hundredfold off, and only then', () => {
    expect(currentPlausibility('heated gas sensor', 0.0001)).toMatch(
      /0.1 mA for this heated gas sensor\? Typical is 30 mA to 0.2 A/,
    );
    expect(currentPlausibility('heated gas sensor', 0.15)).toBeNull();
    expect(currentPlausibility('sounder', 30)).toMatch(/Is it mA or A/);
  });

  it('switches on what warms up longest first, and never more at once than the supply bears', () => {
    const at = (title: string, onA: number, warmUpA: number, warmUpS: number) => ({
      title,
      rail: '5V',
      onA,
      peakA: onA,
      warmUpA,
      duty: 1,
      sleepA: 0,
      warmUpS,
    });
    const order = switchOnOrder(
      [at('Logic', 0.1, 0.1, 1), at('Heater A', 0.3, 0.8, 300), at('Heater B', 0.3, 0.8, 120)],
      1.2,
    );
    expect(order.steps.map((s) => [s.title, s.atS])).toEqual([
      ['Heater A', 0],
      ['Heater B', 300],
      ['Logic', 300],
    ]);
    expect(order.readyS).toBe(420);
    expect(switchOnOrder([at('A', 1, 1, 1), at('B', 1, 1, 1)], 1.5).problem).toMatch(/needs 1 A, more/);
  });
});

describe('input filters and series', () => {
  it('knows the series', () => {
    expect(eSeriesBetween('E12', 1000, 9999)).toEqual([
      1000, 1200, 1500, 1800, 2200, 2700, 3300, 3900, 4700, 5600, 6800, 8200,
    ]);
    expect(eSeriesBetween('E24', 100, 999)).toHaveLength(24);
    expect(eSeriesBetween('E96', 1, 9.99)).toHaveLength(96);
    expect(nearestInSeries('E24', 3432)).toBe(3300);
    expect(nearestInSeries('E96', 3432)).toBe(3400);
    expect(() => eSeriesBetween('E6', 0, 5)).toThrow(/received 0 to 5/);
  });

  it('judges corner, settling and self-heating', () => {
    const rc = inputFilter(10_000, 100e-9, 12, 100, true);
    expect(rc.cornerHz).toBeCloseTo(159.15, 1);
    expect(rc.settlingS).toBeCloseTo(1e-3 * Math.log(2 ** 13), 9);
    expect(rc).toMatchObject({ guardsAliases: false, settles: true });
    expect(inputFilter(10_000, 1e-6, 12, 1000, true).settles).toBe(false);
    const heat = selfHeating(5, 10_000, 10_000, 0.002);
    expect(heat.watts).toBeCloseTo(0.000625, 9);
    expect(heat.errorK).toBeCloseTo(0.3125, 9);
    expect(() => selfHeating(5, 1, 1, 0)).toThrow(/received 0/);
  });
});

describe('surroundings', () => {
  it('are borne, not borne, or not known, each with its way out', () => {
    const part = { title: 'Colour display', bears: ['dust' as const], fails: ['sun' as const] };
    const found = environmentFindings(['sun', 'dust', 'damp'], part);
    expect(found.map((f) => f.state)).toEqual(['fail', 'pass', 'tight']);
    expect(found[0]!.sentence).toMatch(/does not tolerate sunlight. Shade it/);
    expect(environmentFindings([], part)).toEqual([]);
  });
});

describe('cost', () => {
  it('counts what must be bought, against budget and ready-made', () => {
    const result = partsCost(
      [
        { title: 'Probe', quantity: 4, unitPrice: 2.5, owned: 1, secondHand: 1 },
        { title: 'Board', quantity: 1, unitPrice: 10, owned: 0, secondHand: 0.6 },
      ],
      12,
      60,
    );
    expect(result.total).toBeCloseTo(13.5, 9);
    expect(result.saved).toBe(2.5);
    expect(result.sentence).toBe(
      '13.50 to buy, 2.50 already owned. 1.50 over the budget of 12.00. 46.50 less than a ready-made product.',
    );
    expect(() =>
      partsCost([{ title: 'x', quantity: 1.5, unitPrice: 1, owned: 0, secondHand: 1 }], null, null),
    ).toThrow(/received 1.5/);
  });
});
