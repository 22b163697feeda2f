import { describe, expect, it } from 'vitest';
import {
  cleanAirLevel,
  fitCalibration,
  fitGuided,
  fitPoint,
  FITS,
  fitsFor,
  GUIDED_FITS,
  mergeGuided,
  recommendFit,
  turnBetween,
} from '../src/calibrate/index.ts';
import { compileLine, editLine, runLine } from '../src/line/index.ts';
import type { CalibrationPoint, FitResult, ReferenceInput } from '../src/model/calibration.ts';
import type { Evidence } from '../src/model/evidence.ts';
import type { Channel } from '../src/model/gadget.ts';
import type { LineSpec } from '../src/model/line.ts';
import { effectiveCount, mean, sampleSd } from '../src/numerics/index.ts';
import { briefFor, TEMPLATES, toleranceIn } from '../src/plan/index.ts';
import { referenceValue } from '../src/references/index.ts';
import { createWorld, FAMILIES, type World } from '../src/simulate/index.ts';
import { UNITS, type UnitId } from '../src/units/index.ts';

// Every gadget of the mill, with the hidden constants of the demo, is trued up by the steps that its page offers, and must
// then read within its brief against what stands beside it. What the world hides is never looked at.

function bench(family: number) {
  const template = TEMPLATES.find((t) => t.family === family)!;
  const gadget = {
    ...template.make(),
    id: 'g',
    version: 1,
    name: '',
    template: template.id,
    createdAt: '',
    updatedAt: '',
  };
  const world = createWorld(FAMILIES.find((f) => f.family === family)!.draw(640 + family));
  const rate = gadget.sampleRateHz;
  const context = { sampleRateHz: rate };
  let now = 0;
  /** Lets the world run under a condition; its columns by name. */
  const run = (condition: string, seconds: number) => {
    world.setCondition(condition);
    const n = Math.round(seconds * rate);
    const times = new Float64Array(n);
    const columns = new Map(world.columns.map((c) => [c, new Float64Array(n)]));
    for (let i = 0; i < n; i++) {
      const row = world.step(1 / rate);
      times[i] = now += 1 / rate;
      world.columns.forEach((c, k) => (columns.get(c)![i] = row[k]!));
    }
    return { times, columns };
  };
  const channel = (id: string) => gadget.channels.find((c) => c.id === id)!;
  return {
    gadget,
    world,
    rate,
    context,
    run,
    channel,
    tolerance: (c: Channel, unit: UnitId) => toleranceIn(briefFor(gadget, c), unit)!,
    /** Readings of a line over a stretch. */
    through(spec: LineSpec, data: ReturnType<typeof run>) {
      const line = compileLine(spec, context);
      const lanes = spec.sources.map((s) => ({
        values: data.columns.get(s.column)!,
        reasons: new Uint8Array(data.times.length),
      }));
      const [out] = runLine(line, { length: data.times.length, times: data.times, lanes });
      return { unit: line.outputs[0]!.unit, times: out!.times, values: out!.lanes[0]!.values };
    },
  };
}
type Bench = ReturnType<typeof bench>;

const beside = (world: World, title: string) => world.instruments().find((i) => i.title.startsWith(title))!;

/** Keeps points of one column against references, as the capture card does. */
function points(
  b: Bench,
  channel: Channel,
  steps: readonly (readonly [
    condition: string,
    settleS: number,
    reference: (world: World) => ReferenceInput,
  ])[],
): CalibrationPoint[] {
  const unit = compileLine(channel.line, b.context).outputs[0]!.unit;
  return steps.map(([condition, settleS, referenceOf], i) => {
    b.run(condition, settleS);
    const values = b.run(condition, 12).columns.get(channel.line.sources[0]!.column)!;
    const reference = referenceOf(b.world);
    return {
      id: `p${i}`,
      channelId: channel.id,
      role: 'fit',
      reference,
      worth: referenceValue(reference, unit),
      capture: {
        mean: mean(values),
        sd: sampleSd(values),
        n: values.length,
        nEffective: effectiveCount(values),
        durationS: 12,
      },
      excluded: null,
      keptAt: '2026-01-01T00:00:00Z',
    };
  });
}

/** The fit that is advised for the points, or the one asked for. */
function fitted(b: Bench, channel: Channel, kept: readonly CalibrationPoint[], wanted?: string): LineSpec {
  const unit = compileLine(channel.line, b.context).outputs[0]!.unit;
  const given = kept.map((p) => fitPoint(p, unit));
  const results = fitsFor(channel.line)
    .map((kind) => fitCalibration(kind, channel.line, b.context, given))
    .filter((r): r is FitResult => typeof r !== 'string' && r.converged);
  const id = wanted ?? recommendFit(results, b.tolerance(channel, unit))?.fit;
  const result = results.find((r) => r.fit === id);
  if (!result) throw new Error(`No fit ${id ?? ''} for ${channel.name}: ${FITS.map((f) => f.id).join()}`);
  return editLine(channel.line, result.edits);
}

function guided(
  b: Bench,
  line: LineSpec,
  steps: readonly (readonly [fit: string, evidence: readonly Evidence[]])[],
): LineSpec {
  let used: FitResult | null = null;
  for (const [id, evidence] of steps) {
    const fit = GUIDED_FITS.find((f) => f.id === id)!;
    const kept = evidence.map((e, i) => ({ id: `e${i}`, evidence: e, excluded: null }));
    const result = fitGuided(fit, line, kept, b.context);
    if (typeof result === 'string') throw new Error(result);
    used = mergeGuided(used, result);
  }
  return editLine(line, used!.edits);
}

const instrument =
  (title: string) =>
  (world: World): ReferenceInput => {
    const { value, uncertainty } = beside(world, title);
    return { kind: 'instrument', reading: value, uncertainty };
  };

/** The mean reading against the truth, in the reading's unit. */
function expectWithin(
  b: Bench,
  channel: Channel,
  line: LineSpec,
  data: ReturnType<Bench['run']>,
  truth: number,
) {
  const { unit, values } = b.through(line, data);
  const good = values.filter(Number.isFinite);
  expect(good.length).toBeGreaterThan(0);
  const error = mean(good) - truth;
  expect(
    Math.abs(error),
    `${channel.name}: ${mean(good)} ${UNITS[unit].symbol} for ${truth}`,
  ).toBeLessThanOrEqual(b.tolerance(channel, unit));
}

describe('each of the fourteen is trued up to within its brief', () => {
  it('1, gas: clean air once warm, then one known dose', () => {
    const b = bench(1);
    b.run('clean', 600);
    for (const channel of b.gadget.channels) {
      const dose = channel.id === 'ferment' ? 'ferment' : channel.id;
      const title = `${channel.name} dose in the test box`;
      const level = cleanAirLevel(channel.line, b.context)!;
      const kept = points(b, channel, [
        ['clean', 60, () => ({ kind: 'clean-air', ppm: level, within: 0.2 * level })],
        [dose, 60, instrument(title)],
      ]);
      const line = fitted(b, channel, kept, 'power-law');
      b.run(dose, 60);
      expectWithin(b, channel, line, b.run(dose, 20), beside(b.world, title).value);
    }
  });

  it('2, finish gate: the board at the taped mark', () => {
    const b = bench(2);
    const channel = b.channel('gate');
    const kept = points(b, channel, [
      ['target', 5, () => ({ kind: 'length', metres: 1, toleranceM: 0.002, placementM: 0.002 })],
    ]);
    expectWithin(b, channel, fitted(b, channel, kept, 'air-temperature'), b.run('target', 5), 1);
  });

  it.each([3, 8])('%i, three axes: six rests', (family) => {
    const b = bench(family);
    const sides = ['z-up', 'z-down', 'x-up', 'x-down', 'y-up', 'y-down'];
    const rests = sides.map((side): Evidence => {
      const { columns } = b.run(side, 3);
      const all = ['ax', 'ay', 'az'].map((c) => columns.get(c)!);
      return {
        kind: 'rest',
        raw: all.map((v) => mean(v)) as [number, number, number],
        u: Math.max(...all.map((v) => sampleSd(v) / Math.sqrt(v.length))),
      };
    });
    for (const channel of b.gadget.channels) {
      const whole = guided(b, channel.line, [['six-rests', rests]]);
      // What the shaker's strokes are counted in lets nothing through that rests.
      const line = { ...whole, stages: whole.stages.filter((s) => s.kind !== 'butterworth-bandpass') };
      for (const side of sides) {
        const [axis, way] = side.split('-') as [string, string];
        const along = channel.id === 'shake' ? 'x' : channel.id;
        const truth = along === axis ? (way === 'up' ? 1 : -1) : 0;
        expectWithin(b, channel, line, b.run(side, 2), truth);
      }
    }
  });

  it('4, generator: middle without load, lag and scale on lamps', () => {
    const b = bench(4);
    const waves = (condition: string) => {
      b.run(condition, 1);
      const { columns } = b.run(condition, 3);
      return { voltage: [...columns.get('v')!], current: [...columns.get('i')!] };
    };
    const idle = waves('no-load');
    const lamp = waves('lamp');
    const shown = (title: string) => {
      const { value, uncertainty } = beside(b.world, title);
      return { value, uncertainty };
    };
    const volts = shown('Reference meter, voltage');
    const amperes = shown('Reference meter, current');
    for (const channel of b.gadget.channels) {
      const line = guided(b, channel.line, [
        ['ac-middle', [{ kind: 'ac-middle', ...idle }]],
        ['ac-lag', [{ kind: 'ac-lag', ...lamp }]],
        ['ac-scale', [{ kind: 'ac-scale', ...lamp, volts, amperes }]],
      ]);
      b.run('lamp', 1);
      const watts = volts.value * amperes.value;
      // No meter for the frequency stands beside it; the wheel keeps it between 35 and 50 Hz.
      if (channel.id === 'hz') {
        const { values } = b.through(line, b.run('lamp', 4));
        for (const v of values.filter(Number.isFinite)) expect(Math.abs(v - 42.5)).toBeLessThan(7.5);
        continue;
      }
      const truth = { v: volts.value, i: amperes.value, p: watts, va: watts, pf: 1 }[channel.id]!;
      expectWithin(b, channel, line, b.run('lamp', 4), truth);
      if (channel.id === 'pf') continue;
      b.run('no-load', 1);
      const idleTruth = channel.id === 'v' ? volts.value : 0;
      expectWithin(b, channel, line, b.run('no-load', 4), idleTruth);
    }
  });

  it.each([
    [5, 'running', 'Reference clock', 60, 90],
    [10, 'running', 'Strobe lamp', 60, 60],
  ] as const)('%i, a rate against what stands beside it', (family, condition, title, settle, seconds) => {
    const b = bench(family);
    const channel = b.gadget.channels[0]!;
    b.run(condition, settle);
    const { unit, values } = b.through(channel.line, b.run(condition, seconds));
    const good = values.filter(Number.isFinite);
    const { scale } = UNITS[unit];
    const truth = beside(b.world, title);
    const line = guided(b, channel.line, [
      [
        'time-base',
        [
          {
            kind: 'rate',
            title,
            referenceHz: truth.value * scale,
            uncertaintyHz: truth.uncertainty * scale,
            readingHz: mean(good) * scale,
            uReadingHz: (sampleSd(good) / Math.sqrt(effectiveCount(good))) * scale,
            seconds,
          },
        ],
      ],
    ]);
    expectWithin(b, channel, line, b.run(condition, seconds), beside(b.world, title).value);
  });

  it('6, hammer: masses up', () => {
    const b = bench(6);
    const channel = b.channel('blow');
    const weight = (kilograms: number) => (): ReferenceInput => ({
      kind: 'weight-force',
      kilograms,
      toleranceKg: 0.002,
      latitudeDeg: 50,
      elevationM: 640,
    });
    const kept = points(b, channel, [
      ['empty', 1, () => ({ kind: 'nothing', within: 0.1, what: 'No load' })],
      ['5kg', 1, weight(5)],
      ['10kg', 1, weight(10)],
      ['20kg', 1, weight(20)],
    ]);
    const line = fitted(b, channel, kept);
    expectWithin(b, channel, line, b.run('10kg-down', 2), 98.07);
    expectWithin(b, channel, line, b.run('empty', 2), 0);
  });

  it('7, dye: dark and blank; twice the dye is twice the absorbance; a dilution series tells the strength', () => {
    const b = bench(7);
    const counts = (condition: string) => {
      b.run(condition, 2);
      return b.run(condition, 10).columns;
    };
    const [dark, blank] = [counts('dark'), counts('blank')];
    const conditions = b.world.conditions.filter((c) => c.title.startsWith('Standard'));
    const lit = (line: LineSpec): LineSpec => {
      const { column } = line.sources[0]!;
      const params = { dark: mean(dark.get(column)!), blank: mean(blank.get(column)!) };
      return {
        ...line,
        stages: line.stages.map((s) =>
          s.kind === 'absorbance' ? { ...s, params: { ...s.params, ...params } } : s,
        ),
      };
    };
    for (const channel of b.gadget.channels.filter((c) => c.askId === 'dye')) {
      const line = lit(channel.line);
      expectWithin(b, channel, line, b.run('blank', 5), 0);
      const shown = conditions.map(({ id }) => {
        b.run(id, 2);
        const read = b.through(line, b.run(id, 10)).values;
        return { c: beside(b.world, 'Concentration').value, a: mean(read) };
      });
      // Absorbance is proportional to concentration: each standard tells of every other.
      const slope = shown.reduce((s, p) => s + p.c * p.a, 0) / shown.reduce((s, p) => s + p.c ** 2, 0);
      for (const p of shown.filter((q) => q.a < 2))
        expect(Math.abs(p.a - slope * p.c)).toBeLessThan(b.tolerance(channel, 'absorbance'));
    }
    const strength = { ...b.channel('strength'), line: lit(b.channel('strength').line) };
    const standard = (mgL: number) =>
      [
        `standard-${mgL}`,
        2,
        (): ReferenceInput => ({
          kind: 'dilution',
          stock: 100,
          stockPercent: 1,
          steps: [{ taken: mgL, madeUpTo: 100, takenPercent: 1, madeUpPercent: 0.5 }],
        }),
      ] as const;
    const series = points(b, strength, [
      ['blank', 2, () => ({ kind: 'nothing', within: 0.01, what: 'Blank' })],
      ...[2, 5, 20, 40].map(standard),
    ]);
    const line = fitted(b, strength, series);
    b.run('standard-10', 2);
    expectWithin(b, strength, line, b.run('standard-10', 5), 10);
  });

  it('9, cells: volts and amperes by the meter, at rest, emptying and charging', () => {
    const b = bench(9);
    for (const [id, title] of [
      ['v', 'Reference meter, voltage'],
      ['i', 'Reference meter, current'],
    ] as const) {
      const channel = b.channel(id);
      const kept = points(
        b,
        channel,
        ['rest', 'discharge', 'charge'].map((c) => [c, 20, instrument(title)] as const),
      );
      const line = fitted(b, channel, kept, 'gain-offset');
      for (const condition of ['discharge', 'rest', 'charge']) {
        b.run(condition, 20);
        expectWithin(b, channel, line, b.run(condition, 10), beside(b.world, title).value);
      }
    }
  });

  it('11, punt: still, and beside the second receiver', () => {
    const b = bench(11);
    const channel = b.channel('punt');
    const kept = points(b, channel, [
      ['still', 5, () => ({ kind: 'nothing', within: 0.1, what: 'Tied to the jetty' })],
    ]);
    const line = fitted(b, channel, kept, 'offset');
    b.run('still', 5);
    expectWithin(b, channel, line, b.run('still', 10), 0);
    b.run('sprint', 25);
    const data = b.run('sprint', 4);
    expectWithin(b, channel, line, data, 3.6 * beside(b.world, 'Comparison receiver').value);
  });

  it('12, vane: iron out by turning, mounting by two landmarks, right through north', () => {
    const b = bench(12);
    const channel = b.channel('vane');
    const { columns } = b.run('rotate', 60);
    const rows = [...columns.get('mx')!].map(
      (x, i) => [x, columns.get('my')![i]!, columns.get('mz')![i]!] as [number, number, number],
    );
    const turn: [string, Evidence[]] = ['turned', [{ kind: 'cloud', rows }]];
    const iron = guided(b, channel.line, [turn]);
    const along = (course: string, line: LineSpec) => {
      b.run(course, 1);
      const { values } = b.through(line, b.run(course, 3));
      const [x, y] = [Math.cos, Math.sin].map((f) => mean(values.map((v) => f((v * Math.PI) / 180))));
      return ((Math.atan2(y!, x!) * 180) / Math.PI + 360) % 360;
    };
    const bearing = (course: string, referenceDeg: number): Evidence => ({
      kind: 'bearing',
      title: course,
      shownDeg: along(course, iron),
      uShownDeg: 0.1,
      referenceDeg,
      uncertaintyDeg: 1,
    });
    const line = guided(b, channel.line, [turn, ['landmark', [bearing('north', 0), bearing('south', 180)]]]);
    for (const [course, truth] of [
      ['north', 0],
      ['east', 90],
      ['south', 180],
      ['west', 270],
    ] as const)
      expect(Math.abs(turnBetween(along(course, line), truth))).toBeLessThan(b.tolerance(channel, 'deg'));
  });

  it('13, cloth: drags there and back', () => {
    const b = bench(13);
    const channel = b.channel('cloth');
    const drag = (condition: string): Evidence => {
      const { columns } = b.run(condition, 7);
      b.run('still', 1);
      const sum = (c: string) => columns.get(c)!.reduce((s, v) => s + v, 0);
      return {
        kind: 'drag',
        counts: [sum('dx'), sum('dy')],
        lengthMm: 300,
        toleranceMm: 0.2,
        placementMm: 0.3,
      };
    };
    const line = guided(b, channel.line, [
      ['drags', ['drag-x', 'drag-x-back', 'drag-x', 'drag-y'].map(drag)],
    ]);
    const { values } = b.through(line, b.run('drag-x', 7));
    expect(Math.abs(values.at(-1)! - 0.3)).toBeLessThan(b.tolerance(channel, 'm'));
  });

  it('14, kiln: ice, room, bath and boiling water', () => {
    const b = bench(14);
    const boiling = (world: World): ReferenceInput => ({
      kind: 'boiling-pressure',
      pressureHpa: world.instruments().find((i) => i.unit === 'hPa')!.value,
      uncertaintyHpa: 1,
    });
    for (const channel of b.gadget.channels.slice(0, 2)) {
      const kept = points(b, channel, [
        ['ice', 90, () => ({ kind: 'ice-slurry' })],
        ['room', 120, instrument('Reference thermometer')],
        ['hot', 120, instrument('Reference thermometer')],
        ['boiling', 120, boiling],
      ]);
      const line = fitted(b, channel, kept);
      b.run('warm', 120);
      const warm = b.run('warm', 12);
      expectWithin(b, channel, line, warm, beside(b.world, 'Reference thermometer').value);
    }
  });
});
