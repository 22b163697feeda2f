import { describe, expect, it } from 'vitest';
import { runLine } from '../../src/line/index.ts';
import { compileLine } from '../../src/line/compile.ts';
import {
  bestSeriesResistor,
  bringUpSheet,
  dividerCurve,
  dividerOf,
  expectedRows,
  judgeRow,
  loadHeat,
  TEMPLATES,
  thermistorLine,
  withSeriesResistor,
  worstStep,
} from '../../src/plan/index.ts';
import { gadgetFrom, partLike, planFrom } from '../support/plans.ts';

const kiln = gadgetFrom('several-temperatures');
const place = { name: 'x', elevationM: 640, pressureHpa: null };
const rowsOf = (template: string, part: string, at = 0) => {
  const gadget = gadgetFrom(template);
  const channel = gadget.channels[at]!;
  const ask = gadget.brief!.asks.find((a) => a.id === channel.askId)!;
  return expectedRows(channel, ask, gadget.place, partLike('sensor', part), gadget.sampleRateHz);
};

describe('expectedRows', () => {
  const rows = expectedRows(
    { line: thermistorLine('p') },
    kiln.brief!.asks[0]!,
    place,
    partLike('sensor', 'ntc-bead-10k'),
    10,
  );

  it('walks ice, room, 60 degrees and boiling back to ohm, volt and counts', () => {
    const [ice, , , boiling] = rows;
    expect(ice).toMatchObject({ ohm: expect.closeTo(33620.6, 0), volt: expect.closeTo(4.553, 2) });
    expect(ice!.raw[0]).toMatchObject({ column: 'p', unit: 'count', value: expect.closeTo(931.56, 1) });
    expect(boiling!.reading[0]).toBeCloseTo(97.85, 2);
    expect(boiling!.condition).toBe('Boiling water at an elevation of 640 m');
  });

  it('believes a barometer over the elevation, and leaves out what the range does not reach', () => {
    const ask = kiln.brief!.asks[0]!;
    const at = (change: Partial<typeof ask>, pressureHpa: number | null = null) =>
      expectedRows({ line: thermistorLine('p') }, { ...ask, ...change }, { ...place, pressureHpa }, null, 10);
    expect(at({}, 1013.25)[3]!.reading[0]).toBeCloseTo(99.97, 2);
    expect(at({ high: 50 }).map((r) => r.condition)).toEqual(['Ice slurry', 'Room temperature']);
  });

  it('holds what a line gives for the expected raw value: the walk back agrees with the walk forth', () => {
    let agreed = 0;
    for (const t of TEMPLATES.filter((q) => q.family !== null)) {
      const gadget = gadgetFrom(t.id);
      for (const channel of gadget.channels) {
        const ask = gadget.brief!.asks.find((a) => a.id === channel.askId)!;
        for (const row of expectedRows(channel, ask, gadget.place, null, gadget.sampleRateHz)) {
          expect(row.reading.every(Number.isFinite)).toBe(true);
          if (row.raw.length !== 1) continue;
          const line = compileLine(channel.line, { sampleRateHz: gadget.sampleRateHz });
          if (line.outputs[0]!.unit !== row.unit || line.sources.length > 1) continue;
          const n = 4000;
          const out = runLine(line, {
            length: n,
            times: Float64Array.from({ length: n }, (_, i) => i / gadget.sampleRateHz),
            lanes: [{ values: new Float64Array(n).fill(row.raw[0]!.value), reasons: new Uint8Array(n) }],
          })[0]!.lanes[0]!.values.at(-1);
          // Rates and peaks do not stand still; what does agrees.
          if (out === undefined || Number.isNaN(out)) continue;
          expect(out).toBeCloseTo(row.reading[0]!, 4);
          agreed++;
        }
      }
    }
    expect(agreed).toBeGreaterThan(10);
  });

  it('tells three axes at rest, masses by gravity, and only the reading where the line cannot be walked back', () => {
    const axes = rowsOf('motion-counter', 'axes-16g')[0]!;
    expect(axes.reading).toEqual([0, 0, 1]);
    expect(axes.raw).toHaveLength(3);
    const masses = rowsOf('impact-peak', 'load-cell-200kg');
    expect(masses[0]!.reading[0]).toBeCloseTo(0, 9);
    expect(masses.at(-1)!.condition).toMatch(/mass of \d+ kg/);
    const spindle = rowsOf('rotation', 'hall-switch')[0]!;
    expect(spindle.raw).toEqual([]);
    expect(spindle.readingTolerance).toBeGreaterThanOrEqual(6);
  });
});

describe('judgeRow', () => {
  const row = rowsOf('several-temperatures', 'ntc-bead-10k')[0]!;
  it('is right within the tolerance and wrong beyond it, and silent without a reading', () => {
    const { value, tolerance } = row.raw[0]!;
    expect(judgeRow(row, [value + 0.9 * tolerance], 0).state).toBe('right');
    expect(judgeRow(row, [value - 1.1 * tolerance], 0)).toMatchObject({
      state: 'wrong',
      sentence: expect.stringMatching(/is off by −\d/),
    });
    expect(judgeRow(row, [Number.NaN], 0).state).toBe('no reading');
  });
  it('goes round the circle: 359 degrees are one short of north', () => {
    const north = { ...row, unit: 'deg' as const, raw: [], reading: [0], readingTolerance: 3 };
    expect(judgeRow(north, [], 359).state).toBe('right');
    expect(judgeRow(north, [], 180).state).toBe('wrong');
  });
});

describe('the bring-up sheet', () => {
  const sheet = bringUpSheet(
    planFrom('gas-watch', {
      ferment: 'heated-ferment',
      board: 'radio-32-bit',
      display: 'oled-128x64',
      supply: 'wall-5v',
    }),
  );
  it('checks what harms first: shorts, polarity, rails, current, bus, warm-up', () => {
    const ids = sheet.checks.map((c) => c.id);
    expect(ids.slice(0, 2)).toEqual(['short', 'polarity']);
    const order = ['polarity', 'rail-3.3 V', 'rail-5 V', 'current', 'bus-rest', 'bus-scan', 'warm-up'];
    expect(ids.filter((id) => order.includes(id))).toEqual(order);
    expect(sheet.checks.find((c) => c.id === 'rail-5 V')!.expect).toBe(
      '4.75 V to 5.25 V between the rail and ground.',
    );
    expect(sheet.checks.find((c) => c.id === 'bus-scan')!.expect).toMatch(/^0x3c OLED display/);
    for (const c of sheet.checks) expect(c.otherwise.length).toBeGreaterThan(10);
    expect(sheet.cautions.map((c) => c.id)).toContain('gas');
  });
  it('puts a level that harms before the power', () => {
    const crossed = bringUpSheet(
      planFrom('crossing-timer', { race: 'ultrasonic-two-pin', board: 'radio-32-bit', supply: 'wall-5v' }),
    ).checks.map((c) => c.id);
    expect(crossed.indexOf('level-0')).toBeLessThan(crossed.findIndex((id) => id.startsWith('rail-')));
    expect(crossed.indexOf('level-0')).toBe(2);
  });
  it('keeps channels together that expect the same', () => {
    const plan = planFrom('several-temperatures', { temperature: 'ntc-bead-10k', board: 'small-8-bit' });
    const { groups } = bringUpSheet(plan);
    expect(groups.map((g) => g.channels.length)).toEqual([4]);
    expect(groups[0]!.rows.map((rows) => rows[0]!.raw[0]!.column)).toEqual(
      plan.gadget.channels.map((c) => c.line.sources[0]!.column),
    );
  });
});

describe('the divider helper', () => {
  const line = thermistorLine('p');
  it('finds the E12 resistor whose worst step is smallest', () => {
    const best = bestSeriesResistor(line, 0, 110, 10)!;
    expect(best.seriesOhm).toBe(2700);
    for (const ohm of [2200, 3300, 10000])
      expect(worstStep(withSeriesResistor(line, ohm), 0, 110, 10)).toBeGreaterThan(best.worstStep);
    expect(bestSeriesResistor({ ...line, stages: [] }, 0, 1, 10)).toBeNull();
  });

  it('draws the step and the heat over the range, as by hand', () => {
    const curve = dividerCurve(line, 3300, 0, 110, 10, 0.002)!;
    expect(curve.at[0]).toBe(0);
    expect(curve.at.at(-1)).toBe(110);
    // At 0 degC, 33.6 kohm: dT/dR = T^2 / (beta R), dR/dcode = (R + Rs)^2 / Rs / 1023.
    const r = 33620.6;
    const beta = Number(line.stages.find((s) => s.kind === 'thermistor-beta')!.params['betaK']);
    const series = 3300;
    expect(curve.step[0]).toBeCloseTo(((273.15 ** 2 / (beta * r)) * (r + series) ** 2) / series / 1023, 3);
    expect(curve.heatK[0]).toBeCloseTo((25 * r) / (r + series) ** 2 / 0.002, 4);
    expect(curve.worstStep).toBe(Math.max(...curve.step));
    expect(dividerCurve({ ...line, stages: [] }, 3300, 0, 110, 10, 0.002)).toBeNull();
  });

  it('knows a load resistor from a divider', () => {
    const gas = gadgetFrom('gas-watch').channels[0]!.line;
    expect(dividerOf(gas)!.kind).toBe('load-resistor');
    expect(dividerOf(withSeriesResistor(gas, 1234))!.params['loadOhm']).toBe(1234);
    expect(dividerOf(withSeriesResistor(line, 1234))!.params['seriesOhm']).toBe(1234);
    expect(dividerOf({ ...line, stages: [] })).toBeNull();
  });
});

describe('loadHeat', () => {
  it('is V squared over R, judged against the rating and the finger', () => {
    // 3.7 V over 4.7 ohm: 2.91 W.
    const heat = loadHeat(3.7, 4.7, 10, 60);
    expect(heat.watts).toBeCloseTo(3.7 ** 2 / 4.7, 12);
    expect(heat.amperes).toBeCloseTo(3.7 / 4.7, 12);
    expect(heat).toMatchObject({ state: 'tight', sentence: expect.stringMatching(/burn fingers/) });
    expect(loadHeat(3.7, 4.7, 2, 60)).toMatchObject({
      state: 'fail',
      sentence: expect.stringMatching(/Use one rated for 5.8 W/),
    });
    expect(loadHeat(0.5, 4.7, 2, 60).state).toBe('pass');
    expect(() => loadHeat(1, 0, 1, 1)).toThrow(/received 0 ohm/);
  });
});
