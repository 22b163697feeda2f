import { describe, expect, it } from 'vitest';
import {
  analogCrossing,
  assignPins,
  boardPins,
  busPlan,
  levelCrossing,
  pinNeedsOf,
  planOf,
  planWith,
  powerPlan,
  partQuestion,
  railFor,
  railVolts,
  runtimeCurves,
  wiredParts,
  wiringTable,
  linesForPicks,
  withSensorLines,
  SHELF,
  TEMPLATES,
} from '../../src/plan/index.ts';
import { gadgetFrom, partLike, planFrom } from '../support/plans.ts';

const small = partLike('board', 'small-8-bit');
const radio = partLike('board', 'radio-32-bit');

describe('pins of a board', () => {
  it('read talents, what is reserved and what fails beside the radio', () => {
    const board = partLike('board', 'small-8-bit', {
      pins: ['A4: analog digital i2c-data', 'D0: digital serial !console', 'A6: analog ~radio'],
    });
    expect(boardPins(board)).toEqual([
      { name: 'A4', can: ['analog', 'digital', 'i2c-data'], reserved: null },
      { name: 'D0', can: ['digital', 'serial'], reserved: 'console' },
      { name: 'A6', can: ['analog'], reserved: null, conflictsWith: 'radio' },
    ]);
  });

  it('of every board on the shelf can be read, each name once', () => {
    for (const part of SHELF)
      if (part.kind === 'board') {
        const names = boardPins(part).map((q) => q.name);
        expect(new Set(names).size).toBe(names.length);
      }
  });
});

describe('assignPins', () => {
  const kiln = planFrom('several-temperatures', {
    temperature: 'ntc-bead-10k',
    board: 'small-8-bit',
    display: 'character-20x4',
    supply: 'wall-9v',
  });

  it('gives every wire a pin that can do it, no pin to two, and keeps the bus for the bus', () => {
    for (const t of TEMPLATES.filter((q) => q.family !== null)) {
      const plan = planFrom(t.id, { board: 'long-8-bit', display: 'character-20x4' });
      const { assigned, needs, unmet } = assignPins(plan, partLike('board', 'long-8-bit'));
      expect(unmet).toEqual([]);
      const pins = boardPins(partLike('board', 'long-8-bit'));
      for (const a of assigned)
        expect(pins.find((q) => q.name === a.pin)!.can).toContain(needs.find((n) => n.id === a.id)!.needs);
      expect(new Set(assigned.map((a) => a.pin)).size).toBe(assigned.length);
    }
    const { assigned } = assignPins(kiln, small);
    expect(assigned.filter((a) => a.id.startsWith('temperature')).map((a) => a.pin)).toEqual([
      'A0',
      'A1',
      'A2',
      'A3',
    ]);
  });

  it('names the conflict when five probes share a board with a bus display, and the cheapest way out first', () => {
    const gadget = kiln.gadget;
    const five = planOf(
      {
        ...gadget,
        channels: [1, 2, 3, 4, 5, 6, 7].map((i) => ({
          ...gadget.channels[0]!,
          id: `p${i}`,
          name: `Probe ${i}`,
        })),
      },
      SHELF,
    )!;
    const { unmet, waysOut } = assignPins(five, small);
    expect(unmet.join(' ')).toMatch(/Probe \d.*analog/);
    const costs = waysOut.map((w) => w.extraCost);
    expect(costs.length).toBeGreaterThan(1);
    expect(costs).toEqual(costs.toSorted((a, b) => a - b));
    // Each way out does lead out.
    for (const { change } of waysOut) {
      const changed =
        change.kind === 'slot'
          ? planWith(five, change.slot, partLike(change.slot, change.partId))
          : change.kind === 'converter'
            ? planWith(five, change.askId, five.sensing[0]!.part!, partLike('converter', change.converterId))
            : {
                ...five,
                hookup: {
                  ...five.hookup,
                  extras: [{ partId: change.partId, quantity: 1, owned: 0, secondHand: 1 }],
                },
              };
      expect(assignPins(changed, changed.board!).unmet).toEqual([]);
    }
  });

  it('keeps what is set by hand and names what it clashes with', () => {
    const [first, second] = pinNeedsOf(kiln);
    const byHand = (pin: string) =>
      assignPins({ ...kiln, hookup: { ...kiln.hookup, pins: [{ needId: first!.id, pin }] } }, small);
    expect(byHand('A2').assigned.find((a) => a.id === first!.id)).toMatchObject({ pin: 'A2', byHand: true });
    expect(byHand('A2').conflicts).toEqual([]);
    expect(byHand('D0').conflicts.join(' ')).toMatch(/reserved|does not support analog/);
    expect(byHand('A99').conflicts[0]).toMatch(/pin A99, which this board does not have/);
    const both = assignPins(
      {
        ...kiln,
        hookup: { ...kiln.hookup, pins: [first!, second!].map((n) => ({ needId: n.id, pin: 'A1' })) },
      },
      small,
    );
    expect(both.conflicts[0]).toMatch(/A1 is used by .* and /);
  });

  it('leaves out pins that fall silent beside the radio, and takes them when it is off', () => {
    const picks = {
      ferment: 'heated-ferment',
      ammonia: 'heated-ammonia',
      solvent: 'heated-solvent',
      board: 'radio-32-bit',
    };
    const silent = boardPins(radio)
      .filter((q) => q.conflictsWith === 'radio')
      .map((q) => q.name);
    expect(silent.length).toBeGreaterThan(0);
    const on = assignPins(planFrom('gas-watch', picks), radio);
    expect(on.assigned.filter((a) => silent.includes(a.pin))).toEqual([]);
    const fixed = { pins: [{ needId: 'ferment.1.a1', pin: silent[0]! }] };
    expect(assignPins(planFrom('gas-watch', picks, {}, fixed), radio).conflicts[0]).toMatch(/radio/);
    expect(
      assignPins(planFrom('gas-watch', picks, {}, { ...fixed, radioOn: false }), radio).conflicts,
    ).toEqual([]);
  });
});

describe('wires', () => {
  it('lead every part’s signal, plus and ground somewhere', () => {
    const plan = planFrom('gas-watch', {
      ferment: 'heated-ferment',
      ammonia: 'heated-ammonia',
      solvent: 'heated-solvent',
      board: 'radio-32-bit',
      display: 'oled-128x64',
      supply: 'wall-5v',
      sounder: 'buzzer-active',
    });
    const wires = wiringTable(plan, assignPins(plan, radio));
    for (const part of wiredParts(plan)) {
      const own = wires.filter((w) => w.partId === part.id);
      expect(own.some((w) => w.kind === 'ground')).toBe(true);
      expect(own.some((w) => w.kind === 'power')).toBe(true);
      expect(own.some((w) => w.kind === 'signal' || w.kind === 'bus')).toBe(true);
    }
    expect(wires.every((w) => w.toId !== '')).toBe(true);
    expect(new Set(wires.map((w) => w.id)).size).toBe(wires.length);
    // Heater from 5 V, measuring circuit from the board's own, so that no vapour drives the pin beyond it.
    const element = wires
      .filter((w) => w.partId === 'ferment.1' && w.kind === 'power')
      .map((w) => [w.at, w.to]);
    expect(element).toEqual([
      ['power (+)', '5 V'],
      ['measuring circuit', '3.3 V'],
    ]);
  });

  it('go through the converter where there is one', () => {
    const plan = planFrom('impact-peak', {
      blow: ['load-cell-200kg', 'bridge-fast-24'],
      board: 'fast-32-bit',
    });
    const wires = wiringTable(plan, assignPins(plan, partLike('board', 'fast-32-bit')));
    expect(wires.find((w) => w.partId === 'blow.1' && w.kind === 'signal')!.toId).toBe('blow.c1');
    expect(wires.some((w) => w.partId === 'blow.c1' && w.kind === 'bus')).toBe(true);
  });
});

describe('levels', () => {
  const part = { title: 'Ranger', logicV: 5, bearsV: 5.5, bus: 'digital' as const };
  it('are named where something may break or not be understood', () => {
    expect(levelCrossing(radio, part)).toMatchObject({
      kind: 'harm',
      sentence: expect.stringMatching(/sends 5 V to a board that tolerates/),
    });
    expect(levelCrossing(small, { ...part, logicV: 3.3, bearsV: 3.6 })).toMatchObject({
      kind: 'harm',
      sentence: expect.stringMatching(/board sends 5 V to Ranger, which tolerates 3.6 V/),
    });
    // 0.7 x 5 V = 3.5 V are taken for high; 3.3 V are not quite that.
    expect(levelCrossing({ ...radio, bearsV: 5.5 }, part)).toMatchObject({
      kind: 'doubt',
      sentence: expect.stringMatching(/needs 3.5 V/),
    });
    expect(levelCrossing(small, part)).toBeNull();
    // What only sends never has to understand the board.
    expect(levelCrossing(small, { ...part, logicV: 3.3, bearsV: 3.6, bus: 'edge' })).toBeNull();
    expect(levelCrossing(radio, { ...part, bus: 'analog' })).toBeNull();
  });

  it('of an analog output: clipped beyond the reference, harmful beyond what the pin bears', () => {
    expect(analogCrossing({ referenceV: 3.3, bearsV: 3.6 }, 'Gauge', 3.3)).toBeNull();
    expect(analogCrossing({ referenceV: 3.3, bearsV: 3.6 }, 'Gauge', 3.5)!.kind).toBe('doubt');
    expect(analogCrossing({ referenceV: 3.3, bearsV: 3.6 }, 'Gauge', 5)!.kind).toBe('harm');
  });

  it('of a gas element stay within the board’s volts however strong the vapour', () => {
    for (const board of ['radio-32-bit', 'small-8-bit'])
      expect(busPlan(planFrom('gas-watch', { ferment: 'heated-ferment', board })).crossings).toEqual([]);
  });
});

describe('the two-wire bus', () => {
  const plan = planFrom('motion-counter', {
    strokes: 'axes-16g',
    display: 'oled-128x64',
    board: 'tiny-32-bit',
  });
  it('gives each part an address, loads the clock and sizes the pull-ups', () => {
    const bus = busPlan(plan);
    const addresses = bus.addresses.addresses.map((a) => a.address);
    expect(new Set(addresses).size).toBe(addresses.length);
    expect(bus.devices.length).toBe(2);
    expect(bus.load.load).toBeGreaterThan(0);
    expect(bus.pullUp.suggestedOhm!).toBeGreaterThan(bus.pullUp.lowestOhm);
    expect(bus.pullUp.suggestedOhm!).toBeLessThan(bus.pullUp.highestOhm);
  });
  it('is twice as busy at half the clock, and told when the wires are too long', () => {
    const at = (busClockHz: number, busCapacitanceF = 100e-12) =>
      busPlan({ ...plan, hookup: { ...plan.hookup, busClockHz, busCapacitanceF } });
    expect(at(50e3).load.load / at(100e3).load.load).toBeCloseTo(2, 9);
    expect(at(400e3, 1e-9).pullUp.problem).toMatch(/Shorten the wires or lower the bus clock/);
    expect(at(400e3, 1e-9).pullUp.suggestedOhm).toBeNull();
  });
});

describe('rails', () => {
  const nine = partLike('supply', 'wall-9v');
  const five = partLike('supply', 'wall-5v');
  const cell = partLike('supply', 'lithium-cell');
  it('come straight, through the board’s own regulator, or through a switching one up or down', () => {
    expect(railFor(5, five, small).regulator.kind).toBe('none');
    expect(railFor(5, nine, small).regulator.kind).toBe('linear');
    expect(railFor(3.3, nine, small).regulator.kind).toBe('switching');
    expect(railFor(5, cell, radio)).toMatchObject({ regulator: { kind: 'switching', efficiency: 0.85 } });
    expect(railFor(3.3, nine, small, 'linear').regulator).toMatchObject({ kind: 'linear', dropoutV: 1.2 });
  });
  it('feed a part with the board’s own volts where it bears them, else 5 V, else the supply’s', () => {
    const display = partLike('display', 'oled-128x64', { supplyLowV: 3, supplyHighV: 5.5 });
    expect(railVolts(display, radio, five)).toBe(3.3);
    expect(railVolts({ ...display, supplyLowV: 4.5 }, radio, five)).toBe(5);
    expect(railVolts({ ...display, supplyLowV: 8, supplyHighV: 14 }, radio, nine)).toBe(9);
    expect(railVolts({ ...display, supplyLowV: 11, supplyHighV: 14 }, radio, nine)).toBe(11);
    expect(railVolts({ ...display, supplyLowV: 0, supplyHighV: 0 }, radio, nine)).toBeNull();
  });
});

describe('the power of a plan', () => {
  const picks = {
    ferment: 'heated-ferment',
    ammonia: 'heated-ammonia',
    solvent: 'heated-solvent',
    board: 'radio-32-bit',
    supply: 'wall-5v',
  };
  const plan = planFrom('gas-watch', picks);

  it('is nothing until a board and a supply are picked', () => {
    expect(powerPlan(planFrom('gas-watch', { board: 'radio-32-bit' }))).toBeNull();
    expect(powerPlan(planFrom('gas-watch', { supply: 'wall-5v' }))).toBeNull();
  });

  it('keeps heaters on however little the gadget is awake', () => {
    const awake = powerPlan(plan)!;
    const asleep = powerPlan({ ...plan, hookup: { ...plan.hookup, duty: 0.1 } })!;
    const heaters = 3 * partLike('sensor', 'heated-ferment').onA;
    expect(asleep.budget.averageA).toBeLessThan(awake.budget.averageA);
    expect(asleep.budget.averageA).toBeGreaterThan(heaters);
    expect(awake.switchOn.readyS).toBeGreaterThanOrEqual(partLike('sensor', 'heated-ferment').warmUpS);
    expect(awake.budget.runtimeH).toBeNull();
  });

  it('asks "mA or A?" of a part a hundredfold off', () => {
    expect(partQuestion(partLike('sensor', 'heated-ferment'))).toBeNull();
    expect(partQuestion(partLike('sensor', 'heated-ferment', { onA: 0.00015 }))).toMatch(/Is it mA or A/);
    const own = partLike('sensor', 'heated-ferment', { id: 'my-element', onA: 150 });
    const odd = planFrom('gas-watch', { ...picks, ferment: 'my-element' }, {}, {}, [...SHELF, own]);
    expect(powerPlan(odd)!.questions.join(' ')).toMatch(/150 A for this/);
  });

  it('of no part on the shelf is a question', () => {
    expect(SHELF.flatMap((q) => partQuestion(q) ?? [])).toEqual([]);
  });

  it('lasts longer on every battery the less it is awake, and only on those that carry the peaks', () => {
    const counter = planFrom('motion-counter', {
      strokes: 'axes-16g',
      board: 'tiny-32-bit',
      display: 'memory-144x168',
    });
    const curves = runtimeCurves(counter, [0.02, 0.1, 0.5, 1]);
    expect(curves.length).toBeGreaterThan(3);
    for (const { hours } of curves) expect(hours).toEqual(hours.toSorted((a, b) => b - a));
    const titles = runtimeCurves(plan, [1]).map((c) => c.supply.id);
    expect(titles).not.toContain('alkaline-9v');
  });
});

describe('lines that follow from picks', () => {
  it('start raw channels, change only the converter of a built one, and start anew when asked', () => {
    const bare = gadgetFrom('several-temperatures', { temperature: 'ntc-bead-10k', board: 'radio-32-bit' });
    const raw = bare.channels.map((c) => ({ ...c, line: { ...c.line, stages: [] } }));
    const started = linesForPicks(planOf({ ...bare, channels: raw }, SHELF)!);
    expect(started[0]!.line.stages.map((s) => s.kind)).toEqual(['adc', 'divider', 'thermistor-beta']);
    const kept = linesForPicks(planOf(bare, SHELF)!);
    expect(kept[0]!.line.stages.find((s) => s.kind === 'adc')!.params).toMatchObject({
      bits: 12,
      referenceV: 3.3,
    });
    expect(kept[0]!.line.stages.map((s) => s.kind)).toEqual(bare.channels[0]!.line.stages.map((s) => s.kind));
    const other = planOf({ ...bare, picks: [{ ...bare.picks[0]!, partId: 'silicon-analog' }] }, SHELF)!;
    expect(withSensorLines(other, 'temperature')[0]!.line.stages.map((s) => s.kind)).toEqual([
      'adc',
      'linear',
    ]);
  });
});
