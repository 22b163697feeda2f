import { describe, expect, it } from 'vitest';
import { fitEllipsoid, fitPhaseTrim, fitSixPosition, type Rest } from '../src/calibrate/index.ts';
import {
  detectAll,
  pulses,
  streamPeaks,
  summariseBeats,
  beats,
  type Beat,
  type PeakEvent,
  type Pulse,
} from '../src/detect/index.ts';
import { compileLine, lanesOf, runLine } from '../src/line/index.ts';
import type { LineSpec, StageSpec } from '../src/model/line.ts';
import { mean } from '../src/numerics/index.ts';
import {
  createWorld,
  FAMILIES,
  puntSpeed,
  VANE_COUNTS,
  withFaults,
  type World,
  type WorldTruth,
} from '../src/simulate/index.ts';
import type { UnitId } from '../src/units/index.ts';

type TruthOf<K extends WorldTruth['kind']> = Extract<WorldTruth, { kind: K }>;
const truthOf = <K extends WorldTruth['kind']>(family: number, seed = 3) =>
  FAMILIES.find((f) => f.family === family)!.draw(seed) as TruthOf<K>;

/** Lets the world run and gives its columns. */
function record(world: Pick<World, 'columns' | 'step'>, seconds: number, rateHz: number) {
  const n = Math.round(seconds * rateHz);
  const columns = world.columns.map(() => new Float64Array(n));
  const times = Float64Array.from({ length: n }, (_, i) => (i + 1) / rateHz);
  for (let i = 0; i < n; i++) world.step(1 / rateHz).forEach((v, k) => (columns[k]![i] = v));
  return { times, columns };
}

function in_(world: World, condition: string, seconds: number, rateHz: number) {
  world.setCondition(condition);
  return record(world, seconds, rateHz);
}

const stage = (id: string, kind: string, params: StageSpec['params']): StageSpec => ({
  id,
  kind,
  params,
  uncertainty: {},
  off: false,
});
const lineOf = (units: readonly UnitId[], ...stages: StageSpec[]): LineSpec => ({
  sources: units.map((unit, k) => ({ column: `c${k}`, unit })),
  stages,
});
const through = (spec: LineSpec, { times, columns }: ReturnType<typeof record>, sampleRateHz: number) =>
  runLine(compileLine(spec, { sampleRateHz }), lanesOf(times, columns))[0]!;
const late = (values: Float64Array) => mean(values.slice(Math.floor(values.length / 2)));

describe('every family', () => {
  it('is there, fourteen of them', () =>
    expect(FAMILIES.map((f) => f.family)).toEqual(Array.from({ length: 14 }, (_, i) => i + 1)));

  it.each(FAMILIES.map((f) => [f.title, f] as const))(
    '%s: seeded, in every condition, with instruments',
    (_title, family) => {
      const [a, b] = [createWorld(family.draw(5)), createWorld(family.draw(5))];
      for (const { id } of a.conditions) {
        a.setCondition(id);
        b.setCondition(id);
        for (let i = 0; i < 20; i++) {
          const values = a.step(1 / family.sampleRateHz);
          expect(values).toHaveLength(a.columns.length);
          expect(values.every(Number.isFinite)).toBe(true);
          expect(b.step(1 / family.sampleRateHz)).toEqual(values);
        }
        expect(a.instruments().every((i) => Number.isFinite(i.value) && i.uncertainty > 0)).toBe(true);
      }
      expect(() => a.setCondition('elsewhere')).toThrow(/Unknown condition “elsewhere”.*Choose/);
      expect(family.draw(6)).not.toEqual(family.draw(5));
    },
  );
});

describe('what the worlds hold, found through lines and fits', () => {
  it('gas: useless cold, right when warm, and answers on the other channel', () => {
    const truth = truthOf<'gas-watch'>(1);
    const e = truth.elements[0]!;
    const line = (cleanOhm: number) =>
      lineOf(
        ['count'],
        stage('a', 'adc', { bits: 12, referenceV: 3.3, gives: 'volt' }),
        stage('l', 'load-resistor', { loadOhm: e.loadOhm, supplyV: truth.supplyV }),
        stage('r', 'ratio-to-baseline', { baseline: cleanOhm, factor: 1 }),
        stage('p', 'power-law', { factor: e.backgroundPpm, exponent: -1 / e.steepness, to: 'ppm' }),
      );
    const first = (r: ReturnType<typeof record>) => ({ times: r.times, columns: [r.columns[0]!] });
    const world = createWorld(truth);
    const cold = through(line(e.cleanOhm), first(record(world, 5, 2)), 2).lanes[0]!.values;
    expect(late(cold)).toBeLessThan(0.2 * e.backgroundPpm);
    record(world, 900, 2);
    const dose = through(line(e.cleanOhm), first(in_(world, 'ferment', 60, 2)), 2).lanes[0]!.values;
    expect(late(dose) / truth.doses[0]).toBeCloseTo(1, 1);
    in_(world, 'clean', 60, 2);
    expect(
      late(through(line(e.cleanOhm), first(in_(world, 'ammonia', 60, 2)), 2).lanes[0]!.values),
    ).toBeLessThan(10);
  });

  it('finish gate: distance by the air’s temperature', () => {
    const truth = truthOf<'finish-gate'>(2);
    const world = createWorld(truth);
    const spec = (airC: number) =>
      lineOf(
        ['us'],
        stage('t', 'time-of-flight', { airC, path: 'there and back', offsetM: 0, from: 'us' }),
        stage('m', 'moving-median', { width: 3 }),
      );
    const target = in_(world, 'target', 20, 25);
    const echo = { times: target.times, columns: [target.columns[0]!] };
    expect(late(through(spec(truth.airC), echo, 25).lanes[0]!.values)).toBeCloseTo(truth.targetM, 3);
  });

  it('sieve: six rests give the matrix, strokes are counted, handling gives none', () => {
    const truth = truthOf<'three-axes'>(3);
    const world = createWorld(truth);
    const rests: Rest[] = ['z-up', 'z-down', 'x-up', 'x-down', 'y-up', 'y-down'].map((id) => {
      const { columns } = in_(world, id, 4, 50);
      return {
        raw: columns.map((c) => mean(c)) as unknown as Rest['raw'],
        u: truth.noiseCounts / Math.sqrt(200),
      };
    });
    const fit = fitSixPosition(rests, 1);
    if (typeof fit === 'string') throw new Error(fit);
    fit.offset.forEach((v, k) =>
      expect(Math.abs(v - truth.offset[k]!)).toBeLessThan(4 * Math.sqrt(fit.spread.covariance[k]![k]!)),
    );
    const spec = lineOf(
      ['count', 'count', 'count'],
      stage('v', 'vector-correction', { offset: fit.offset, matrix: fit.matrix, to: 'gn' }),
      stage('c', 'pick-column', { column: 1 }),
      stage('b', 'butterworth-bandpass', { order: 2, lowHz: 0.6, highHz: 4 }),
    );
    const count = (condition: string) => {
      const raw = in_(world, condition, 60, 50);
      const peaks = detectAll<PeakEvent>(
        (emit) => streamPeaks({ height: 0.3, prominence: 0.6, minIntervalS: 0.3 }, emit),
        raw.times,
        through(spec, raw, 50).lanes[0]!.values,
      );
      return peaks.length;
    };
    expect(Math.abs(count('shaking') - truth.strokesPerMin)).toBeLessThanOrEqual(2);
    expect(count('handling')).toBeLessThanOrEqual(1);
  });

  it('generator: the phase trim brings the lamp’s power factor to one, and the motor’s to its own', () => {
    const truth = truthOf<'generator'>(4);
    const world = createWorld(truth);
    const lamp = in_(world, 'lamp', 2, 2000);
    const trim = fitPhaseTrim(lamp.columns[0]!, lamp.columns[1]!, 2000);
    if (typeof trim === 'string') throw new Error(trim);
    expect(Math.abs(trim.currentDelayUs - truth.currentDelayS * 1e6)).toBeLessThan(4 * trim.u + 3);
    const spec = (currentDelayUs: number) =>
      lineOf(
        ['count', 'count'],
        stage('p', 'ac-power', {
          voltsPerUnit: 1 / truth.countsPerVolt,
          voltageBias: truth.voltageBias,
          amperesPerUnit: 1 / truth.countsPerAmpere,
          currentBias: truth.currentBias,
          currentDelayUs,
          cycles: 10,
          deadBandV: 2,
        }),
      );
    const power = through(spec(trim.currentDelayUs), lamp, 2000).lanes.map((l) => late(l.values));
    expect(power[0]! / truth.volts).toBeCloseTo(1, 3);
    expect(power[4]).toBeCloseTo(1, 3);
    const motor = through(spec(trim.currentDelayUs), in_(world, 'motor', 2, 2000), 2000).lanes.map((l) =>
      late(l.values),
    );
    expect(motor[4]).toBeCloseTo(Math.cos((truth.motorPhaseDeg * Math.PI) / 180), 1);
    // Taken as constant, the voltage would still be right here, but noise must not show as consumption at no load.
    const idle = through(spec(trim.currentDelayUs), in_(world, 'no-load', 2, 2000), 2000).lanes.map((l) =>
      late(l.values),
    );
    expect(Math.abs(idle[2]!)).toBeLessThan(0.05);
    // Standing still is no fault: no volts, no hertz, and no power factor of nothing.
    const stopped = through(spec(0), in_(world, 'stopped', 3, 2000), 2000).lanes.map((l) => late(l.values));
    expect(Math.abs(stopped[0]!)).toBeLessThan(0.3);
    expect(stopped[5]).toBe(0);
    expect(stopped[4]).toBeNaN();
  });

  it('pendulum: the period comes out to a few parts in a hundred thousand', () => {
    const truth = truthOf<'pendulum'>(5);
    const raw = record(createWorld(truth), 120, 100);
    const spec = lineOf(['count'], stage('b', 'butterworth-bandpass', { order: 1, lowHz: 0.5, highHz: 15 }));
    const found = detectAll<Beat>(
      (emit) => beats({ refractoryS: 0.4, memoryS: 4, level: 0.5, minHeight: 150 }, emit),
      raw.times,
      through(spec, raw, 100).lanes[0]!.values,
    );
    const summary = summariseBeats(
      found.slice(4).map((b) => b.timeS),
      1,
    )!;
    expect(summary.missed + summary.doubled).toBe(0);
    expect(summary.perMinute / (120 / truth.periodS)).toBeCloseTo(1, 4);
  });

  it('hammer: masses find the gain, and a slow converter loses the blow', () => {
    const truth = truthOf<'blow-meter'>(6);
    const world = createWorld(truth);
    const [empty, ten] = ['empty', '10kg'].map((id) => mean(in_(world, id, 2, 1000).columns[0]!));
    expect((ten! - empty!) / 10 / truth.countsPerKg).toBeCloseTo(1, 3);
    const peak = (w: Pick<World, 'columns' | 'step'>) => {
      const { times, columns } = record(w, 20, 2000);
      const newtons = columns[0]!.map((c) => ((c - truth.zero) / truth.countsPerKg) * truth.gravity);
      return detectAll<Pulse>((emit) => pulses({ level: 100, hysteresis: 50 }, emit), times, newtons);
    };
    world.setCondition('blows');
    const fast = peak(world);
    expect(fast).toHaveLength(5);
    expect(mean(fast.map((p) => p.peak)) / truth.blowN).toBeCloseTo(1, 0);
    expect(mean(fast.map((p) => p.widthS)) / truth.blowS).toBeCloseTo(1, 0);
    const slow = withFaults(createWorld(truth), [{ kind: 'slow-converter', rateHz: 10 }], 1);
    slow.setCondition('blows');
    const missed = peak({ columns: slow.columns, step: (dt) => slow.step(dt)! });
    expect(missed.length).toBeLessThan(3);
  });

  it('dye: the series is a straight line, and the vat comes out', () => {
    const truth = truthOf<'dye-checker'>(7);
    const world = createWorld(truth);
    const means = (id: string) => in_(world, id, 10, 2).columns.map((c) => mean(c));
    const [dark, blank] = [means('dark'), means('blank')];
    const k = 1;
    const spec = lineOf(
      ['count'],
      stage('a', 'absorbance', { dark: dark[k]!, blank: blank[k]!, fullScale: 65535, gives: 'absorbance' }),
      stage('c', 'concentration', { slope: truth.lamps[k]!.perMgL, intercept: 0, dilution: 10, to: 'mgL' }),
    );
    const vat = in_(world, 'vat-diluted', 20, 2);
    const found = through(spec, { times: vat.times, columns: [vat.columns[k]!] }, 2).lanes[0]!.values;
    expect(mean(found) / truth.vatMgL).toBeCloseTo(1, 1);
    expect(
      through(
        spec,
        { times: vat.times, columns: [in_(world, 'lid-open', 20, 2).columns[k]!] },
        2,
      ).lanes[0]!.reasons.every((r) => r !== 0),
    ).toBe(true);
  });

  it('cell: the load step gives the internal resistance, empty and reversed read as such', () => {
    const truth = truthOf<'cell-bench'>(9);
    const world = createWorld(truth);
    const volts = (c: Float64Array) =>
      ((mean(c) / 4095) * truth.referenceV - truth.liftV) * truth.dividerRatio;
    const amps = (c: Float64Array) =>
      ((mean(c) / 4095) * truth.referenceV - truth.referenceV / 2) / (truth.shuntOhm * truth.shuntGain);
    const rest = in_(world, 'rest', 5, 10);
    const load = in_(world, 'discharge', 5, 10);
    const i = amps(load.columns[1]!);
    expect((volts(rest.columns[0]!) - volts(load.columns[0]!)) / i / truth.internalOhm).toBeCloseTo(1, 0);
    expect(Math.abs(volts(in_(world, 'empty', 2, 10).columns[0]!))).toBeLessThan(0.02);
    // Below what the divider stands on: cut off.
    expect(Math.max(...in_(world, 'reversed', 2, 10).columns[0]!)).toBe(0);
    in_(world, 'discharge', 3 * 3600, 1);
    expect(volts(in_(world, 'rest', 5, 1).columns[0]!)).toBeLessThan(3);
  });

  it('spindle: period and gate agree with the strobe; a loose magnet makes it read slow', () => {
    const truth = truthOf<'spindle'>(10);
    const world = createWorld(truth);
    in_(world, 'running', 60, 50);
    const { times, columns } = record(world, 30, 50);
    const gate = through(
      lineOf(['count'], stage('g', 'gate-rate', { marks: 4, gateS: 5, to: 'rpm' })),
      { times, columns: [columns[0]!] },
      50,
    );
    expect(Math.abs(late(gate.lanes[0]!.values) - truth.rpm)).toBeLessThan(3.1);
    // A row an edge: keep the stamps that are new.
    const fresh = [...columns[1]!].filter((v, i, all) => i > 0 && v !== all[i - 1]);
    const stamps = Float64Array.from(fresh);
    const period = through(
      lineOf(
        ['us'],
        stage('p', 'period-rate', { marks: 4, over: 'one turn', deadTimeS: 0.002, from: 'us', to: 'rpm' }),
      ),
      { times: stamps.map((t) => t / 1e6), columns: [stamps] },
      50,
    );
    expect(late(period.lanes[0]!.values) / truth.rpm).toBeCloseTo(1, 3);
    const loose = withFaults(createWorld(truth), [{ kind: 'loose-magnet', column: 'edges', share: 0.25 }], 2);
    loose.setCondition('running');
    for (let i = 0; i < 3000; i++) loose.step(0.02);
    const from = loose.step(0.02)![0]!;
    for (let i = 0; i < 1500; i++) loose.step(0.02);
    expect(((loose.step(0.02)![0]! - from) / 4 / 30) * 60).toBeLessThan(0.9 * truth.rpm);
  });

  it('punt: the time to a set speed comes by interpolation between fixes', () => {
    const truth = truthOf<'punt-sprint'>(11);
    const { times, columns } = in_(createWorld(truth), 'sprint', 30, 5);
    const wanted = 2;
    const at = -truth.buildUpS * Math.log(1 - wanted / truth.topSpeed) + 2;
    expect(puntSpeed(truth, at - 2)).toBeCloseTo(wanted, 9);
    const k = columns[2]!.findIndex((v) => v >= wanted);
    const crossing =
      times[k - 1]! + ((wanted - columns[2]![k - 1]!) / (columns[2]![k]! - columns[2]![k - 1]!)) * 0.2;
    expect(Math.abs(crossing - at)).toBeLessThan(0.3);
  });

  it('vane: the table alone is refused; turned all round, headings are right through north', () => {
    const truth = truthOf<'wind-vane'>(12);
    const world = createWorld(truth);
    const cloud = (id: string) => {
      const { columns } = in_(world, id, 60, 20);
      return Array.from(columns[0]!, (_, i) => [columns[0]![i]!, columns[1]![i]!, columns[2]![i]!] as const);
    };
    expect(fitEllipsoid(cloud('half'))).toMatch(/z/);
    const fit = fitEllipsoid(cloud('rotate'), truth.fieldUt * VANE_COUNTS.uT);
    if (typeof fit === 'string') throw new Error(fit);
    fit.offset.forEach((v, k) => expect(Math.abs(v - truth.hard[k]!)).toBeLessThan(6 * fit.offsetSd[k]! + 1));
    for (const [id, expected] of [
      ['north', 0],
      ['east', 90],
      ['south', 180],
      ['west', 270],
    ] as const) {
      const { columns } = in_(world, id, 5, 20);
      const m = columns.slice(0, 3).map((c) => mean(c));
      const corrected = [0, 1, 2].map((r) =>
        [0, 1, 2].reduce((s, c) => s + fit.matrix[3 * r + c]! * (m[c]! - fit.offset[c]!), 0),
      );
      const spec = lineOf(
        ['count', 'count', 'count', 'count', 'count', 'count'],
        stage('h', 'heading', { declinationDeg: truth.declinationDeg, mountingDeg: 0 }),
      );
      const a = columns.slice(3).map((c) => mean(c));
      const [tap] = runLine(
        compileLine(spec, { sampleRateHz: 20 }),
        lanesOf(
          Float64Array.of(0),
          [...corrected, ...a].map((v) => Float64Array.of(v)),
        ),
      );
      const off = Math.abs(tap!.lanes[0]!.values[0]! - expected);
      expect(Math.min(off, 360 - off)).toBeLessThan(2);
    }
  });

  it('cloth: drags along the rule give counts a millimetre for each axis; too fast is lost', () => {
    const truth = truthOf<'cloth-roller'>(13);
    const world = createWorld(truth);
    const total = (id: string, k: number) => in_(world, id, 6, 100).columns[k]!.reduce((s, v) => s + v, 0);
    expect(total('drag-x', 0) / 300 / truth.perMmX).toBeCloseTo(1, 2);
    expect(total('drag-x-back', 0) / -300 / truth.perMmX).toBeCloseTo(1, 2);
    expect(total('drag-y', 1) / 300 / truth.perMmY).toBeCloseTo(1, 2);
    expect(total('too-fast', 0) / 300 / truth.perMmX).toBeLessThan(0.6);
    expect(total('still', 0)).toBe(0);
  });
});

describe('faults', () => {
  const world = () => createWorld(FAMILIES[13]!.draw(1));
  const run = (faults: Parameters<typeof withFaults>[1], n = 200) => {
    const broken = withFaults(world(), faults, 4);
    return Array.from({ length: n }, () => broken.step(0.1));
  };
  const plain = () => {
    const w = world();
    return Array.from({ length: 200 }, () => w.step(0.1));
  };

  it('change what they say and nothing else', () => {
    const good = plain();
    expect(run([])).toEqual(good);
    expect(run([{ kind: 'swapped-divider', column: 'p2', fullScale: 1023 }]).map((r) => r![1])).toEqual(
      good.map((r) => 1023 - r[1]!),
    );
    expect(run([{ kind: 'clipping', column: 'p1', low: 0, high: 300 }]).every((r) => r![0]! <= 300)).toBe(
      true,
    );
    expect(run([{ kind: 'wrong-constant', column: 'p1', factor: 2 }]).map((r) => r![0])).toEqual(
      good.map((r) => 2 * r[0]!),
    );
    const lost = run([{ kind: 'drop-outs', share: 0.1 }]).filter((r) => r === null).length;
    expect(lost).toBeGreaterThan(5);
    expect(lost).toBeLessThan(40);
    const stuck = run([{ kind: 'stuck', column: 'p3', afterS: 5 }]).map((r) => r![2]!);
    expect(new Set(stuck.slice(60)).size).toBe(1);
    const cold = run([{ kind: 'warm-up-skipped', column: 'p1', excess: 0.5, settlesS: 2 }]).map(
      (r) => r![0]!,
    );
    expect(cold[0]! / good[0]![0]!).toBeGreaterThan(1.4);
    expect(cold[199]).toBe(good[199]![0]);
  });

  it('refuse a column that is not there', () => {
    expect(() => withFaults(world(), [{ kind: 'stuck', column: 'x', afterS: 1 }], 1)).toThrow(
      /Unknown column “x”.*Choose p1/,
    );
  });
});
