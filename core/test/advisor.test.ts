import { describe, expect, it } from 'vitest';
import type { ChannelBrief, FastestEvent } from '../src/model/index.ts';
import { seededRandom } from '../src/numerics/index.ts';
import {
  adviseFilters,
  compileLine,
  dataTraits,
  eventThrough,
  REASON,
  runLine,
  singleLane,
  stageFaults,
  stageKind,
} from '../src/line/index.ts';

const brief = (fastest: FastestEvent, change: Partial<ChannelBrief> = {}): ChannelBrief => ({
  id: 'a',
  quantity: 'Temperature',
  unit: 'degC',
  low: 0,
  high: 100,
  tolerance: 1,
  fastest,
  measurand: 'temperature',
  sensed: null,
  power: 'wall',
  enduranceH: null,
  surroundings: [],
  budget: null,
  readyMade: null,
  note: '',
  ...change,
});
const ramp = (ratePerS: number): FastestEvent => ({ kind: 'ramp', ratePerS });

function readings(n: number, rate: number, shape: (t: number, i: number) => number, noise = 0, seed = 1) {
  const random = seededRandom(seed);
  return Float64Array.from({ length: n }, (_, i) => shape(i / rate, i) + noise * random.normal());
}

describe('what the data holds', () => {
  it('noise, whatever slope it rides on', () => {
    const flat = dataTraits(
      readings(4000, 100, () => 20, 0.3),
      100,
      null,
    )!;
    const sloped = dataTraits(
      readings(4000, 100, (t) => 20 + 0.5 * t, 0.3),
      100,
      null,
    )!;
    expect(flat.noise / 0.3).toBeCloseTo(1, 1);
    expect(sloped.noise / 0.3).toBeCloseTo(1, 1);
    expect([flat.spikes, flat.hum, flat.wander]).toEqual([0, null, 0]);
  });

  it('spikes, counted one by one, and not taken for noise', () => {
    const spiked = readings(4000, 100, (_, i) => (i % 400 === 7 ? 60 : 20), 0.3);
    const traits = dataTraits(spiked, 100, null)!;
    expect(traits.spikes).toBe(10);
    expect(traits.noise / 0.3).toBeCloseTo(1, 1);
    // A true pulse that is as short must stay.
    expect(dataTraits(spiked, 100, { kind: 'pulse', widthS: 0.01 })!.spikes).toBe(0);
  });

  it('hum at its own frequency, or where it shows at a slow rate', () => {
    const hum = (rate: number) =>
      dataTraits(
        readings(8000, rate, (t) => 20 + 0.8 * Math.sin(2 * Math.PI * 50 * t), 0.2),
        rate,
        null,
      )!.hum;
    expect(hum(400)).toMatchObject({ mainsHz: 50, seenHz: 50, amplitude: expect.closeTo(0.8, 1) });
    expect(hum(130)).toMatchObject({ mainsHz: 50, seenHz: 50 });
    expect(hum(80)).toMatchObject({ mainsHz: 50, seenHz: 30 });
    // What is measured is no hum.
    const wave = readings(8000, 400, (t) => Math.sin(2 * Math.PI * 50 * t), 0.01);
    expect(dataTraits(wave, 400, { kind: 'tone', frequencyHz: 50 })!.hum).toBeNull();
  });

  it('wander only beside events that are no slow change', () => {
    const slow = readings(4000, 100, (t) => t / 4, 0.1);
    expect(dataTraits(slow, 100, { kind: 'tone', frequencyHz: 5 })!.wander).toBeGreaterThan(5);
    expect(dataTraits(slow, 100, ramp(1))!.wander).toBe(0);
  });

  it('nothing of too few readings, and bad ones are skipped', () => {
    expect(
      dataTraits(
        readings(100, 10, () => 1, 1),
        10,
        null,
      ),
    ).toBeNull();
    const some = readings(600, 10, () => 1, 1);
    some[5] = Number.NaN;
    expect(dataTraits(some, 10, null)!.n).toBe(599);
  });
});

describe('the advice', () => {
  /** Scatter behind an advised chain, from the data itself. */
  const scatterBehind = (
    values: Float64Array,
    rate: number,
    stages: readonly { kind: string; params: object }[],
  ) => {
    const line = compileLine(
      {
        sources: [{ column: 'x', unit: 'degC' }],
        stages: stages.map((s, i) => ({
          id: `f${i}`,
          kind: s.kind,
          params: s.params as never,
          uncertainty: {},
          off: false,
        })),
      },
      { sampleRateHz: rate },
    );
    const times = Float64Array.from(values, (_, i) => i / rate);
    const out = runLine(line, singleLane(times, values))[0]!.lanes[0]!.values.slice(1000);
    const mean = out.reduce((s, v) => s + v, 0) / out.length;
    return Math.sqrt(out.reduce((s, v) => s + (v - mean) ** 2, 0) / out.length);
  };

  it('smooths noise to a tenth of the tolerance, and says truly what is left', () => {
    const values = readings(20_000, 100, () => 20, 0.5);
    const { chains } = adviseFilters(values, 100, brief(ramp(0.01)), 'degC')!;
    expect(chains.map((c) => c.stages.map((s) => s.kind))).toEqual([['exponential'], ['moving-mean']]);
    for (const chain of chains) {
      expect(chain.noiseLeft).toBeLessThan(0.105);
      expect(scatterBehind(values, 100, chain.stages) / chain.noiseLeft).toBeCloseTo(1, 0);
    }
  });

  it('never trails the fastest change by more than a fifth of the tolerance, and says when that is not enough', () => {
    const { chains } = adviseFilters(
      readings(4000, 100, () => 20, 2),
      100,
      brief(ramp(1)),
      'degC',
    )!;
    for (const c of chains) expect(c.delayS).toBeLessThanOrEqual(0.205);
    expect(chains[0]!.stages[0]!.reason).toMatch(
      /longest time constant that 1 °C\/s allows; a tenth of the tolerance would need/,
    );
  });

  it('judges in the reading’s unit, whatever the brief’s', () => {
    const values = readings(4000, 100, () => 20, 0.5);
    const inF = brief(ramp(0.018), { unit: 'degF', tolerance: 1.8 });
    expect(adviseFilters(values, 100, inF, 'degC')!.chains[0]!.stages[0]!.params).toEqual(
      adviseFilters(values, 100, brief(ramp(0.01)), 'degC')!.chains[0]!.stages[0]!.params,
    );
    expect(adviseFilters(values, 100, brief(ramp(1)), 'hPa')).toBeNull();
  });

  it('takes spikes out first, hum by a notch or by whole periods', () => {
    const values = readings(
      20_000,
      400,
      (t, i) => 20 + Math.sin(2 * Math.PI * 50 * t) + (i % 500 === 3 ? 40 : 0),
      0.4,
    );
    const advice = adviseFilters(values, 400, brief(ramp(0.01)), 'degC')!;
    expect(advice.findings.join(' ')).toMatch(
      /40 of 20000 readings are spikes.*hum at 50 Hz with an amplitude of 1(\.0\d?)? °C/,
    );
    const kinds = advice.chains.map((c) => c.stages.map((s) => s.kind));
    expect(kinds[0]!.slice(0, 2)).toEqual(['hampel', 'notch']);
    expect(kinds[1]).toEqual(['hampel', 'moving-mean']);
    // 400 / 50 = 8 readings a period.
    expect(Number(advice.chains[1]!.stages[1]!.params['width']) % 8).toBe(0);
    for (const chain of advice.chains) expect(scatterBehind(values, 400, chain.stages)).toBeLessThan(0.15);
  });

  it('keeps a pulse’s peak and a wave’s height: the lowest cut-off that loses no more than three per cent', () => {
    for (const event of [
      { kind: 'pulse', widthS: 0.05 },
      { kind: 'tone', frequencyHz: 5 },
    ] as const) {
      const { chains } = adviseFilters(
        readings(8000, 1000, () => 20, 0.5),
        1000,
        brief(event),
        'degC',
      )!;
      const [low] = chains[0]!.stages;
      expect(low!.kind).toBe('butterworth-lowpass');
      const through = eventThrough(stageKind(low!.kind)!, low!.params, { sampleRateHz: 1000 }, event)!;
      const peak = Math.max(
        ...through.after.slice(through.after.length >> 1 > 500 && event.kind === 'tone' ? 500 : 0),
      );
      expect(peak).toBeGreaterThan(0.965);
      expect(peak).toBeLessThan(1);
    }
  });

  it('takes a wander out from below a wave', () => {
    const values = readings(8000, 100, (t) => 0.1 * t + Math.sin(2 * Math.PI * 5 * t), 0.02);
    const { chains } = adviseFilters(values, 100, brief({ kind: 'tone', frequencyHz: 5 }), 'degC')!;
    expect(chains[0]!.stages[0]).toMatchObject({ kind: 'butterworth-highpass', params: { cutoffHz: 0.63 } });
  });

  it('leaves quiet data alone', () => {
    const advice = adviseFilters(
      readings(4000, 100, () => 20, 0.01),
      100,
      brief(ramp(0.3)),
      'degC',
    )!;
    expect(advice.chains).toEqual([]);
  });
});

describe('eventThrough', () => {
  const context = { sampleRateHz: 100 };
  const smooth = stageKind('exponential')!;
  it('draws a ramp that a smoother trails by its delay', () => {
    const { timesS, before, after } = eventThrough(smooth, { timeConstantS: 0.5 }, context, ramp(2))!;
    expect(before.at(-1)).toBeCloseTo(2 * timesS.at(-1)!, 9);
    expect(before.at(-1)! - after.at(-1)!).toBeCloseTo(2 * 0.5, 1);
  });
  it('has nothing to draw for marks in time', () => {
    expect(eventThrough(smooth, { timeConstantS: 0.5 }, context, { kind: 'edges', marks: 4 })).toBeNull();
  });
});

describe('stageFaults', () => {
  const lane = (...reasons: number[]) => ({ reasons: Uint8Array.from(reasons) });
  it('charges each stage with what arises there', () => {
    const { missing, saturatedHigh, outOfDomain } = REASON;
    const found = stageFaults([
      lane(0, missing, 0, 0),
      lane(0, missing, saturatedHigh, 0),
      lane(0, missing, saturatedHigh, outOfDomain),
    ]);
    expect(found.map((f) => f.bad)).toEqual([1, 2, 3]);
    expect(found.map((f) => f.arising)).toEqual([
      [{ reason: missing, count: 1 }],
      [{ reason: saturatedHigh, count: 1 }],
      [{ reason: outOfDomain, count: 1 }],
    ]);
  });
  it('does not charge a stage that thins with what it was given', () => {
    const { missing, waiting } = REASON;
    const found = stageFaults([lane(missing, missing, 0, 0), lane(missing, waiting)]);
    expect(found[1]!.arising).toEqual([{ reason: waiting, count: 1 }]);
  });
});
