import { describe, expect, it } from 'vitest';
import type { Brief } from '../src/model/index.ts';
import {
  assignPins,
  bestSeriesResistor,
  BOARDS,
  briefFaults,
  canExpectReadings,
  cautionsFor,
  DISPLAYS,
  expectedReadings,
  freeAnalogPins,
  pinConflicts,
  rankSensors,
  SENSORS,
  TEMPLATES,
  thermistorLine,
  worstStep,
} from '../src/plan/index.ts';

const brief: Brief = { ...TEMPLATES[0]!.make().brief!, budget: 75 };
const board = BOARDS[0]!;
const display = DISPLAYS[0]!;
const rank = (change: Partial<Brief> = {}) =>
  rankSensors(SENSORS, {
    brief: { ...brief, ...change },
    board,
    channels: 4,
    otherCost: 17,
    sampleRateHz: 10,
  });
const verdict = (part: string, check: string, change: Partial<Brief> = {}) =>
  rank(change)
    .find((c) => c.part.id === part)!
    .verdicts.find((v) => v.check === check)!;

describe('briefFaults', () => {
  it('finds none in the templates', () => {
    for (const t of TEMPLATES) if (t.make().brief) expect(briefFaults(t.make().brief!)).toEqual([]);
  });
  it.each<[Partial<Brief>, string, RegExp]>([
    [{ low: 110, high: 0 }, 'high', /highest \(0\) above lowest \(110\)/],
    [{ low: 5, high: 5 }, 'high', /must rise/],
    [{ tolerance: 55 }, 'tolerance', /spans the whole range of 110/],
    [{ low: -300 }, 'low', /Nothing is colder than -273.15/],
  ])('names the contradiction in %j', (change, field, message) => {
    const [fault] = briefFaults({ ...brief, ...change });
    expect(fault).toMatchObject({ field, message: expect.stringMatching(message) });
  });
});

describe('rankSensors', () => {
  it('puts parts that cannot meet the brief below those that can, each with its reason', () => {
    const ranked = rank();
    expect(ranked[0]!.part.id).toBe('ntc-bead-10k');
    expect(ranked.map((c) => c.failed)).toEqual([false, true, true, true]);
    for (const c of ranked.filter((x) => x.failed))
      expect(c.verdicts.some((v) => v.hard && v.state === 'fail')).toBe(true);
  });

  it('works the resolution out through the line at the worse end', () => {
    // R(110 degC) = 527 ohm, T^2 / (beta R) = 0.0705 K/ohm, (R + Rs)^2 / Rs / 1023 = 4.34 ohm a code.
    expect(verdict('ntc-bead-10k', 'resolution').value).toBeCloseTo(0.0705 * 4.34, 2);
    expect(verdict('thermocouple-module', 'resolution')).toMatchObject({ value: 0.25, state: 'tight' });
  });

  it('calls a finer converter finer by its codes', () => {
    const fine = rankSensors(SENSORS, {
      brief,
      board: BOARDS[1]!,
      channels: 4,
      otherCost: 17,
      sampleRateHz: 10,
    });
    const step = fine
      .find((c) => c.part.id === 'ntc-bead-10k')!
      .verdicts.find((v) => v.check === 'resolution')!.value;
    expect(verdict('ntc-bead-10k', 'resolution').value / step).toBeCloseTo(4095 / 1023, 6);
  });

  it.each<[string, string, Partial<Brief>, string]>([
    ['one-wire-digital', 'rate', {}, 'fail'],
    ['one-wire-digital', 'rate', { fastest: { kind: 'ramp', ratePerS: 0.1 } }, 'pass'],
    ['platinum-module', 'price', {}, 'fail'],
    ['platinum-module', 'price', { budget: null }, 'pass'],
    ['one-wire-digital', 'accuracy', {}, 'fail'],
    ['one-wire-digital', 'accuracy', { high: 80 }, 'pass'],
    ['ntc-bead-10k', 'range', { high: 140 }, 'fail'],
    ['ntc-bead-10k', 'range', { high: 120 }, 'tight'],
    ['thermocouple-module', 'range', { low: 0, high: 60 }, 'tight'],
    ['thermocouple-module', 'true-up', {}, 'fail'],
    ['thermocouple-module', 'true-up', { tolerance: 3 }, 'pass'],
  ])('%s, %s, with %j: %s', (part, check, change, state) => {
    expect(verdict(part, check, change).state).toBe(state);
  });

  it('judges in the brief’s own unit: the same brief in degF gives the same verdicts', () => {
    const f = {
      unit: 'degF' as const,
      low: 32,
      high: 230,
      tolerance: 1.8,
      fastest: { kind: 'ramp' as const, ratePerS: 0.54 },
    };
    expect(rank(f).map((c) => c.verdicts.map((v) => v.state))).toEqual(
      rank().map((c) => c.verdicts.map((v) => v.state)),
    );
  });

  it('offers nothing for a quantity the shelf does not hold', () => {
    expect(rank({ unit: 'hPa', low: 900, high: 1100 })).toEqual([]);
  });
});

describe('pins', () => {
  const channels = [1, 2, 3, 4, 5].map((i) => ({ id: `p${i}`, name: `Probe ${i}` }));

  it('keeps the bus of the display free', () => {
    expect(freeAnalogPins(board, display)).toEqual(['A0', 'A1', 'A2', 'A3']);
    expect(freeAnalogPins(board, null)).toHaveLength(6);
    expect(assignPins(['p1', 'p2'], board, display)).toEqual([
      { channelId: 'p1', pin: 'A0' },
      { channelId: 'p2', pin: 'A1' },
    ]);
  });

  it('says which channel finds no pin and what would help', () => {
    const pins = assignPins(
      channels.map((c) => c.id),
      board,
      display,
    );
    expect(pinConflicts(pins, channels, board, display).map((c) => c.message)).toEqual([
      expect.stringMatching(/Probe 5 has no pin: 4 analog pins are free for 5 channels.*board with more/),
    ]);
    expect(
      pinConflicts(
        assignPins(
          channels.map((c) => c.id),
          board,
          null,
        ),
        channels,
        board,
        null,
      ),
    ).toEqual([]);
  });

  it.each([
    ['A0', /A0 is used by Probe 1 and Probe 2\. Move one to A1/],
    ['A4', /A4 belongs to the I2C bus.*Move Probe 2/],
    ['A9', /no analog pin A9/],
  ])('names a clash on %s once', (pin, message) => {
    const conflicts = pinConflicts(
      [
        { channelId: 'p1', pin: 'A0' },
        { channelId: 'p2', pin },
      ],
      channels.slice(0, 2),
      board,
      display,
    );
    expect(conflicts).toHaveLength(1);
    expect(conflicts[0]!.message).toMatch(message);
  });
});

describe('expectedReadings', () => {
  const place = { name: 'x', elevationM: 640, pressureHpa: null };
  it('walks ice, room, 60 degrees and boiling back to ohm, volt and counts', () => {
    const [ice, , , boiling] = expectedReadings(thermistorLine('p'), brief, place, 10);
    expect(ice).toMatchObject({
      ohm: expect.closeTo(33620.6, 0),
      counts: expect.closeTo(931.56, 1),
      volt: expect.closeTo(4.553, 2),
    });
    expect(boiling!.reading).toBeCloseTo(97.85, 2);
    expect(boiling!.condition).toBe('Boiling water at 640 m');
  });
  it('believes a barometer over the elevation', () => {
    expect(
      expectedReadings(thermistorLine('p'), brief, { ...place, pressureHpa: 1013.25 }, 10)[3]!.reading,
    ).toBeCloseTo(99.97, 2);
  });
  it('knows when a line cannot tell', () => {
    expect(canExpectReadings(thermistorLine('p'))).toBe(true);
    expect(canExpectReadings({ ...thermistorLine('p'), stages: [] })).toBe(false);
  });
});

describe('bestSeriesResistor', () => {
  it('is no worse than any other E12 value near it', () => {
    const line = thermistorLine('p');
    const best = bestSeriesResistor(line, 0, 110, 10)!;
    expect(best.seriesOhm).toBe(2700);
    for (const ohm of [2200, 3300, 10000]) {
      const stages = line.stages.map((s) =>
        s.id === 'divider' ? { ...s, params: { ...s.params, seriesOhm: ohm } } : s,
      );
      expect(worstStep({ ...line, stages }, 0, 110, 10)).toBeGreaterThan(best.worstStep);
    }
  });
  it('has nothing to say without a divider', () => {
    expect(bestSeriesResistor({ ...thermistorLine('p'), stages: [] }, 0, 1, 10)).toBeNull();
  });
});

describe('cautionsFor', () => {
  const channels = TEMPLATES[0]!.make().channels;
  it('warns of burns where it gets hot, in any unit, and of mains on wall power', () => {
    expect(cautionsFor({ brief, channels }).map((c) => c.id)).toEqual(['hot', 'mains']);
    expect(cautionsFor({ brief: { ...brief, unit: 'degF', high: 120, power: 'battery' }, channels })).toEqual(
      [],
    );
    expect(cautionsFor({ brief: null, channels })).toEqual([]);
  });
});
